import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { fieldRow, two, ways } from '../../kit/looks'
import { useOwn } from '../../places/bench/whose'
import { showError } from '../../shell/message'
import { acts, answerOf, bench, type QuadView, type Schemas, server, useAct } from '../../wire/client'
import { useLive } from '../../wire/live'
import { figure } from './figure'

/** Satellites without which there is no position. */
const solves = 4

type Count = { typed: string; videoOn: boolean }

/** A sky by both schools, count and dilution: the one that is seen now, or the one that was kept. */
function Schools({ quad, live }: { quad: QuadView; live?: { satellites: number; dilution: number } }) {
  const kept = quad.line.flatMap((p) => p.readings).find((r) => r.path === 'readings.senses.satellites')?.value as Schemas['Sky'] | undefined
  const sky = live ?? kept
  const judged = useQuery({
    queryKey: ['sky judged', quad.id, quad.seen, sky?.satellites, sky?.dilution],
    queryFn: () =>
      answerOf(
        server.POST('/api/quads/{id}/senses/sky', {
          params: { path: { id: quad.id } },
          body: { satellites: sky?.satellites ?? 0, dilution: sky?.dilution ?? 0 },
        }),
      ),
    enabled: sky !== undefined,
    retry: false,
    placeholderData: (before) => before,
  })
  const j = sky && judged.data
  if (!j) return null
  return (
    <ul aria-label="By both schools" className="my-1 text-[14px]">
      <li className={j.count ? undefined : 'text-fix'}>
        <b>By count:</b> {sky.satellites} of the {j.least} that are wanted{j.count ? ': enough.' : ': too few.'}
      </li>
      <li className={j.dilution ? undefined : 'text-fix'}>
        <b>By dilution:</b> {sky.dilution.toFixed(1)}, so 95 % within {j.within} m
        {j.allowed > 0 ? `; the clear radius allows ${j.allowed}` : '; nobody told the clear radius'}
        {j.dilution ? ': enough.' : ': too wide.'}
      </li>
      <li className="text-soft">{j.words}</li>
    </ul>
  )
}

/**
 * Counts of satellites climb by themselves after power-up, so that with and without the video are taken by turns, after equal waits on one spot; what is
 * left is the video's, with how sure that is.
 */
export function SkyTrial({ quad }: { quad: QuadView }) {
  const own = useOwn()
  const shows = useLive((s) => own && Boolean(s.live?.pack) && (s.live?.satellites ?? 0) > 0)
  const live = useLive((s) => s.live?.satellites ?? 0)
  const dilution = useLive((s) => s.live?.dilution ?? 0)
  const videoOn = useLive((s) => s.live?.video ?? false)
  const apart = useLive((s) => s.live?.apart ?? 0)
  const [counts, setCounts] = useState<Count[]>([])
  const [wait, setWait] = useState('20')
  const [left, setLeft] = useState(0)
  const seconds = Math.max(0, Math.min(600, figure(wait) ?? 20))
  useEffect(() => {
    if (left <= 0) return
    const t = setTimeout(() => setLeft(left - 1), 1000)
    return () => clearTimeout(t)
  }, [left])
  const next = counts.length % 2 === 1 // the first is without
  const figures = counts.map((c) => figure(c.typed))
  const whole = counts.length >= 4 && figures.every((x) => x !== null)
  const body = counts.map((c, i) => ({ satellites: figures[i] ?? 0, videoOn: c.videoOn }))
  const judged = useQuery({
    queryKey: ['sky', body],
    queryFn: () => answerOf(server.POST('/api/senses/sky', { body: { counts: body } })),
    enabled: whole,
    retry: false,
    placeholderData: (before) => before,
  })
  const v = whole && !judged.error ? judged.data : undefined
  const keep = useAct(quad.id, (value: Schemas['SkyView']['trial']) => acts.typeAll(quad.id, [{ path: 'readings.senses.videoTrial', value }]))
  const sky = useAct(quad.id, (value: { satellites: number; dilution: number }) => acts.typeAll(quad.id, [{ path: 'readings.senses.satellites', value }]))
  const add = () => {
    setCounts([...counts, { typed: shows ? String(live) : '', videoOn: next }])
    setLeft(seconds)
    if (shows) void bench.things({ video: !next }).catch(showError)
  }
  return (
    <div className={two}>
      <section aria-label="Satellites by turns">
        <p className="text-soft">
          On one spot under the open sky, with equal waits: count with the video off, on, off, on. Counts climb by themselves after power-up; taken by turns,
          that falls out.
        </p>
        {shows && (
          <p className="tabular-nums">
            Now <b>{live}</b> satellites, dilution {dilution.toFixed(2)}, the video {videoOn ? 'on' : 'off'}.{' '}
            <TextButton disabled={sky.isPending || live < solves} onClick={() => sky.mutate({ satellites: live, dilution })}>
              Keep as today's sky
            </TextButton>
          </p>
        )}
        {shows && apart > 0 && (
          <p className="text-[14px]">
            Its receiver stands {apart} mm from the video transmitter.{' '}
            <TextButton
              onClick={() =>
                void bench
                  .things({ apart: apart < 100 ? 120 : 30 })
                  .then(() => setCounts([]))
                  .catch(showError)
              }
            >
              {apart < 100 ? 'Have the hand put it on a mast, 120 mm away' : 'Have the hand put it back'}
            </TextButton>
          </p>
        )}
        <Schools quad={quad} live={shows ? { satellites: live, dilution } : undefined} />
        <div className={fieldRow}>
          <label>
            wait before each, s
            <input type="text" inputMode="numeric" className="w-22!" value={wait} onChange={(e) => setWait(e.target.value)} />
          </label>
          <Button small main={left === 0} disabled={shows && (left > 0 || videoOn !== next)} onClick={add}>
            {left > 0 ? `Count in ${left} s` : `Count with the video ${next ? 'on' : 'off'}`}
          </Button>
          {shows && videoOn !== next && (
            <Button
              small
              onClick={() =>
                void bench
                  .things({ video: next })
                  .then(() => setLeft(seconds))
                  .catch(showError)
              }
            >
              Put the video {next ? 'on' : 'off'}, and wait
            </Button>
          )}
          {counts.length > 0 && <TextButton onClick={() => setCounts(counts.slice(0, -1))}>Take the last one back</TextButton>}
        </div>
        <ol aria-label="Counts" className="mt-2 flex flex-wrap gap-2">
          {counts.map((c, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: counts are in the order they were taken
            <li key={i} className={`rounded-md border px-2 py-1 ${c.videoOn ? 'border-fix bg-fix-bg' : 'border-line bg-panel'}`}>
              <label className="grid text-[13px] text-soft">
                video {c.videoOn ? 'on' : 'off'}
                <input
                  type="text"
                  inputMode="numeric"
                  className="w-12! text-ink"
                  value={c.typed}
                  onChange={(e) => setCounts(counts.map((x, n) => (n === i ? { ...x, typed: e.target.value } : x)))}
                />
              </label>
            </li>
          ))}
        </ol>
        {counts.length > 0 && counts.length < 4 && <p className="text-faint">Alternate at least twice: {4 - counts.length} more.</p>}
        {whole && judged.error && (
          <p role="alert" className="text-stop">
            {judged.error.message}
          </p>
        )}
        {v && (
          <div aria-live="polite" className="mt-2">
            <p className={v.tells && v.lost > 0 ? 'font-semibold text-fix' : 'font-semibold'}>{v.words}</p>
            <div className={ways}>
              <Button small disabled={keep.isPending} onClick={() => keep.mutate(v.trial)}>
                Keep it as the reading
              </Button>
            </div>
          </div>
        )}
      </section>
      <section aria-label="What the video costs">
        <CountsDrawn counts={body.filter((_, i) => figures[i] !== null)} view={v} />
      </section>
    </div>
  )
}

const box = { w: 400, h: 190 }

/** The counts in their order, and below them the difference with its interval about nought. */
function CountsDrawn({ counts, view }: { counts: { satellites: number; videoOn: boolean }[]; view?: Schemas['SkyView'] }) {
  const top = Math.max(12, ...counts.map((c) => c.satellites)) + 1
  const x = (i: number) => 40 + (i * (box.w - 70)) / Math.max(3, counts.length - 1)
  const y = (n: number) => box.h - 26 - (n / top) * (box.h - 44)
  const span = view ? Math.max(3, Math.abs(view.trial.least), Math.abs(view.trial.most)) : 3
  const at = (n: number) => box.w / 2 + (Math.max(-span, Math.min(span, n)) / span) * (box.w / 2 - 40)
  return (
    <>
      <svg
        width={box.w}
        height={box.h}
        role="img"
        aria-label={`Counts: ${counts.map((c) => `${c.satellites} ${c.videoOn ? 'on' : 'off'}`).join(', ') || 'none yet'}`}
      >
        {[4, 8, 12].map((n) => (
          <g key={n}>
            <path d={`M34 ${y(n)}H${box.w - 16}`} stroke="var(--line)" strokeDasharray={n === 8 ? '6 4' : undefined} />
            <text x="28" y={y(n) + 4} fontSize="12.5" textAnchor="end" fill="var(--soft)">
              {n}
            </text>
          </g>
        ))}
        <path d={counts.map((c, i) => `${i ? 'L' : 'M'}${x(i)} ${y(c.satellites)}`).join('')} fill="none" stroke="var(--wire)" />
        {counts.map((c, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: in the order they were taken
          <g key={i}>
            <circle
              cx={x(i)}
              cy={y(c.satellites)}
              r="6"
              fill={c.videoOn ? 'var(--fix)' : 'var(--panel)'}
              stroke={c.videoOn ? 'var(--fix)' : 'var(--act)'}
              strokeWidth="2"
            />
            <text x={x(i)} y={box.h - 6} fontSize="12.5" textAnchor="middle" fill="var(--soft)">
              {c.videoOn ? 'on' : 'off'}
            </text>
          </g>
        ))}
      </svg>
      {view && (
        <svg width={box.w} height="66" role="img" aria-label={`Lost to the video: ${view.trial.lost}, between ${view.trial.least} and ${view.trial.most}`}>
          <path d={`M30 34H${box.w - 30}`} stroke="var(--wire)" />
          <path d={`M${at(0)} 18V50`} stroke="var(--ink)" strokeDasharray="4 3" />
          <path
            d={`M${at(view.trial.least)} 34H${at(view.trial.most)}`}
            stroke={view.tells ? 'var(--fix)' : 'var(--soft)'}
            strokeWidth="7"
            strokeLinecap="round"
          />
          <circle cx={at(view.trial.lost)} cy="34" r="6" fill="var(--panel)" stroke={view.tells ? 'var(--fix)' : 'var(--soft)'} strokeWidth="3" />
          <g fontSize="12.5" fill="var(--soft)">
            <text x={at(0)} y="63" textAnchor="middle">
              none
            </text>
            <text x={box.w - 30} y="16" textAnchor="end">
              lost to the video
            </text>
            <text x="30" y="16">
              more with it
            </text>
          </g>
        </svg>
      )}
    </>
  )
}
