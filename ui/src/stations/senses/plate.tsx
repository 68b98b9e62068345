import { useMutation, useQuery } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { fieldRow, two } from '../../kit/looks'
import { useOwn } from '../../places/bench/whose'
import { showError } from '../../shell/message'
import { acts, answerOf, bench, type QuadView, type Schemas, server, useAct } from '../../wire/client'
import { useLive } from '../../wire/live'
import { figure } from './figure'

type Plate = Schemas['Plate']

const fields = [
  ['standsRoll', 'roll, °', 'as it stands'],
  ['standsPitch', 'pitch, °', 'as it stands'],
  ['turnedRoll', 'roll, °', 'turned half round'],
  ['turnedPitch', 'pitch, °', 'turned half round'],
] as const
type Typed = Record<(typeof fields)[number][0] | 'across' | 'along' | 'shims', string>

/**
 * A bench top is rarely level: looked at twice, once turned half round on the same spot, what stays is the bench's and what turns is the board's.
 * Shims of what is at hand make the plate level; what is left is told, and what the board's own error would cost in the air.
 */
export function LevelPlate({ quad }: { quad: QuadView }) {
  const [typed, setTyped] = useState<Typed>({
    standsRoll: '',
    standsPitch: '',
    turnedRoll: '',
    turnedPitch: '',
    across: '250',
    along: '200',
    shims: '0.1, 0.5, 1, 2',
  })
  const seen = useDeferredValue(typed)
  const [sr, sp, tr, tp, across, along] = [seen.standsRoll, seen.standsPitch, seen.turnedRoll, seen.turnedPitch, seen.across, seen.along].map(figure)
  const shims = seen.shims
    .split(/[;\s]+|,\s+|,(?=\d*\.)/)
    .filter(Boolean)
    .map((t) => figure(t) ?? Number.NaN)
  const whole = [sr, sp, tr, tp, across, along].every((x) => x !== null) && shims.every(Number.isFinite)
  const ask: Schemas['PlateAsk'] = {
    stands: { roll: sr ?? 0, pitch: sp ?? 0 },
    turned: { roll: tr ?? 0, pitch: tp ?? 0 },
    across: across ?? 0,
    along: along ?? 0,
    shims,
  }
  const plate = useQuery({
    queryKey: ['plate', ask],
    queryFn: () => answerOf(server.POST('/api/senses/plate', { body: ask })),
    enabled: whole,
    retry: false,
    placeholderData: (before) => before,
  })
  const v = whole && !plate.error ? plate.data : undefined
  const keep = useAct(quad.id, (p: Plate) => acts.typeAll(quad.id, [{ path: 'readings.senses.level', value: p.board }]))
  const own = useOwn()
  const live = useLive((s) => (own && s.live && (s.live.usb || s.live.pack) ? `${s.live.roll.toFixed(1)} ${s.live.pitch.toFixed(1)}` : ''))
  const look = (when: string) => {
    const end = when === 'as it stands' ? 'stands' : 'turned'
    const [roll, pitch] = live.split(' ')
    setTyped({ ...typed, [`${end}Roll`]: roll ?? '', [`${end}Pitch`]: pitch ?? '' })
  }
  const nose = useLive((s) => s.live?.nose ?? 0)
  const onBench = useLive((s) => own && Boolean(s.live))
  const hand = useMutation({ mutationFn: bench.things, onError: showError })
  const shim = (p: Plate) => {
    const [roll, pitch] = p.sides
    const height = (s: Schemas['PlateSide'] | undefined, plus: string) => (s ? (s.under === plus ? s.height : -s.height) : 0)
    hand.mutate({ shims: { roll: height(roll, 'left'), pitch: height(pitch, 'front'), across: ask.across, along: ask.along } })
  }
  const set = (name: keyof Typed) => (e: React.ChangeEvent<HTMLInputElement>) => setTyped({ ...typed, [name]: e.target.value })
  const input = (name: keyof Typed, label: string, wide?: boolean) => (
    <label key={name}>
      {label}
      <input type="text" inputMode="decimal" className={wide ? 'w-44!' : 'w-22!'} value={typed[name]} onChange={set(name)} />
    </label>
  )
  return (
    <div className={two}>
      <section aria-label="What was seen on the plate">
        <p className="text-soft">
          Stand the quad on a plate on the bench, motor plane parallel to it, its cable lifting nothing. Note roll and pitch; turn it half round on the same
          spot and note them again.
        </p>
        {(['as it stands', 'turned half round'] as const).map((when) => (
          <fieldset key={when} className={fieldRow} aria-label={when}>
            <span className="w-32 self-center font-semibold">{when}</span>
            {fields.filter(([, , w]) => w === when).map(([name, label]) => input(name, label))}
            {live && (
              <Button small onClick={() => look(when)}>
                As the board shows it
              </Button>
            )}
          </fieldset>
        ))}
        {onBench && (
          <Button small quiet className="mt-1.5" disabled={hand.isPending} onClick={() => hand.mutate({ nose: (nose + 180) % 360 })}>
            Have the hand turn it half round
          </Button>
        )}
        <Subhead>The plate and what is at hand</Subhead>
        <div className={fieldRow}>
          {input('across', 'feet apart, left to right, mm')}
          {input('along', 'front to rear, mm')}
          {input('shims', 'shims, mm', true)}
        </div>
        <p className="text-[13px] text-soft">A sheet of paper has 0.1 mm, a plastic card 0.8 mm.</p>
        {whole && plate.error && (
          <p role="alert" className="text-stop">
            {plate.error.message}
          </p>
        )}
        {!whole && <p className="text-faint">With all of them told, the bench and the board are told apart.</p>}
        {v && (
          <div aria-live="polite" className="mt-2">
            <p>
              The board itself is off by{' '}
              <b className={v.within ? 'text-ok' : 'text-fix'}>
                roll {degrees(v.board.roll)}, pitch {degrees(v.board.pitch)}
              </b>
              ; {v.most}° each is the most.
            </p>
            <p className="text-soft">
              In the air that pushes it by {v.drift.toFixed(2)} m/s²: {v.afterFive.toFixed(1)} m in five seconds, in still air and with nobody's hand against
              it.
            </p>
            <div className="flex flex-wrap gap-2">
              <Button small disabled={keep.isPending} onClick={() => keep.mutate(v)}>
                Keep it as the level reading
              </Button>
              {onBench && (
                <Button small quiet disabled={hand.isPending} onClick={() => shim(v)}>
                  Have the hand put the shims under it
                </Button>
              )}
            </div>
          </div>
        )}
      </section>
      <section aria-label="The plate made level">
        {v?.sides.map((s, i) => (
          <Side key={i ? 'pitch' : 'roll'} side={s} name={i ? 'Seen from its left' : 'Seen from behind'} ends={i ? ['front', 'rear'] : ['left', 'right']} />
        ))}
      </section>
    </div>
  )
}

const degrees = (x: number) =>
  `${x
    .toFixed(2)
    .replace(/^-0\.00$/, '0.00')
    .replace('-', '−')}°`

const box = { w: 380, h: 160, left: 30, base: 104 }

/** One direction of the plate, its lean drawn ten times as steep; the stack of shims under its low side. */
function Side({ side: s, name, ends }: { side: Schemas['PlateSide']; name: string; ends: [string, string] }) {
  const span = box.w - 2 * box.left
  const rise = Math.max(-34, Math.min(34, Math.tan((10 * s.tilt * Math.PI) / 180) * (span / 2)))
  const under = s.under === ends[0] ? box.left : box.w - box.left
  return (
    <figure className="m-0 mb-3">
      <svg width={box.w} height={box.h} role="img" aria-label={`${name}: the bench leans by ${degrees(s.tilt)}; ${s.words}, which leaves ${degrees(s.left)}`}>
        <path
          d={`M${box.left - 14} ${box.base - rise}L${box.w - box.left + 14} ${box.base + rise}`}
          stroke="var(--wire)"
          strokeWidth="5"
          strokeLinecap="round"
        />
        <path d={`M${box.left} ${box.base - Math.abs(rise) - 12}H${box.w - box.left}`} stroke="var(--act)" strokeWidth="2" strokeDasharray="6 4" />
        {s.pieces.map((p, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a stack keeps its order
          <g key={i} transform={`translate(${under} ${box.base + Math.abs(rise) - 5 - (i + 1) * 15})`}>
            <rect x="-22" width="44" height="13" rx="2" fill="var(--fix-bg)" stroke="var(--fix)" />
            <text y="10.5" textAnchor="middle" fontSize="11" fill="var(--fix)">
              {p}
            </text>
          </g>
        ))}
        <g transform={`translate(${box.w / 2} ${box.base - Math.abs(rise) - 12})`} fill="none" stroke="var(--wire)" strokeWidth="2">
          <path d="M-60 -14H60M-14 -22H14M-10 -14V0M10 -14V0" />
          <path d="M-74 -18H-46M46 -18H74" stroke="var(--faint)" />
        </g>
        <text x={box.left - 14} y={box.h - 4} fontSize="13" fill="var(--soft)">
          {ends[0]}
        </text>
        <text x={box.w - box.left + 14} y={box.h - 4} fontSize="13" fill="var(--soft)" textAnchor="end">
          {ends[1]}
        </text>
      </svg>
      <figcaption className="text-[14px]">
        <b>{name}</b>: the bench leans by {degrees(s.tilt)} (drawn ten times as steep). <b className="text-act">{s.words}</b>
        {s.pieces.length > 0 && `: ${s.height.toFixed(2)} mm of ${s.wanted.toFixed(2)} mm`}, leaves {degrees(s.left)}.
      </figcaption>
    </figure>
  )
}
