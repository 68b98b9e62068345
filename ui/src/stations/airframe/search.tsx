import { useDeferredValue, useState } from 'react'
import { useSearchParams } from 'react-router'
import { Disclosure } from '../../kit/disclosure'
import { Subhead } from '../../kit/heading'
import { Select } from '../../kit/select'
import { Facts } from '../../kit/table'
import { Tick } from '../../kit/tick'
import { usePartSearch } from '../../wire/airframe'
import type { QuadView, Schemas } from '../../wire/client'
import { figure } from '../senses/figure'
import { type Axis, axes, type Goals } from './axes'
import { Front } from './search-front'

type Found = Schemas['Found']
const none: Record<Axis, string> = { hoverDuty: '', minutes: '', ratio: '', mass: '' }

/** What could be on it instead: every motor with every propeller on every pack, and of those that could be the ones that none beats. */
export function PartSearch({ quad }: { quad: QuadView }) {
  const [typed, setTyped] = useState(none)
  const [without, setWithout] = useState<Axis[]>([])
  const [across, setAcross] = useState<Axis>('mass')
  const [up, setUp] = useState<Axis>('minutes')
  const [, setQuery] = useSearchParams()
  const goals = Object.fromEntries(axes.map((a) => [a.key, Math.max(0, figure(typed[a.key]) ?? 0)])) as Goals
  const wish: Schemas['Wish'] = { ...goals, without: without.length ? without : undefined }
  const search = usePartSearch(quad, useDeferredValue(wish))
  const v = search.error ? undefined : search.data
  const open = (f: Found) => {
    const next = new URLSearchParams({ at: 'what-if' })
    next.append('try', `motor:${f.motor}`)
    next.append('try', `propeller:${f.propeller}`)
    next.append('try', `pack:${f.pack}`)
    setQuery(next)
  }
  const set = (axis: Axis, goal: number) => setTyped({ ...typed, [axis]: goal > 0 ? String(goal) : '' })
  return (
    <div className="min-h-0 overflow-y-auto pr-2">
      <div className="grid grid-cols-[minmax(0,1.3fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
        <div>
          <div className="mb-1 flex flex-wrap items-end gap-3">
            {(
              [
                ['across', across, setAcross],
                ['up', up, setUp],
              ] as const
            ).map(([name, value, put]) => (
              <span key={name} className="grid text-[13px] text-soft">
                {name}
                <Select
                  label={`Drawn ${name}`}
                  className="w-40"
                  value={value}
                  onChoose={(k) => put(k as Axis)}
                  options={axes.map((a) => ({ value: a.key, words: a.words, off: a.key === (name === 'up' ? across : up) }))}
                />
              </span>
            ))}
          </div>
          {v ? (
            <Front found={v} across={across} up={up} goals={goals} onGoal={set} onOpen={open} />
          ) : (
            <p role={search.error ? 'alert' : undefined}>{search.error?.message ?? 'Trying all of them…'}</p>
          )}
        </div>
        <section aria-label="The wish">
          <Subhead className="mt-0!">What you wish</Subhead>
          <p className="text-[13px] text-soft">Type a goal, or draw its line in the picture. What does not matter to you is left out of the choice.</p>
          <div className="grid grid-cols-2 gap-x-3 phone:grid-cols-1">
            {axes.map((a) => (
              <div key={a.key} className="mt-1.5 grid content-start gap-1 [&_label]:grid [&_label]:text-[13px] [&_label]:text-soft">
                <label>
                  {a.goal}
                  <input
                    type="text"
                    inputMode="decimal"
                    className="w-26!"
                    placeholder="no goal"
                    value={typed[a.key]}
                    onChange={(e) => setTyped({ ...typed, [a.key]: e.target.value })}
                  />
                </label>
                <Tick
                  className="text-[13px] text-soft"
                  checked={!without.includes(a.key)}
                  onChange={(on) => setWithout(on ? without.filter((w) => w !== a.key) : [...without, a.key])}
                >
                  it matters
                </Tick>
              </div>
            ))}
          </div>
          {v && (
            <div className="mt-2 text-[14px]">
              <p>
                {v.tried.toLocaleString('en-GB')} tried, {v.could.toLocaleString('en-GB')} could be on it, <b>{v.fronts}</b> that none beats.
              </p>
              <Disclosure words="What left the others out" className="mt-1">
                <ul className="text-[13px] text-soft">
                  {v.left.map((l) => (
                    <li key={l.why}>
                      {l.count.toLocaleString('en-GB')}: {l.why}
                    </li>
                  ))}
                </ul>
              </Disclosure>
            </div>
          )}
        </section>
      </div>
      {v && v.front.length > 0 && <Best list={v.front} is={v.is} wished={Object.values(goals).some((g) => g > 0)} onOpen={open} />}
      {v && v.front.length === 0 && <p className="font-semibold">None of them could be on this quad: look at what left them out.</p>}
    </div>
  )
}

function Best({ list, is, wished, onOpen }: { list: Found[]; is?: Found; wished: boolean; onOpen: (f: Found) => void }) {
  const cells = (f: Found) => [
    `${f.hoverDuty.toFixed(1)} %`,
    `${f.minutes.toFixed(1)} min`,
    `${f.ratio.toFixed(1)} ×`,
    `${f.mass.toFixed(0)} g`,
    `${f.peakMotor.toFixed(0)} A`,
  ]
  return (
    <Facts className="mt-2 w-full text-[13.5px] [&_td]:whitespace-nowrap [&_td]:pr-3">
      <caption className="sr-only">Those that none beats, the ones that meet the wish best first</caption>
      <thead>
        <tr>
          {['motor, propeller, pack', 'hover', 'minutes', 'lifts', 'weighs', 'a motor', ''].map((h) => (
            <th key={h} scope="col">
              {h || <span className="sr-only">what can be done</span>}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {is && (
          <tr className="text-soft">
            <th scope="row">on it now</th>
            {cells(is).map((c, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: columns stand in their order
              <td key={i}>{c}</td>
            ))}
            <td />
          </tr>
        )}
        {list.slice(0, 12).map((f) => (
          <tr key={f.motor + f.propeller + f.pack}>
            <th scope="row" className="font-normal">
              {wished && f.meets && <span className="mr-1.5 font-semibold text-ok">meets it</span>}
              {f.motor}, {f.propeller}, {f.pack}
            </th>
            {cells(f).map((c, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: columns stand in their order
              <td key={i} className="tabular-nums">
                {c}
              </td>
            ))}
            <td>
              <button
                type="button"
                className="font-semibold text-act hover:underline"
                onClick={() => onOpen(f)}
                aria-label={`Try ${f.motor}, ${f.propeller}, ${f.pack}`}
              >
                Try it
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </Facts>
  )
}
