import { type FormEvent, useState } from 'react'
import { useSearchParams } from 'react-router'
import { Button, TextButton } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { fieldRow, ways } from '../../kit/looks'
import { Select } from '../../kit/select'
import { lower } from '../../kit/text'
import { onConflict } from '../../places/line/conflict'
import { type Kind, labelOf, PartField } from '../../places/parts/part-field'
import { useWhatIf } from '../../wire/airframe'
import { acts, type Change, type QuadView, type Schemas, useAct } from '../../wire/client'
import { asNamed } from '../../wire/path'

const triable: Kind[] = ['pack', 'propeller', 'motor', 'speedController', 'frame', 'board', 'video']

/** What is tried stands in the address: it can be left and come back to, and a search leads here. */
function useTried() {
  const [query, setQuery] = useSearchParams()
  const parts = query
    .getAll('try')
    .map((t) => ({ kind: t.slice(0, t.indexOf(':')) as Kind, name: t.slice(t.indexOf(':') + 1) }))
    .filter((p) => triable.includes(p.kind) && p.name !== '')
  const cells = Math.max(-4, Math.min(4, Math.round(Number(query.get('cells')) || 0)))
  const set = (parts: { kind: Kind; name: string }[], cells: number) => {
    const next = new URLSearchParams({ at: 'what-if' })
    for (const p of parts) next.append('try', `${p.kind}:${p.name}`)
    if (cells) next.set('cells', String(cells))
    setQuery(next, { replace: true })
  }
  return { parts, cells, set }
}

/** Another pack, propeller or motor, a cell more: what would be, beside what is; differences first. */
export function WhatIf({ quad }: { quad: QuadView }) {
  const { parts, cells, set } = useTried()
  const [kind, setKind] = useState<Kind>('propeller')
  const seen = useWhatIf(quad, { parts, cells })
  const fit = useAct(quad.id, async () => {
    let view = quad
    for (const p of parts) view = await acts.fit(quad.id, { version: view.version, kind: p.kind, name: p.name })
    return view
  })
  const add = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const name = String(new FormData(e.currentTarget).get(kind) ?? '').trim()
    if (name) set([...parts.filter((p) => p.kind !== kind), { kind, name }], cells)
  }
  const any = parts.length > 0 || cells !== 0
  const v = any && !seen.error ? seen.data : undefined
  return (
    <div className="min-h-0 overflow-y-auto pr-2">
      <form className={`${fieldRow} items-start!`} aria-label="Try a part" onSubmit={add}>
        <div className="grid text-[13px] text-soft">
          <span>what</span>
          <Select
            label="What is tried"
            className="w-44"
            value={kind}
            onChoose={(k) => setKind(k as Kind)}
            options={triable.map((k) => ({ value: k, words: labelOf[k] }))}
          />
        </div>
        <div className="[&_input]:w-72!">
          <PartField key={`${kind} ${parts.length}`} kind={kind} label="which one" />
        </div>
        <Button small main type="submit" className="mt-5">
          Try it
        </Button>
        <Button small className="mt-5" aria-pressed={cells === 1} onClick={() => set(parts, cells === 1 ? 0 : 1)}>
          One cell more
        </Button>
        <Button small className="mt-5" aria-pressed={cells === -1} onClick={() => set(parts, cells === -1 ? 0 : -1)}>
          One cell less
        </Button>
      </form>
      {any && (
        <p className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
          <span>Tried:</span>
          {parts.map((p) => (
            <span key={p.kind}>
              <b>{p.name}</b>{' '}
              <TextButton
                quiet
                aria-label={`Leave ${p.name}`}
                onClick={() =>
                  set(
                    parts.filter((x) => x.kind !== p.kind),
                    cells,
                  )
                }
              >
                leave it
              </TextButton>
            </span>
          ))}
          {cells !== 0 && (
            <span>
              <b>
                {Math.abs(cells)} {Math.abs(cells) === 1 ? 'cell' : 'cells'} {cells > 0 ? 'more' : 'less'} in every pack
              </b>{' '}
              <TextButton quiet aria-label="Leave the packs as they are" onClick={() => set(parts, 0)}>
                leave it
              </TextButton>
            </span>
          )}
        </p>
      )}
      {!any && <p className="text-soft">Nothing is changed by trying: choose a part, or a cell more, and see what it does to all of the quad.</p>}
      {any && seen.error && (
        <p role="alert" className="text-stop">
          {seen.error.message}
        </p>
      )}
      {any && !seen.error && !v && <p aria-busy="true">Trying it…</p>}
      {v && (
        <div className="grid grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] gap-6 phone:grid-cols-1" aria-live="polite">
          <section aria-label="What differs">
            <Subhead>What differs</Subhead>
            {v.figures.length === 0 ? <p className="text-soft">No figure of the drive.</p> : <Differences figures={v.figures} />}
            {v.weighs > 0 && (
              <p className="mt-1 text-[13px] text-soft">
                Taken to weigh {v.weighs} g until you weigh it: what was weighed, with the difference of these parts.
              </p>
            )}
            {v.gains && <Gains quad={quad} gains={v.gains} edits={v.edits} />}
          </section>
          <section aria-label="What comes and goes">
            <FindingList title="Comes" list={v.comes} none="No finding comes." />
            <FindingList title="Goes" list={v.goes} none="None goes." gone />
            <p className="text-[14px] text-soft">
              {v.stays} {v.stays === 1 ? 'stays' : 'stay'}.
            </p>
            <p className="mt-1 text-[14px]">{v.falls.length > 0 ? `To be proven again: ${v.falls.join(', ')}.` : 'No proof falls by it.'}</p>
            {cells === 0 && (
              <div className={ways}>
                <Button
                  small
                  main
                  disabled={fit.isPending}
                  onClick={() => fit.mutate(undefined, { onError: onConflict(quad, 'These parts', []), onSuccess: () => set([], 0) })}
                >
                  Fit {parts.length > 1 ? 'them' : 'it'}
                </Button>
                {parts.some((p) => p.kind === 'pack') && <span className="text-[13px] text-soft">A pack is added to those that are assigned.</span>}
              </div>
            )}
          </section>
        </div>
      )}
    </div>
  )
}

const n = (x: number, unit: string) => {
  const digits = unit === '1' ? 2 : Math.abs(x) >= 100 ? 0 : 1
  return `${x.toFixed(digits)}${unit === '1' ? '' : ` ${unit}`}`
}

/** Figures before and after, each as a stroke from where it is to where it would be, the largest difference first. */
function Differences({ figures }: { figures: Schemas['WhatIfFigure'][] }) {
  return (
    <table className="w-full text-[14px]">
      <thead className="sr-only">
        <tr>
          <th scope="col">figure</th>
          <th scope="col">now</th>
          <th scope="col">change</th>
          <th scope="col">then</th>
        </tr>
      </thead>
      <tbody>
        {figures.map((f) => {
          const most = Math.max(Math.abs(f.before), Math.abs(f.after), 1e-9)
          const [a, b] = [(100 * Math.abs(f.before)) / most, (100 * Math.abs(f.after)) / most]
          const good = f.better === 0 ? 0 : Math.sign(f.after - f.before) * f.better
          const ink = good > 0 ? 'var(--ok)' : good < 0 ? 'var(--fix)' : 'var(--soft)'
          return (
            <tr key={f.label} className="border-b border-line">
              <th scope="row" className="py-1 pr-2 text-left font-normal">
                {f.label}
              </th>
              <td className="w-19 text-right text-soft tabular-nums">{n(f.before, f.unit)}</td>
              <td className="w-28 px-2.5">
                <svg viewBox="0 0 100 12" className="h-3 w-full" preserveAspectRatio="none" aria-hidden>
                  <path d={`M0 6H${a}`} stroke="var(--line)" strokeWidth="5" />
                  <path d={`M${a} 6H${b}`} stroke={ink} strokeWidth="5" />
                </svg>
                <span className="sr-only">{good > 0 ? 'better' : good < 0 ? 'worse' : 'other'}</span>
              </td>
              <td className="w-19 font-semibold tabular-nums">{n(f.after, f.unit)}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

function Gains({ quad, gains: g, edits }: { quad: QuadView; gains: Schemas['FlightRegain']; edits: Schemas['CheckEdit'][] }) {
  const edit = useAct(quad.id, (values: Change[]) => acts.edit(quad.id, quad.version, values))
  const values: Change[] = edits.map((e) => ({ path: asNamed(e.path), value: Number(e.value) }))
  return (
    <div className="mt-3 rounded-lg border border-line bg-panel px-3 py-2 text-[14px]">
      <p>
        It answers the same throttle {g.share < 1 ? 'more' : 'less'}: the same loop gain is that of <b>{Math.round(100 * g.share)} %</b> of the gains.{' '}
        {g.shakes ? (
          <b className="text-fix">Flown with the gains as they are it oscillates on a full pack;</b>
        ) : (
          'Flown with the gains as they are it holds still on a full pack;'
        )}{' '}
        {g.settled ? 'with that share it holds still.' : 'with that share it oscillates too.'}
      </p>
      <Button small className="mt-1" disabled={edit.isPending} onClick={() => edit.mutate(values, { onError: onConflict(quad, 'The gains', values) })}>
        Set the gains to {Math.round(100 * g.share)} %
      </Button>
    </div>
  )
}

const mark = { stop: 'bg-stop', fix: 'bg-fix', note: 'bg-note' } as const

function FindingList({ title, list, none, gone }: { title: string; list: Schemas['WhatIfFinding'][]; none: string; gone?: boolean }) {
  return (
    <>
      <Subhead className="mt-1">{title}</Subhead>
      {list.length === 0 && <p className="text-[14px] text-soft">{none}</p>}
      <ul className="mb-2">
        {list.map((f) => (
          <li key={f.station + f.title + f.figures} className="border-b border-line py-1 text-[14px]">
            <span className={`mr-2 inline-block size-2.5 rounded-full align-baseline ${mark[f.weight]}`} aria-hidden />
            <span className="text-soft">
              {f.weight}, {lower(f.station)}:
            </span>{' '}
            <span className={gone ? 'line-through decoration-soft' : 'font-semibold'}>{f.title}</span>
            <span className="block text-[13px] text-soft">{f.figures}</span>
          </li>
        ))}
      </ul>
    </>
  )
}
