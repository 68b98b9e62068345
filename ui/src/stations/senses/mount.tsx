import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { two } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { useOwn } from '../../places/bench/whose'
import { onConflict } from '../../places/line/conflict'
import { showError } from '../../shell/message'
import { acts, answerOf, type QuadView, type Schemas, server, useAct } from '../../wire/client'
import { useLive } from '../../wire/live'
import { useLiveRun } from './live-run'

type Move = Schemas['Move']
const none: Move = { turns: [], times: [] }
const ways = ['nose', 'side', 'turn'] as const
const words = { nose: 'nose down', side: 'right side down', turn: 'turned to the right' } as const
/** How long a move is watched, ms: thirty degrees and back. */
const watched = 2600

/** How the board lies on the frame: three moves of a hand and what the board says of each, or by eye. */
export function BoardMount({ quad }: { quad: QuadView }) {
  const own = useOwn()
  const runs = useLive((s) => own && s.live?.board === 'running')
  const [by, setBy] = useState<'moves' | 'eye'>('moves')
  const [moves, setMoves] = useState<Move[]>([none, none, none])
  const [now, setNow] = useState(-1)
  const run = useLiveRun(now >= 0, (l) => ({ turns: [...l.turns], time: l.time / 1000 }))
  const [arrow, setArrow] = useState(0)
  const [back, setBack] = useState<'up' | 'down'>('up')
  useEffect(() => {
    if (now < 0) return
    const t = setTimeout(() => {
      const all = run.all()
      const whole = { turns: all.map((m) => m.turns), times: all.map((m) => m.time) }
      setMoves((m) => m.map((old, i) => (i === now ? whole : old)))
      setNow(-1)
    }, watched)
    return () => clearTimeout(t)
  }, [now, run.all])
  const start = (i: number) => {
    run.clear()
    setNow(i)
    void answerOf(server.POST('/api/quads/{id}/bench/move', { params: { path: { id: quad.id } }, body: { way: ways[i] ?? 'nose' } })).catch(showError)
  }
  const body: Schemas['MountAsk'] = by === 'eye' ? { eye: { arrow, onItsBack: back === 'down' } } : { moves }
  const any = by === 'eye' || moves.some((m) => m.times.length > 0)
  const found = useQuery({
    queryKey: ['mount', quad.id, quad.seen, body],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/senses/mount', { params: { path: { id: quad.id } }, body })),
    enabled: any,
    retry: false,
    placeholderData: (before) => before,
  })
  const v = any && !found.error ? found.data : undefined
  const keep = useAct(quad.id, (m: Schemas['Mount']) => acts.typeAll(quad.id, [{ path: 'readings.senses.boardLies', value: m }]))
  const changes = (m: Schemas['Mount']) => [
    { path: 'sheet.senses.boardRoll' as const, value: m.roll },
    { path: 'sheet.senses.boardPitch' as const, value: m.pitch },
    { path: 'sheet.senses.boardYaw' as const, value: m.yaw },
  ]
  const tell = useAct(quad.id, (m: Schemas['Mount']) => acts.edit(quad.id, quad.version, changes(m)))
  const whole = by === 'eye' || moves.every((m) => m.times.length > 0)
  return (
    <div className={two}>
      <section aria-label="How the board lies">
        <Segments
          small
          label="How it is looked at"
          items={[
            { value: 'moves', words: 'By three moves' },
            { value: 'eye', words: 'By eye' },
          ]}
          value={by}
          onChoose={(x) => setBy(x as 'moves' | 'eye')}
        />
        {by === 'moves' ? (
          <>
            <p className="mt-2 text-soft">About thirty degrees each, and back: which way the board says that it turned tells how it lies.</p>
            <ol className="mt-1.5 grid grid-cols-3 gap-2">
              {ways.map((w, i) => (
                <li key={w} className="min-w-0 rounded-md border border-line bg-panel p-2">
                  <Drawn way={w} />
                  <b>{words[w]}</b>
                  <p className="min-h-10 text-[13.5px] text-soft" aria-live="polite">
                    {now === i ? 'it is watched…' : v?.shown[i] ? `the board says: ${v.shown[i]}` : 'not yet'}
                  </p>
                  {runs && (
                    <Button small disabled={now >= 0} onClick={() => start(i)}>
                      Move it
                    </Button>
                  )}
                </li>
              ))}
            </ol>
            {!runs && <p className="mt-1.5 text-faint">With a board on the bench it is seen live. Without one, tell it by eye.</p>}
          </>
        ) : (
          <>
            <p className="mt-2 text-soft">The board's arrow, seen from above, and which of its faces is up.</p>
            <div className="mt-1.5 flex flex-wrap items-center gap-2.5">
              <label className="text-[13px] text-soft">
                the arrow points, ° from the nose{' '}
                <input
                  type="number"
                  min={0}
                  max={360}
                  step={45}
                  className="w-22!"
                  value={arrow}
                  onChange={(e) => setArrow(Math.max(0, Math.min(360, Number(e.target.value) || 0)))}
                />
              </label>
              <Segments
                small
                label="Which face is up"
                items={[
                  { value: 'up', words: 'its top is up' },
                  { value: 'down', words: 'its top is down' },
                ]}
                value={back}
                onChoose={(x) => setBack(x as 'up' | 'down')}
              />
            </div>
          </>
        )}
        {found.error && (
          <p role="alert" className="text-stop">
            {found.error.message}
          </p>
        )}
        {v && whole && (
          <div aria-live="polite" className="mt-2">
            {v.says && <p className="text-fix">{v.says}</p>}
            {v.lies && v.tell && (
              <>
                <p>
                  It lies <b>{mountWords(v.lies)}</b>; it is told {mountWords(v.told)}
                  {v.off > 3 ? <b className="text-stop">, {v.off}° apart</b> : <span className="text-ok">, which agrees</span>}.
                </p>
                <div className="mt-1 flex flex-wrap items-center gap-2">
                  <Button small disabled={keep.isPending} onClick={() => keep.mutate(v.lies as Schemas['Mount'], { onError: showError })}>
                    Keep it as the reading
                  </Button>
                  {v.off > 3 && (
                    <TextButton
                      disabled={tell.isPending}
                      onClick={() => {
                        const m = v.tell as Schemas['Mount']
                        tell.mutate(m, { onError: onConflict(quad, 'How the board lies', changes(m)) })
                      }}
                    >
                      Tell it: {mountWords(v.tell)}
                    </TextButton>
                  )}
                </div>
              </>
            )}
          </div>
        )}
      </section>
      <section aria-label="Seen from above">
        <Subhead>Seen from above</Subhead>
        <Lying mount={whole ? v?.lies : undefined} told={v?.told} />
      </section>
    </div>
  )
}

function mountWords(m: Schemas['Mount']) {
  const parts = [m.yaw !== 0 && `turned by ${m.yaw}°`, m.pitch !== 0 && `nose up by ${m.pitch}°`, m.roll !== 0 && `rolled by ${m.roll}°`].filter(Boolean)
  return parts.length ? parts.join(', ').replaceAll('-', '−') : 'flat, its arrow ahead'
}

/** A move as it is to be made: from the left for the nose, from behind for the side, from above for the turn. */
function Drawn({ way }: { way: (typeof ways)[number] }) {
  return (
    <svg viewBox="0 0 140 78" className="w-full" aria-hidden stroke="var(--wire)" strokeWidth="2" fill="none">
      <g transform="translate(70 40)">
        {way === 'turn' ? (
          <>
            <path d="M-22 -16L22 16M22 -16L-22 16" />
            <path d="M-4 -24L0 -31L4 -24" stroke="var(--ink)" />
            <path d="M18 -27A33 33 0 0 1 32 -6m-6 -4l6 4l4 -7" stroke="var(--act)" />
          </>
        ) : (
          <>
            <g stroke="var(--faint)" strokeDasharray="3 3">
              <path d="M-30 0H30" />
            </g>
            <g transform="rotate(28)">
              <path d="M-30 0H30M-10 -7H10V0M-24 0V-9M24 0V-9" />
              {way === 'nose' && <circle cx="30" cy="0" r="3.5" fill="var(--wire)" />}
            </g>
            <path d="M38 -6A38 38 0 0 1 34 16m-7 -3l7 3l4 -7" stroke="var(--act)" />
          </>
        )}
      </g>
      <text x="70" y="72" textAnchor="middle" fontSize="11.5" stroke="none" style={{ fill: 'var(--soft)' }}>
        {way === 'nose' ? 'from its left' : way === 'side' ? 'from behind' : 'from above'}
      </text>
    </svg>
  )
}

/** The board on the frame from above: where its arrow points as it was found, and as it is told. */
function Lying({ mount, told }: { mount?: Schemas['Mount']; told?: Schemas['Mount'] }) {
  const board = (m: Schemas['Mount'], tone: string, dashed: boolean) => (
    <g transform={`rotate(${m.yaw})`} stroke={tone} fill="none" strokeWidth="2.5" strokeDasharray={dashed ? '5 4' : undefined}>
      <rect x="-34" y="-34" width="68" height="68" rx="4" />
      <path d="M0 22V-22M-9 -11L0 -24L9 -11" />
    </g>
  )
  return (
    <svg
      width="360"
      height="300"
      role="img"
      aria-label={
        mount ? `The board lies ${mountWords(mount)}; it is told ${mountWords(told ?? { roll: 0, pitch: 0, yaw: 0 })}` : 'How the board lies is not told yet'
      }
    >
      <g transform="translate(180 150)">
        <path d="M-92 -92L92 92M92 -92L-92 92" stroke="var(--line)" strokeWidth="16" strokeLinecap="round" />
        <path d="M-10 -118L0 -134L10 -118" fill="none" stroke="var(--ink)" strokeWidth="2.5" />
        <text y="-104" textAnchor="middle" fontSize="13" style={{ fill: 'var(--soft)' }}>
          nose
        </text>
        <circle r="54" fill="var(--panel)" />
        {told && board(told, 'var(--faint)', true)}
        {mount && board(mount, 'var(--act)', false)}
        {mount && Math.abs(mount.roll) > 90 && (
          <text y="72" textAnchor="middle" fontSize="13" style={{ fill: 'var(--stop)' }}>
            its top faces the ground
          </text>
        )}
      </g>
      <text x="12" y="290" fontSize="12.5" style={{ fill: 'var(--soft)' }}>
        solid: as it lies; broken: as it is told
      </text>
    </svg>
  )
}
