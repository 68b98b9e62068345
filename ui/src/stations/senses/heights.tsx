import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { Button } from '../../kit/button'
import { fieldRow, two, ways } from '../../kit/looks'
import { useOwn } from '../../places/bench/whose'
import { acts, answerOf, type QuadView, type Schemas, server, useAct } from '../../wire/client'
import { useLive, useLiveDraw } from '../../wire/live'
import { figure } from './figure'
import { nothingPasted, type Pasted, PasteRun } from './pasted'

/** Longest run that is kept: ten looks a second for six minutes. */
const most = 3600
const fiveMinutes = 300

/** Five minutes of a height that should stay: how it trembles, drifts and jumps, drawn as it comes in or from a run that was recorded. */
export function HeightAtRest({ quad }: { quad: QuadView }) {
  const own = useOwn()
  const shows = useLive((s) => own && s.live?.board === 'running')
  const run = useRef<number[][]>([])
  const [on, setOn] = useState(false)
  const [stamp, setStamp] = useState(0)
  const [spun, setSpun] = useState('')
  const [pasted, setPasted] = useState<Pasted>(nothingPasted)
  useLiveDraw((s) => {
    const l = s.live
    const last = run.current.at(-1)
    if (!on || !own || !l || l.board !== 'running' || run.current.length >= most) return
    const at = l.time / 1000
    if (last && at - (run.current[0]?.[2] ?? 0) - (last[0] ?? 0) < 0.1) return
    const began = run.current[0]?.[2] ?? at
    run.current.push([at - began, l.height, began])
  })
  useEffect(() => {
    if (!on) return
    const every = setInterval(() => setStamp(run.current.length), 1000)
    return () => clearInterval(every)
  }, [on])
  const text = pasted.text.trim()
  const spunAt = figure(spun) ?? -1
  const span = run.current[stamp - 1]?.[0] ?? 0
  const judged = useQuery({
    queryKey: ['heights', text ? pasted : stamp, spunAt],
    queryFn: () =>
      answerOf(
        server.POST('/api/senses/heights', {
          body: text ? { text, columns: pasted.columns, spun: spunAt } : { samples: run.current.slice(0, stamp), spun: spunAt },
        }),
      ),
    enabled: text !== '' || span >= 120,
    retry: false,
    placeholderData: (before) => before,
  })
  const v = judged.error ? undefined : judged.data
  const drawn =
    v?.drawn ??
    run.current
      .slice(0, stamp)
      .filter((_, i, all) => i % Math.ceil(all.length / 400 || 1) === 0)
      .map(([at, height]) => ({ at: at ?? 0, height: height ?? 0 }))
  const keep = useAct(quad.id, (value: Schemas['HeightsView']['reading']) => acts.typeAll(quad.id, [{ path: 'readings.senses.heights', value }]))
  return (
    <div className={two}>
      <section aria-label="A height that should stay">
        <p className="text-soft">
          Leave it untouched for five minutes, out of sun and wind, then spin up: how much the height trembles, how far it drifts, and how it jumps.
        </p>
        {shows && (
          <div className={ways}>
            <Button
              main={!on}
              onClick={() => {
                if (!on) run.current = []
                setStamp(0)
                setPasted(nothingPasted)
                setOn(!on)
              }}
            >
              {on ? 'Stop' : 'Look at it for five minutes'}
            </Button>
            {on && (
              <span className="text-soft tabular-nums">
                {Math.round(span)} of {fiveMinutes} s
              </span>
            )}
          </div>
        )}
        <div className={fieldRow}>
          <label>
            spun up at, s; nothing where it was not
            <input type="text" inputMode="decimal" className="w-22!" value={spun} onChange={(e) => setSpun(e.target.value)} />
          </label>
        </div>
        {judged.error && (
          <p role="alert" className="text-stop">
            {judged.error.message}
          </p>
        )}
        {v && (
          <div aria-live="polite" className="mt-2">
            <p>
              It trembles by <b>{v.reading.noise} m</b>, drifts by <b>{v.reading.drift} m</b> in five minutes
              {v.spun ? (
                <>
                  {' '}
                  and jumps by <b>{v.reading.jump ?? 0} m</b> at spin-up
                </>
              ) : (
                ''
              )}
              . {Math.round(v.spans)} s were looked at.
            </p>
            <Button small disabled={keep.isPending} onClick={() => keep.mutate(v.reading)}>
              Keep it as the height reading
            </Button>
          </div>
        )}
        <PasteRun pasted={pasted} onPaste={setPasted} table={v?.table} heads="time in s, height in m." />
      </section>
      <section aria-label="The height over time">
        <Drawn list={drawn} spun={spunAt} />
      </section>
    </div>
  )
}

const box = { w: 400, h: 210 }

function Drawn({ list, spun }: { list: Schemas['HeightSample'][]; spun: number }) {
  const heights = list.map((s) => s.height)
  const low = Math.min(-1, ...heights)
  const high = Math.max(1, ...heights)
  const end = Math.max(fiveMinutes, list.at(-1)?.at ?? 0)
  const x = (t: number) => 40 + (t / end) * (box.w - 62)
  const y = (h: number) => 12 + ((high - h) / (high - low)) * (box.h - 44)
  return (
    <svg
      width={box.w}
      height={box.h}
      role="img"
      aria-label={list.length ? `${list.length} heights, from ${low.toFixed(1)} to ${high.toFixed(1)} m` : 'Nothing recorded yet'}
    >
      {[low, 0, high].map((h) => (
        <g key={h}>
          <path d={`M40 ${y(h)}H${box.w - 22}`} stroke="var(--line)" />
          <text x="34" y={y(h) + 4} fontSize="12.5" textAnchor="end" fill="var(--soft)">
            {h.toFixed(1)}
          </text>
        </g>
      ))}
      {[0, 60, 120, 180, 240, 300].map((t) => (
        <text key={t} x={x(t)} y={box.h - 8} fontSize="12.5" textAnchor="middle" fill="var(--soft)">
          {t / 60} min
        </text>
      ))}
      {spun > 0 && <path d={`M${x(spun)} 8V${box.h - 28}`} stroke="var(--fix)" strokeDasharray="5 4" />}
      <path
        d={list.map((s, i) => `${i ? 'L' : 'M'}${x(s.at).toFixed(1)} ${y(s.height).toFixed(1)}`).join('')}
        fill="none"
        stroke="var(--act)"
        strokeWidth="1.5"
      />
    </svg>
  )
}
