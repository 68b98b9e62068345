import { useQuery } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { fieldRow, two } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { Facts } from '../../kit/table'
import { answerOf, type QuadView, type Schemas, server } from '../../wire/client'
import { Advised, doing, type Policy } from './policies'

const winds = { '180': 'towards where it is', '0': 'from where it is', '90': 'across' } as const
type From = keyof typeof winds
const tones: Record<string, string> = { drop: 'var(--stop)', land: 'var(--fix)', return: 'var(--act)' }

const grounds = { people: 'people under it or beside it', roof: 'a roof over it', soft: 'soft ground' } as const

const number = (text: string, least: number, most: number) => {
  const x = Number(text.trim().replace(',', '.'))
  return text.trim() !== '' && x >= least && x <= most ? x : null
}

/** The loss at a place, flown again and again by each policy beside the others, in the wind of the day: where it comes down, how hard, and when. */
export function OutThere({ quad }: { quad: QuadView }) {
  const [typed, setTyped] = useState({ away: '80', height: '20' })
  const [from, setFrom] = useState<From>('180')
  const [ground, setGround] = useState({ people: false, roof: false, soft: false })
  const seen = useDeferredValue(typed)
  const [away, height] = [number(seen.away, 0, 2000), number(seen.height, 1, 500)]
  const flown = useQuery({
    queryKey: ['losses', quad.id, quad.seen, away, height, from, ground],
    queryFn: ({ signal }) =>
      answerOf(
        server.POST('/api/quads/{id}/losses', {
          params: { path: { id: quad.id } },
          body: { away: away ?? 0, height: height ?? 1, from: Number(from), ...ground },
          signal,
        }),
      ),
    enabled: away !== null && height !== null,
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before) => before,
  })
  const v = flown.error ? undefined : flown.data
  return (
    <div className={two}>
      <section aria-label="Where the radio is lost">
        <div className={fieldRow}>
          <label>
            away from home, m
            <input type="text" inputMode="decimal" className="w-22!" value={typed.away} onChange={(e) => setTyped({ ...typed, away: e.target.value })} />
          </label>
          <label>
            up, m
            <input type="text" inputMode="decimal" className="w-22!" value={typed.height} onChange={(e) => setTyped({ ...typed, height: e.target.value })} />
          </label>
        </div>
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <span className="text-[13px] text-soft">The wind blows</span>
          <Segments<From> small items={(Object.keys(winds) as From[]).map((f) => ({ value: f, words: winds[f] }))} value={from} onChoose={setFrom} />
        </div>
        <div className="mt-2 flex flex-wrap gap-x-4 gap-y-1">
          {(Object.keys(grounds) as (keyof typeof grounds)[]).map((g) => (
            <label key={g} className="flex items-center gap-1.5 text-[14px] text-soft">
              <input type="checkbox" checked={ground[g]} onChange={(e) => setGround({ ...ground, [g]: e.target.checked })} /> {grounds[g]}
            </label>
          ))}
        </div>
        {(away === null || height === null) && (
          <p role="alert" className="text-stop">
            Up to 2000 m away, 1 to 500 m up.
          </p>
        )}
        {flown.error && (
          <p role="alert" className="text-stop">
            {flown.error.message}
          </p>
        )}
        {flown.isFetching && <p className="text-soft">It is being flown.</p>}
        {v && (
          <div aria-live="polite">
            <p className="mt-2 text-soft">
              {v.told ? `In ${v.wind} m/s of wind, as you read it.` : 'In still air: nobody told the wind.'} Each {v.losses[0]?.points.length} times, with other
              gusts and other errors of its senses.
            </p>
            <Advised quad={quad} where="Here" advice={v.advice} />
            <Facts>
              <caption className="sr-only">What each policy makes of it</caption>
              <thead>
                <tr>
                  <th scope="col">It</th>
                  <th scope="col">from home</th>
                  <th scope="col">at the ground</th>
                  <th scope="col">after</th>
                </tr>
              </thead>
              <tbody>
                {v.losses.map((l) => (
                  <tr key={named(l)}>
                    <th scope="row" className="text-left align-top">
                      <Mark policy={l.policy as Policy} x={8} y={8} inline /> {named(l)}
                      {l.set && <span className="block text-[13px] font-normal text-soft">as it is set</span>}
                    </th>
                    <td className="align-top">
                      half within {round(l.half)} m, 95 % within {round(l.most)} m{l.up > 0 && `, ${l.up} not down`}
                    </td>
                    <td className="align-top">
                      {l.speed.toFixed(1)} m/s, {round(l.energy)} J
                    </td>
                    <td className="align-top">{round(l.after)} s</td>
                  </tr>
                ))}
              </tbody>
            </Facts>
            <ul className="mt-2 text-[14px]">
              {v.losses.map((l) => (
                <li key={named(l)} className="border-b border-line py-1">
                  <b>{named(l)}:</b> {l.words}
                </li>
              ))}
            </ul>
            {v.lacks && <p className="text-faint">{v.lacks}</p>}
          </div>
        )}
      </section>
      <section aria-label="Where it comes down">{v && <Ground view={v} from={Number(from)} />}</section>
    </div>
  )
}

const round = (x: number) => Math.round(x)

/** What it does, and whether it took off before it knew where it was. */
const named = (l: Schemas['LossesView']['losses'][number]) => `${doing[l.policy]}${l.homeless ? ', its home never set' : ''}`

function Mark({ policy, x, y, inline }: { policy: Policy; x: number; y: number; inline?: boolean }) {
  const tone = tones[policy]
  const shape =
    policy === 'drop' ? (
      <path d={`M${x - 4} ${y - 4}l8 8m0 -8l-8 8`} stroke={tone} strokeWidth="2" />
    ) : policy === 'land' ? (
      <circle cx={x} cy={y} r="4.5" fill="none" stroke={tone} strokeWidth="2" />
    ) : (
      <path d={`M${x} ${y - 5.5}l5 9h-10z`} fill="none" stroke={tone} strokeWidth="2" />
    )
  return inline ? (
    <svg width="16" height="16" aria-hidden className="inline-block align-[-2px]">
      {shape}
    </svg>
  ) : (
    shape
  )
}

const box = { w: 400, h: 420 }

/** The ground from above: home below, where the radio was lost above it, and where each came down. */
function Ground({ view, from }: { view: Schemas['LossesView']; from: number }) {
  const points = view.losses.filter((l) => !l.homeless).flatMap((l) => l.points.filter((p) => p.down).map((p) => ({ ...p, policy: l.policy as Policy })))
  const away = view.losses[0]?.away ?? 0
  const along = [0, away, ...points.map((p) => p.along), view.clear, -view.clear]
  const [low, high] = [Math.min(...along), Math.max(...along)]
  const wide = Math.max(view.clear, ...points.map((p) => Math.abs(p.aside)), 5)
  const k = Math.min((box.h - 70) / Math.max(10, high - low), (box.w - 60) / (2 * wide))
  const at = (p: { along: number; aside: number }) => [box.w / 2 + p.aside * k, 36 + (high - p.along) * k] as const
  const [hx, hy] = at({ along: 0, aside: 0 })
  const [qx, qy] = at({ along: away, aside: 0 })
  const step = [5, 10, 20, 50, 100, 200, 500].find((s) => s * k > 40) ?? 1000
  return (
    <svg
      width={box.w}
      height={box.h}
      role="img"
      aria-label={`From above, home and ${round(away)} m away where the radio is lost. ${view.losses.map((l) => `It ${doing[l.policy]}: half within ${round(l.half)} m of home`).join('. ')}`}
    >
      <rect width={box.w} height={box.h} rx="6" fill="var(--panel)" stroke="var(--line)" />
      {view.clear > 0 && <circle cx={hx} cy={hy} r={view.clear * k} fill="none" stroke="var(--ok)" strokeDasharray="6 4" />}
      <path d={`M${hx} ${hy}L${qx} ${qy}`} stroke="var(--line)" strokeDasharray="3 4" />
      {points.map((p, i) => {
        const [x, y] = at(p)
        // biome-ignore lint/suspicious/noArrayIndexKey: losses have no names
        return <Mark key={i} policy={p.policy} x={x} y={y} />
      })}
      <path d={`M${hx} ${hy - 9}l9 8h-3v8h-12v-8h-3z`} fill="var(--ink)" />
      <text x={hx + 14} y={hy + 5} fontSize="13" fill="var(--soft)">
        home
      </text>
      <path d={`M${qx - 8} ${qy - 8}l16 16m0 -16l-16 16`} stroke="var(--ink)" strokeWidth="2" />
      <text x={qx + 14} y={qy + 5} fontSize="13" fill="var(--soft)">
        radio lost
      </text>
      {view.wind > 0 && (
        <g transform={`translate(40 44) rotate(${from + 180})`} stroke="var(--soft)" fill="none" strokeWidth="2">
          <path d="M0 18V-18M-6 -10L0 -18L6 -10" />
        </g>
      )}
      {view.wind > 0 && (
        <text x="16" y="82" fontSize="12.5" fill="var(--soft)">
          wind
        </text>
      )}
      <path d={`M20 ${box.h - 20}h${step * k}m0 -4v8m${-step * k} -8v8`} stroke="var(--soft)" fill="none" />
      <text x={26 + step * k} y={box.h - 16} fontSize="12.5" fill="var(--soft)">
        {step} m
      </text>
    </svg>
  )
}
