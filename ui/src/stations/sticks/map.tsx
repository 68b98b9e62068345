import { useState } from 'react'
import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { join } from '../../kit/join'
import { Tick } from '../../kit/tick'
import { onConflict } from '../../places/line/conflict'
import { AsTable } from '../../shell/as-table'
import { showError } from '../../shell/message'
import type { Change } from '../../wire/client'
import { acts, proposePlan, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { asNamed } from '../../wire/path'
import { Switches } from './add-switch'
import { offSwitches, useCarry } from './carry'
import { Column, pulseOf } from './column'
import { Meaning } from './meaning'
import type { Source } from './source'

/** From the hand outwards: each switch as it lies, what flies in each of its positions, and how surely. Meanings are moved between positions. */
export function SwitchMap({ quad, source }: { quad: QuadAt<'sticks'>; source: Source }) {
  const v = quad.switches
  const carry = useCarry(quad)
  return (
    <>
      <AsTable
        caption="What the board does at every position"
        head={['switch', 'position', 'arrives', 'what the board does', 'nearest below', 'nearest above']}
        rows={v.map.columns.flatMap((c) =>
          [...c.cells].reverse().map((cell) => [c.name, cell.position, pulseOf(cell, c.captured), cell.words, wayWords(cell.below), wayWords(cell.above)]),
        )}
      />
      {v.loop.length > 0 && (
        <p role="alert" className="text-stop">
          {v.loop.join(', ')} go round: nothing of what is mixed is shown.
        </p>
      )}
      <p id="how-to-carry" className="text-[14px] text-soft">
        Drag a meaning to another position; or lift it with the space bar and move it with the arrows. Press it to type its edges.
      </p>
      <section
        aria-label="On no switch"
        data-off
        className={join(
          'flex flex-wrap items-center gap-2.5 rounded-lg border border-dashed border-line px-3 py-1.5 text-[14px]',
          carry.over(offSwitches) && 'border-act bg-act-bg',
        )}
      >
        <span className="text-soft">{v.map.loose.length > 0 ? 'On no switch' : 'Every meaning is on a switch; put one here to take it off'}</span>
        {v.map.loose.map((l) => (
          <span key={l.function}>
            <Meaning quad={quad} id={l.function} carry={carry} />
            {l.words && <span className="ml-1.5 text-fix">{l.words}</span>}
          </span>
        ))}
      </section>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(236px,1fr))] gap-x-5 gap-y-6">
        {v.map.columns.map((c) => (
          <Column key={c.name} quad={quad} column={c} carry={carry} source={source} />
        ))}
      </div>
      <Switches quad={quad} />
      <p role="status" className="sr-only">
        {carry.words}
      </p>
      <Flies quad={quad} />
      <Propose quad={quad} />
    </>
  )
}

const wayWords = (w?: Schemas['ToEdge']) => (w ? `${Math.round(w.us)} µs: ${w.words}` : 'nothing changes')

/** Every way in which the switches can lie together, each as a row of small levers, and what flies then. */
function Flies({ quad }: { quad: QuadAt<'sticks'> }) {
  const v = quad.switches
  if (v.combinations.length === 0) return null
  const levers = v.map.columns.filter((c) => v.combinations.some((x) => x.at[c.switch] !== undefined))
  return (
    <section aria-label="What flies">
      <Subhead>What flies, all switches together, in the order above{v.more ? '; the first ones of many' : ''}</Subhead>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(190px,1fr))] gap-x-4 gap-y-2">
        {v.combinations.map((c) => (
          <li
            key={levers.map((l) => c.at[l.switch]).join()}
            className={join('flex items-center gap-2.5 border-l-4 py-1 pl-2.5 text-[14px] leading-tight', c.armed ? 'border-stop' : 'border-line text-soft')}
          >
            <span className="flex gap-1" aria-hidden="true">
              {levers.map((l) => (
                <Lever key={l.switch} cells={l.cells} at={c.at[l.switch] ?? ''} name={l.name} />
              ))}
            </span>
            <span className="sr-only">{levers.map((l) => `${l.name} at ${c.at[l.switch]}`).join(', ')}: </span>
            <span>
              <b>
                {c.armed ? 'armed' : 'safe'}, {c.flies}
              </b>
              {c.over.length > 0 && <span className="text-fix"> over {c.over.join(', ')}</span>}
              {c.also.length > 0 && <span className="block">{c.also.join(', ')}</span>}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Lever({ cells, at, name }: { cells: Schemas['Cell'][]; at: string; name: string }) {
  const step = 11
  const height = cells.length * step
  return (
    <svg width="13" height={height}>
      <title>{`${name} at ${at}`}</title>
      <path d={`M6.5 ${step / 2}V${height - step / 2}`} stroke="var(--line)" strokeWidth="3" />
      {cells.map((c, i) => (
        <circle
          key={c.position}
          cx="6.5"
          cy={height - step / 2 - i * step}
          r={c.position === at ? 4.5 : 2}
          fill={c.position === at ? 'var(--ink)' : 'var(--line)'}
        />
      ))}
    </svg>
  )
}

/** A plan for the switches by what the pilot prefers; taken as one edit. */
function Propose({ quad }: { quad: QuadAt<'sticks'> }) {
  const [top, setTop] = useState(quad.switches.taste.levelAtTop)
  const [blended, setBlended] = useState(quad.switches.taste.blended)
  const [plan, setPlan] = useState<Schemas['Proposal'] | null>(null)
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
              showError(e)
            })
        }
      >
        Propose a plan
      </Button>
      {plan && (
        <>
          <span aria-live="polite">{plan.words.join(' ')}</span>
          <ul className="[&_li]:border-b [&_li]:border-line [&_li]:py-1 [&_li]:text-[15px]" aria-label="What it changes">
            {plan.changes.map((c) => (
              <li key={c}>{c}</li>
            ))}
          </ul>
          <Button
            small
            main
            onClick={() =>
              take.mutate(
                plan.edits.map((e) => ({ path: asNamed(e.path), value: e.value })),
                { onError: onConflict(quad, 'The plan', []), onSuccess: () => setPlan(null) },
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
