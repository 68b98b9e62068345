import { useState } from 'react'
import { Button } from '../../kit/button'
import { Segments } from '../../kit/segments'
import { onConflict } from '../../places/line/conflict'
import { AsTable } from '../../shell/as-table'
import { stands, useCurves } from '../../wire/airframe'
import { type QuadView, type Schemas, useAct } from '../../wire/client'
import { marks } from './marks'
import { ThrustStand } from './stand'

type Curve = Schemas['CurveView']
type Key = keyof Schemas['Figures']

const kinds = [
  { value: 'thrust', words: 'Thrust', unit: 'g' },
  { value: 'current', words: 'Current', unit: 'A' },
  { value: 'rpm', words: 'Rotation', unit: 'rpm' },
  { value: 'mach', words: 'Tips', unit: 'Mach' },
  { value: 'minutes', words: 'Minutes', unit: 'min' },
] as const

const box = { w: 460, h: 392, left: 50, right: 14, top: 18, bottom: 40 }
const inks = ['var(--act)', 'var(--fix)', 'var(--note)', 'var(--ok)', 'var(--stop)', 'var(--soft)']
const dashes = [undefined, '9 4', '3 3', '12 3 3 3', '2 5', '6 2']

/** What the drive does over its duty with each pack, the hover marked as duty and as stick, and between what it lies by what is estimated. */
export function OperatingCurves({ quad }: { quad: QuadView }) {
  const [kind, setKind] = useState<Key>('thrust')
  const curves = useCurves(quad)
  const take = useAct(quad.id, () => stands.takeHover(quad))
  const v = curves.data
  if (curves.error && !v) return <p role="alert">{curves.error.message}</p>
  if (!v) return <p aria-busy="true">Working the curves out…</p>
  if (v.curves.length === 0) return <p>Parts are missing, or nobody told what it weighs: say at Parts what is on it, and weigh it.</p>
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1.35fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
      <div className="flex min-h-0 flex-col gap-2">
        <AsTable
          caption={`Each pack at rest (3.8 V a cell), from no duty to full`}
          head={['pack, duty', 'thrust, g', 'current, A', 'rpm', 'tips, Mach', 'minutes']}
          rows={rows(v.curves)}
        />
        <Segments small items={kinds.map((k) => ({ value: k.value as Key, words: k.words }))} value={kind} onChoose={setKind} label="What is drawn" />
        <Plot curves={v.curves} kind={kind} note={v.note} fix={v.fix} />
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by the keyboard */}
      <section aria-label="By pack" tabIndex={0} className="min-h-0 overflow-y-auto pr-2">
        {v.curves.map((c, i) => (
          <Pack key={c.pack} curve={c} ink={inks[i % inks.length] ?? ''} dash={dashes[i % dashes.length]} />
        ))}
        {v.estimated.length > 0 ? (
          <p className="mt-2 text-[14px]">
            <b>The pale band</b> is what is not measured: {v.estimated.join('; ')}.
          </p>
        ) : (
          <p className="mt-2 text-[14px] text-soft">Every figure that this leans on was told or measured.</p>
        )}
        {v.measured && v.corrected && (
          <div className="mt-2 rounded-lg border border-line bg-panel px-3 py-2 text-[14px]">
            <p>
              Measured in flight: {v.measured.stick} % of the stick at {v.measured.volts} V with {v.measured.pack}. By that the propeller's thrust coefficient
              is <b>{v.corrected.told.value.toPrecision(3)}</b> ({v.corrected.told.low.toPrecision(2)} to {v.corrected.told.high.toPrecision(2)}); told is{' '}
              {v.corrected.is.toPrecision(3)}.
            </p>
            <Button
              small
              className="mt-1"
              disabled={take.isPending}
              onClick={() => take.mutate(undefined, { onError: onConflict(quad, 'The thrust coefficient', []) })}
            >
              Take it as the hover has it
            </Button>
          </div>
        )}
        <ThrustStand quad={quad} />
      </section>
    </div>
  )
}

const round = (x: number, n = 1) => x.toLocaleString('en-GB', { maximumFractionDigits: n, useGrouping: false })

const rows = (curves: Curve[]) =>
  curves.flatMap((c) =>
    c.points
      .filter((_, i) => i % 5 === 0)
      .map((p) => [
        `${c.pack}, ${round(p.duty, 0)} %`,
        round(p.is.thrust, 0),
        round(p.is.current),
        round(p.is.rpm, 0),
        round(p.is.mach, 2),
        round(p.is.minutes),
      ]),
  )

function Pack({ curve: c, ink, dash }: { curve: Curve; ink: string; dash?: string }) {
  const h = c.hover
  const facts: [string, string][] = [
    ['hovers at', h ? `${round(h.duty)} % duty, ${round(c.stick)} % of the stick${c.lowest > 0 ? `; low ${round(c.lowest)} %` : ''}` : 'it does not hover'],
    ['between', h && h.mostDuty !== h.leastDuty ? `${round(h.leastDuty)} and ${h.mostDuty > 0 ? `${round(h.mostDuty)} %` : 'not at all'}` : ''],
    ['drawing', h ? `${round(h.is.current)} A: ${round(h.is.minutes)} min to 80 %${c.lasts > 0 ? `, ${round(c.lasts)} min until it is to land` : ''}` : ''],
    [
      'windings',
      c.warmth > 0 ? `${round(c.warmth, 0)} °C in a hover; full throttle is borne ${c.bears >= 30 ? 'half a minute and more' : `${round(c.bears)} s`}` : '',
    ],
    ['full throttle', `${round(c.full.thrust, 0)} g, ${round(c.full.current, 0)} A, tips at Mach ${round(c.full.mach, 2)}, freshly charged`],
  ]
  return (
    <section aria-label={`With ${c.pack}`} className="border-b border-line py-1.5">
      <h2 className="flex items-center gap-2 font-body text-[15px] font-semibold">
        <svg width="26" height="8" aria-hidden>
          <path d="M0 4H26" stroke={ink} strokeWidth="2.6" strokeDasharray={dash} />
        </svg>
        {c.pack}, {c.cells} {c.cells === 1 ? 'cell' : 'cells'}
      </h2>
      <dl className="grid grid-cols-[86px_minmax(0,1fr)] text-[14px] [&_dt]:text-soft">
        {facts
          .filter(([, words]) => words)
          .map(([name, words]) => (
            <div key={name} className="contents">
              <dt>{name}</dt>
              <dd>{words}</dd>
            </div>
          ))}
      </dl>
    </section>
  )
}

function Plot({ curves, kind, note, fix }: { curves: Curve[]; kind: Key; note: number; fix: number }) {
  const unit = kinds.find((k) => k.value === kind)?.unit ?? ''
  // Minutes at next to no duty are beside the point: what a hover and a cruise come to is drawn.
  const most =
    kind === 'minutes'
      ? 2 * Math.max(...curves.map((c) => c.hover?.high.minutes ?? 0), 1)
      : Math.max(...curves.flatMap((c) => c.points.map((p) => p.high[kind])), kind === 'mach' ? fix : 0)
  const x = (duty: number) => box.left + (duty / 100) * (box.w - box.left - box.right)
  const y = (f: number) => box.h - box.bottom - (Math.min(f, most) / most) * (box.h - box.top - box.bottom)
  const line = (of: (p: Schemas['CurvePoint']) => number, c: Curve) => c.points.map((p) => `${x(p.duty).toFixed(1)} ${y(of(p)).toFixed(1)}`)
  const words = curves
    .map((c) => `${c.pack}: ${c.hover ? `hovers at ${round(c.hover.duty)} % duty, ${round(c.stick)} % of the stick` : 'does not hover'}`)
    .join('. ')
  return (
    <svg viewBox={`0 0 ${box.w} ${box.h}`} className="min-h-0 w-full flex-1" role="img" aria-label={`${unit} over duty. ${words}`}>
      {marks(most).map((m) => (
        <g key={m}>
          <path d={`M${box.left} ${y(m)}H${box.w - box.right}`} stroke="var(--line)" />
          <text x={box.left - 6} y={y(m) + 4} textAnchor="end" fontSize="12" style={{ fill: 'var(--soft)' }}>
            {m}
          </text>
        </g>
      ))}
      {[0, 20, 40, 60, 80, 100].map((d) => (
        <text key={d} x={x(d)} y={box.h - box.bottom + 16} textAnchor="middle" fontSize="12" style={{ fill: 'var(--soft)' }}>
          {d}
        </text>
      ))}
      <text x={box.w - box.right} y={box.h - 6} textAnchor="end" fontSize="12.5" style={{ fill: 'var(--soft)' }}>
        duty, %
      </text>
      <text x={box.left} y={12} fontSize="12.5" style={{ fill: 'var(--soft)' }}>
        {unit}
      </text>
      {kind === 'mach' &&
        [[note, 'noise and loss grow', 'var(--note)'] as const, [fix, 'too fast', 'var(--fix)'] as const].map(([m, what, ink]) => (
          <g key={what}>
            <path d={`M${box.left} ${y(m)}H${box.w - box.right}`} stroke={ink} strokeDasharray="6 4" />
            <text x={box.left + 6} y={y(m) - 4} fontSize="12" style={{ fill: ink }}>
              {what}
            </text>
          </g>
        ))}
      {curves.map((c, i) => (
        <path
          key={c.pack}
          d={`M${[...line((p) => p.high[kind], c), ...line((p) => p.low[kind], c).reverse()].join('L')}Z`}
          fill={inks[i % inks.length]}
          fillOpacity="0.11"
        />
      ))}
      {curves.map((c, i) => (
        <path
          key={c.pack}
          d={`M${line((p) => p.is[kind], c).join('L')}`}
          fill="none"
          stroke={inks[i % inks.length]}
          strokeWidth="2.4"
          strokeDasharray={dashes[i % dashes.length]}
        />
      ))}
      {curves.map((c, i) => {
        if (!c.hover) return null
        const hx = x(c.hover.duty)
        const hy = y(c.hover.is[kind])
        return (
          <g key={c.pack}>
            <path d={`M${hx} ${hy}V${box.h - box.bottom}`} stroke={inks[i % inks.length]} strokeDasharray="2 3" />
            <circle cx={hx} cy={hy} r="5.5" fill="var(--panel)" stroke={inks[i % inks.length]} strokeWidth="2.4" />
            {i === 0 && (
              <text x={hx + 9} y={kind === 'minutes' ? hy - 9 : hy + 16} fontSize="13" fontWeight="600">
                hover: {round(c.hover.duty)} % duty, {round(c.stick)} % stick
              </text>
            )}
          </g>
        )
      })}
    </svg>
  )
}
