import { useState } from 'react'
import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { Facts } from '../../kit/table'
import { Tick } from '../../kit/tick'
import { late } from '../../places/line/apart'
import { AsTable } from '../../shell/as-table'
import { tellError } from '../../shell/say'
import type { Change } from '../../wire/client'
import { acts, assignMeaning, proposePlan, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { asNamed } from '../../wire/path'

type Strip = Schemas['Strip']
type Edge = 'from' | 'to'
type Meaning = Schemas['AssignBody']['function']

const meanings: [Meaning, string][] = [
  ['arm', 'armed'],
  ['selfLevel', 'self-level'],
  ['blended', 'blended'],
  ['authority', 'authority at idle'],
  ['beeper', 'beeper'],
]

const width = 720
const left = 6
const right = width - 6
const x = (us: number) => left + ((Math.min(Math.max(us, 900), 2100) - 900) / 1200) * (right - left)
const back = (at: number) => 900 + ((at - left) / (right - left)) * 1200

const places = (p: Schemas['Place']) => Object.entries(p.at)
const standing = (p: Schemas['Place']) =>
  places(p)
    .map(([name, at]) => (places(p).length > 1 ? `${name} ${at}` : at))
    .join(', ')

/** Every channel as a ruler: where the switches' positions arrive above it, what the board does below it, with edges that move. */
export function SwitchMap({ quad }: { quad: QuadAt<'sticks'> }) {
  const v = quad.switches
  const [held, setHeld] = useState<Meaning | ''>('')
  const put = useAct(quad.id, (to: { switch: string; position: string }) => assignMeaning(quad.id, { version: quad.version, function: held || 'arm', ...to }))
  const drop = (to: { switch: string; position: string }) => {
    if (held) put.mutate(to, { onError: late(quad, 'The meaning', []), onSettled: () => setHeld('') })
  }
  const names = [...new Set(v.combinations.flatMap((c) => Object.keys(c.at)))].sort()
  return (
    <>
      <AsTable
        caption="What arrives on every channel"
        head={['channel', 'position', 'µs', 'what the board does']}
        rows={v.strips.flatMap((s) =>
          s.places.map((p) => [
            s.channel,
            standing(p),
            Math.round(p.pulse),
            s.functions
              .map((f) => (p.pulse >= f.range.from && p.pulse <= f.range.to ? f.on : f.off))
              .filter((w, i, all) => all.indexOf(w) === i)
              .join(', '),
          ]),
        )}
      />
      {v.loop.length > 0 && (
        <p role="alert" className="text-stop">
          {v.loop.join(', ')} go round: nothing of what is mixed is shown.
        </p>
      )}
      <section aria-label="Meanings" className="flex flex-wrap items-center gap-2.5 text-[14px]">
        <span className="text-soft">Drag a meaning onto a position, or pick it and then the position:</span>
        {meanings.map(([id, words]) => (
          <button
            key={id}
            type="button"
            className="cursor-grab touch-none rounded-xl border border-act bg-panel px-2.5 py-px text-[14px] text-act aria-pressed:bg-act aria-pressed:text-panel"
            aria-pressed={held === id}
            onPointerDown={(e) => {
              if (e.currentTarget.hasPointerCapture(e.pointerId)) e.currentTarget.releasePointerCapture(e.pointerId)
              setHeld(id)
            }}
            onKeyDown={(e) => {
              if (e.key === 'Enter' || e.key === ' ') {
                e.preventDefault()
                setHeld(held === id ? '' : id)
              } else if (e.key === 'Escape') setHeld('')
            }}
          >
            {words}
          </button>
        ))}
      </section>
      <div
        onPointerUp={(e) => {
          const at = document.elementFromPoint(e.clientX, e.clientY)?.closest<HTMLElement>('[data-position]')
          if (held && at) drop({ switch: at.dataset.switch ?? '', position: at.dataset.position ?? '' })
        }}
      >
        {v.strips.map((s) => (
          <Ruler key={s.channel} quad={quad} strip={s} held={held} onDrop={drop} />
        ))}
      </div>
      <Propose quad={quad} />
      {v.combinations.length > 0 && (
        <section aria-label="What flies">
          <Subhead>What flies, switch by switch{v.more ? '; the first ones of many' : ''}</Subhead>
          <Facts className="hidden print:table [&_tr[data-armed=false]_td]:text-soft">
            <thead>
              <tr>
                {names.map((n) => (
                  <th key={n} scope="col">
                    {n}
                  </th>
                ))}
                <th scope="col">the board</th>
                <th scope="col">and</th>
              </tr>
            </thead>
            <tbody>
              {v.combinations.map((c) => (
                <tr key={names.map((n) => c.at[n]).join()} data-armed={c.armed}>
                  {names.map((n) => (
                    <td key={n}>{c.at[n]}</td>
                  ))}
                  <td>
                    <b>{c.armed ? `armed, ${c.flies}` : `safe, ${c.flies}`}</b>
                    {c.over.length > 0 && <span className="text-soft"> over {c.over.join(', ')}</span>}
                  </td>
                  <td>{c.also.join(', ')}</td>
                </tr>
              ))}
            </tbody>
          </Facts>
        </section>
      )}
    </>
  )
}

type Drop = (to: { switch: string; position: string }) => void

function Ruler({ quad, strip, held, onDrop }: { quad: QuadAt<'sticks'>; strip: Strip; held: Meaning | ''; onDrop: Drop }) {
  const [moved, setMoved] = useState<{ id: string; edge: Edge; us: number } | null>(null)
  const set = useAct(quad.id, (v: Change) => acts.edit(quad.id, quad.version, [v]))
  const edgeOf = (f: Schemas['Function'], edge: Edge) => (moved?.id === f.id && moved.edge === edge ? moved.us : f.range[edge])
  const commit = (f: Schemas['Function']) => {
    if (!moved || moved.id !== f.id) return
    const { edge, us } = moved
    if (us === f.range[edge]) {
      setMoved(null)
      return
    }
    set.mutate({ path: asNamed(`${f.path}.${edge}`), value: us }, { onError: late(quad, 'Your edge', []), onSettled: () => setMoved(null) })
  }
  const move = (f: Schemas['Function'], edge: Edge, us: number) => setMoved({ id: f.id, edge, us: Math.round(Math.min(Math.max(us, 900), 2100) / 5) * 5 })
  const holds = (p: Schemas['Place']) => {
    const hit = quad.positions.find((m) => m.channel === strip.channel && p.at[m.switch] === m.position && m.hold !== 'sure')
    return hit ? (hit.hold === 'edge' ? 'var(--stop)' : 'var(--fix)') : 'var(--ink)'
  }
  const top = 34
  const height = top + 8 + Math.max(strip.functions.length, 1) * 24
  const drivers = [...strip.switches, ...strip.mixes.map((m) => `mix ${m}`)]
  return (
    <section aria-label={`Channel ${strip.channel}`} className="border-b border-line py-1 [&_svg]:block [&_svg]:w-full [&_svg]:touch-none">
      <p>
        <b>{strip.channel}</b> {drivers.length ? drivers.join(' and ') : 'nothing drives it'}
        {!strip.captured && drivers.length > 0 && <span className="text-soft">, as planned</span>}
        {strip.switches.map((name) => {
          const plan = quad.meant.radio.switches[name]
          return plan?.positions.map((position) => (
            <button
              key={`${name} ${position}`}
              type="button"
              className="ml-2 touch-none rounded-xl border border-line bg-panel px-2.5 py-px text-[14px] text-soft data-[target=true]:border-dashed data-[target=true]:border-act data-[target=true]:text-act"
              data-switch={name}
              data-position={position}
              data-target={held !== ''}
              disabled={held === ''}
              aria-label={`${name} at ${position}`}
              onKeyDown={(e) => {
                if (e.key !== 'Enter' && e.key !== ' ') return
                e.preventDefault()
                onDrop({ switch: name, position })
              }}
            >
              {position}
              {plan.rest === position && ', rests'}
              {plan.lost === position && ', without a radio'}
            </button>
          ))
        })}
      </p>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        aria-label={`Channel ${strip.channel} from 900 to 2100 µs`}
        onPointerMove={(e) => {
          if (!moved || e.buttons === 0) return
          const f = strip.functions.find((g) => g.id === moved.id)
          const box = e.currentTarget.getBoundingClientRect()
          if (f) move(f, moved.edge, back(((e.clientX - box.left) / box.width) * width))
        }}
        onPointerUp={() => {
          const f = strip.functions.find((g) => g.id === moved?.id)
          if (f) commit(f)
        }}
      >
        <path d={`M${left} ${top}H${right}`} stroke="var(--wire)" strokeWidth="1.5" />
        {[1000, 1250, 1500, 1750, 2000].map((us) => (
          <path key={us} d={`M${x(us)} ${top - 4}v8`} stroke="var(--faint)" />
        ))}
        {strip.places.map((p) => (
          <g key={standing(p)} style={{ color: holds(p) }}>
            <path d={`M${x(p.pulse)} ${top - 9}V${height - 4}`} stroke="currentColor" strokeDasharray="2 3" />
            <circle cx={x(p.pulse)} cy={top} r="4.5" fill="currentColor" />
            <text
              x={x(p.pulse)}
              y={top - 14}
              fontSize="13"
              textAnchor={p.pulse < 1100 ? 'start' : p.pulse > 1900 ? 'end' : 'middle'}
              style={{ fill: 'currentColor' }}
            >
              {standing(p)} {Math.round(p.pulse)}
            </text>
          </g>
        ))}
        {strip.functions.map((f, i) => {
          const y = top + 10 + i * 24
          const [a, b] = [edgeOf(f, 'from'), edgeOf(f, 'to')]
          return (
            <g key={f.id}>
              <rect x={x(a)} y={y} width={Math.max(x(b) - x(a), 1)} height="18" rx="3" fill={f.id === 'arm' ? 'var(--stop-bg)' : 'var(--act-bg)'} />
              <text x={(x(a) + x(b)) / 2} y={y + 13.5} textAnchor="middle" fontSize="13" fontWeight="600">
                {x(b) - x(a) > 60 ? f.on : ''}
              </text>
              {(['from', 'to'] as const).map((edge) => (
                <rect
                  key={edge}
                  role="slider"
                  tabIndex={0}
                  aria-label={`${f.name}, ${edge}, µs`}
                  aria-valuemin={900}
                  aria-valuemax={2100}
                  aria-valuenow={edgeOf(f, edge)}
                  aria-valuetext={`${edgeOf(f, edge)} µs`}
                  className="cursor-ew-resize fill-panel stroke-act stroke-2 focus-visible:fill-act"
                  x={x(edgeOf(f, edge)) - 5}
                  y={y - 1}
                  width="10"
                  height="20"
                  rx="3"
                  onPointerDown={(e) => {
                    e.currentTarget.ownerSVGElement?.setPointerCapture(e.pointerId)
                    move(f, edge, edgeOf(f, edge))
                  }}
                  onKeyDown={(e) => {
                    const by = { ArrowLeft: -5, ArrowRight: 5, ArrowDown: -5, ArrowUp: 5, PageDown: -25, PageUp: 25 }[e.key]
                    if (by === undefined) {
                      if (e.key === 'Escape') setMoved(null)
                      return
                    }
                    e.preventDefault()
                    move(f, edge, edgeOf(f, edge) + by)
                  }}
                  onKeyUp={() => commit(f)}
                />
              ))}
            </g>
          )
        })}
      </svg>
      {strip.functions.length > 0 && strip.gaps.length > 0 && (
        <p className="text-soft text-[13px]">nothing is on from {strip.gaps.map((g) => `${g.from} to ${g.to}`).join(', ')} µs</p>
      )}
      {moved && (
        <p className="text-soft" aria-live="polite">
          {moved.us} µs
        </p>
      )}
    </section>
  )
}

/** A plan for the switches by what the pilot prefers; taken as one edit. */
function Propose({ quad }: { quad: QuadAt<'sticks'> }) {
  const [top, setTop] = useState(quad.switches.taste.levelAtTop)
  const [blended, setBlended] = useState(quad.switches.taste.blended)
  const [plan, setPlan] = useState<Schemas['Proposal'] | null>(null)
  const changes = (plan?.edits ?? []).flatMap((e) => {
    const name = e.path.replace('sheet.sticks.', '')
    const was = quad.meant.sheet.sticks[name as 'arm'] as Schemas['Range'] | boolean
    const now = e.value as Schemas['Range'] | boolean
    const say = (r: Schemas['Range'] | boolean) =>
      typeof r === 'boolean' ? (r ? 'yes' : 'no') : r.channel ? `channel ${r.channel}, ${r.from} to ${r.to} µs` : 'not used'
    const words = meanings.find(([id]) => id === name)?.[1] ?? 'authority always'
    return say(was) === say(now) ? [] : [`${words}: ${say(was)}, then ${say(now)}`]
  })
  const take = useAct(quad.id, (edits: Change[]) => acts.edit(quad.id, quad.version, edits))
  return (
    <section aria-label="A plan for the switches" className="flex flex-wrap items-center gap-2.5">
      <Tick checked={top} onChange={setTop}>
        self-level at the high end
      </Tick>
      <Tick checked={blended} onChange={setBlended}>
        blended in the middle
      </Tick>
      <Button
        small
        onClick={() =>
          void proposePlan(quad.id, { levelAtTop: top, blended })
            .then(setPlan)
            .catch((e) => {
              setPlan(null)
              tellError(e)
            })
        }
      >
        Propose a plan
      </Button>
      {plan && (
        <>
          <span aria-live="polite">{plan.words.join(' ')}</span>
          <ul className="[&_li]:border-b [&_li]:border-line [&_li]:py-1 [&_li]:text-[15px]" aria-label="What it changes">
            {changes.map((c) => (
              <li key={c}>{c}</li>
            ))}
          </ul>
          <Button
            small
            main
            onClick={() =>
              take.mutate(
                plan.edits.map((e) => ({ path: asNamed(e.path), value: e.value })),
                { onError: late(quad, 'The plan', []), onSuccess: () => setPlan(null) },
              )
            }
          >
            Take it
          </Button>
        </>
      )}
    </section>
  )
}
