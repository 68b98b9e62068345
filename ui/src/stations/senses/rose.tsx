import { useQuery } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { Button } from '../../kit/button'
import { fieldRow, two, ways } from '../../kit/looks'
import { useOwn } from '../../places/bench/whose'
import { onConflict } from '../../places/line/conflict'
import { acts, answerOf, type QuadView, type Schemas, server, useAct } from '../../wire/client'
import { useLive } from '../../wire/live'
import { figure } from './figure'

type Seen = Schemas['HeadingSeen']
const turns = ['Pointed at something whose direction is known', 'Turned across it'] as const
type Typed = { shown: string; known: string }

/**
 * What the board takes for its heading, against directions that are known: how far it is off, whether the compass is turned on its mount or lies on its
 * back, and what a hold of the flight model does with it.
 */
export function HeadingRose({ quad }: { quad: QuadView }) {
  const [typed, setTyped] = useState<[Typed, Typed]>([
    { shown: '', known: '' },
    { shown: '', known: '' },
  ])
  const [needle, setNeedle] = useState(false)
  const [declination, setDeclination] = useState('0')
  const own = useOwn()
  const live = useLive((s) => (own && s.live?.compass?.length === 3 ? s.live.heading.toFixed(1) : ''))
  const told = quad.meant.sheet.senses
  const seen = useDeferredValue({ typed, needle, declination })
  const take = (t: Typed): Seen | null => {
    const [shown, known, by] = [figure(t.shown), figure(t.known), figure(seen.declination)]
    if (shown === null || known === null || by === null) return null
    return {
      shown,
      known,
      turned: told.compassTurned ?? 0,
      added: told.declination ?? 0,
      ...(seen.needle ? { needle: true, declination: by } : {}),
    }
  }
  const [first, across] = [take(seen.typed[0]), take(seen.typed[1])]
  const judged = useQuery({
    queryKey: ['heading', quad.id, quad.seen, first, across],
    queryFn: () =>
      answerOf(
        server.POST('/api/quads/{id}/senses/heading', {
          params: { path: { id: quad.id } },
          body: { heading: first as Seen, ...(across ? { aside: across } : {}) },
        }),
      ),
    enabled: first !== null,
    retry: false,
    placeholderData: (before) => before,
  })
  const v = first && !judged.error ? judged.data : undefined
  const keep = useAct(quad.id, () =>
    acts.typeAll(quad.id, [
      { path: 'readings.senses.heading', value: first },
      { path: 'readings.senses.headingAside', value: across },
    ]),
  )
  const tell = useAct(quad.id, (deg: number) => acts.edit(quad.id, quad.version, [{ path: 'sheet.senses.compassTurned', value: deg }]))
  const change = (i: number, name: keyof Typed, to: string) => setTyped(typed.map((t, n) => (n === i ? { ...t, [name]: to } : t)) as [Typed, Typed])
  return (
    <div className={two}>
      <section aria-label="Headings looked at">
        <p className="text-soft">
          Outdoors, pack on, motors off, level: point the nose at something whose direction you know, and read the heading that the board shows. Then turn it
          about a right angle aside and read again.
        </p>
        {turns.map((when, i) => (
          <fieldset key={when} className={fieldRow} aria-label={when}>
            <span className="w-full font-semibold">{when}</span>
            <label>
              direction, °
              <input type="text" inputMode="decimal" className="w-22!" value={typed[i]?.known} onChange={(e) => change(i, 'known', e.target.value)} />
            </label>
            <label>
              heading shown, °
              <input type="text" inputMode="decimal" className="w-22!" value={typed[i]?.shown} onChange={(e) => change(i, 'shown', e.target.value)} />
            </label>
            {live && (
              <Button small onClick={() => change(i, 'shown', live)}>
                As the board shows it: <span className="tabular-nums">{live}°</span>
              </Button>
            )}
          </fieldset>
        ))}
        <div className={fieldRow}>
          <label className="flex! items-center gap-1.5">
            <input type="checkbox" checked={needle} onChange={(e) => setNeedle(e.target.checked)} /> the directions are by a compass needle, not by a map
          </label>
          {needle && (
            <label>
              declination there, east positive, °
              <input type="text" inputMode="decimal" className="w-22!" value={declination} onChange={(e) => setDeclination(e.target.value)} />
            </label>
          )}
        </div>
        {first && judged.error && (
          <p role="alert" className="text-stop">
            {judged.error.message}
          </p>
        )}
        {v && (
          <div aria-live="polite" className="mt-2">
            <p>
              {v.backwards ? (
                <b className="text-stop">The heading runs the other way than the nose turns: the compass lies on its back.</b>
              ) : (
                <>
                  It is off by <b className={Math.abs(v.off) <= v.tolerance ? 'text-ok' : 'text-stop'}>{signed(v.off)}</b>
                  {v.aside !== undefined && (
                    <>
                      , across it by <b className={Math.abs(v.aside) <= v.tolerance ? 'text-ok' : 'text-stop'}>{signed(v.aside)}</b>
                    </>
                  )}
                  ; {v.tolerance}° is the most, and from {v.circles.toFixed(0)}° on a hold circles.
                </>
              )}
            </p>
            {v.tell !== undefined && (
              <div className={ways}>
                <span>The compass is turned on its mount.</span>
                <Button
                  small
                  main
                  disabled={tell.isPending}
                  onClick={() => tell.mutate(v.tell ?? 0, { onError: onConflict(quad, 'Compass turned on its mount', []) })}
                >
                  Tell it: turned by {v.tell}°
                </Button>
              </div>
            )}
            <div className={ways}>
              <Button small disabled={!across || keep.isPending} onClick={() => keep.mutate(undefined)}>
                Keep both as the heading readings
              </Button>
              {!across && <span className="text-faint">The second direction is asked for: a compass on its back is right one way.</span>}
            </div>
          </div>
        )}
      </section>
      <section aria-label="The rose" className="flex flex-wrap gap-3">
        <Rose looks={[first, across]} />
        {v && <Held track={v.track} words={v.hold} />}
      </section>
    </div>
  )
}

const signed = (x: number) => `${x > 0 ? '+' : ''}${x.toFixed(1).replace('-', '−')}°`
const rr = 88

/** North up: where the nose pointed, and where the board took it to point. */
function Rose({ looks }: { looks: (Seen | null)[] }) {
  const at = (deg: number, by: number) => [Math.sin((deg * Math.PI) / 180) * by, -Math.cos((deg * Math.PI) / 180) * by] as const
  return (
    <svg width={2 * rr + 44} height={2 * rr + 44} role="img" aria-label="Directions known, and the headings shown for them">
      <g transform={`translate(${rr + 22} ${rr + 22})`}>
        <circle r={rr} fill="var(--panel)" stroke="var(--line)" strokeWidth="1.5" />
        {Array.from({ length: 36 }, (_, i) => {
          const [x, y] = at(10 * i, rr)
          const [u, w] = at(10 * i, rr - (i % 9 ? 6 : 12))
          // biome-ignore lint/suspicious/noArrayIndexKey: a scale keeps its order
          return <path key={i} d={`M${x} ${y}L${u} ${w}`} stroke="var(--wire)" />
        })}
        {['N', 'E', 'S', 'W'].map((n, i) => {
          const [x, y] = at(90 * i, rr + 12)
          return (
            <text key={n} x={x} y={y + 4.5} fontSize="13" textAnchor="middle" fill="var(--soft)">
              {n}
            </text>
          )
        })}
        {looks.map((h, i) => {
          if (!h) return null
          const known = h.known + (h.needle ? (h.declination ?? 0) : 0)
          const [x, y] = at(known, rr - 16)
          const [u, w] = at(h.shown, rr - 30)
          const away = ((((h.shown - known) % 360) + 540) % 360) - 180
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: the first look and the one across it
            <g key={i} opacity={i ? 0.75 : 1}>
              <path
                d={`M0 0L${at(known, 46)[0]} ${at(known, 46)[1]}A46 46 0 0 ${away > 0 ? 1 : 0} ${at(h.shown, 46)[0]} ${at(h.shown, 46)[1]}Z`}
                fill="var(--fix-bg)"
              />
              <path d={`M0 0L${x} ${y}`} stroke="var(--ink)" strokeWidth="2.5" strokeDasharray={i ? '7 4' : undefined} />
              <path d={`M0 0L${u} ${w}`} stroke="var(--act)" strokeWidth="3" strokeDasharray={i ? '7 4' : undefined} />
              <circle cx={u} cy={w} r="4.5" fill="var(--act)" />
            </g>
          )
        })}
      </g>
      <g fontSize="12.5">
        <text x="2" y={2 * rr + 40} style={{ fill: 'var(--ink)' }}>
          where it points
        </text>
        <text x={2 * rr + 42} y={2 * rr + 40} style={{ fill: 'var(--act)' }} textAnchor="end">
          what it shows
        </text>
      </g>
    </svg>
  )
}

/** Where a hold of the model goes with that heading, from above, forty seconds long. */
function Held({ track, words }: { track: number[][]; words: string }) {
  const far = Math.max(8, ...track.map(([n, e]) => Math.max(Math.abs(n ?? 0), Math.abs(e ?? 0))))
  const k = 75 / far
  return (
    <figure className="m-0 max-w-41">
      {track.length > 0 && (
        <svg width="164" height="164" role="img" aria-label={`A hold with it, seen from above: ${words}`}>
          <g transform="translate(82 82)">
            <rect x="-81" y="-81" width="162" height="162" fill="var(--panel)" stroke="var(--line)" />
            <circle r={5 * k} fill="none" stroke="var(--line)" strokeDasharray="3 3" />
            <text x={5 * k + 3} y="4" fontSize="12" fill="var(--soft)">
              5 m
            </text>
            <path d={track.map(([n, e], i) => `${i ? 'L' : 'M'}${(e ?? 0) * k} ${-(n ?? 0) * k}`).join('')} fill="none" stroke="var(--act)" strokeWidth="1.8" />
            <circle r="3.5" fill="var(--ink)" />
          </g>
        </svg>
      )}
      <figcaption className="text-[14px]">
        <b>Forty seconds of hold in the model.</b> {words}
      </figcaption>
    </figure>
  )
}
