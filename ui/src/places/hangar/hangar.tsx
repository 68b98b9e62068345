import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useDeferredValue, useEffect, useState } from 'react'
import { Link } from 'react-router'
import { Button, TextButton } from '../../kit/button'
import { Disclosure } from '../../kit/disclosure'
import { Page } from '../../kit/page'
import { Segments } from '../../kit/segments'
import { ink } from '../../kit/tones'
import { AsTable } from '../../shell/as-table'
import { Bird } from '../../shell/birds'
import { showError } from '../../shell/message'
import { type Schemas, setShows, useHangar, usePilot, useQuad, useWhich } from '../../wire/client'
import { LimitRow } from '../line/limits'
import { Todos } from '../line/next'
import { QuadWays, Ways } from './ways'

/** Quads that are drawn at once: more than a screen holds. */
const atOnce = 12

/** The quads, each on its own small wire: what state it is in and what to do next. */
export function Hangar() {
  const hangar = useHangar()
  const [found, setFound] = useState<Found>(null)
  document.title = 'Hangar · Vivid Perch'
  if (hangar.isPending) return <Page aria-busy="true">Opening the hangar…</Page>
  if (!hangar.data) {
    return (
      <Page>
        <h1>The hangar cannot be opened</h1>
        <p>{hangar.error?.message}</p>
        <Button onClick={() => hangar.refetch()}>Try again</Button>
      </Page>
    )
  }
  const { quads, line } = hangar.data
  const shown = found ? quads.filter((q) => found.some((f) => f.id === q.id)) : quads
  const names = (s: string) => line.find((n) => n.station === s)?.name ?? s
  return (
    <Page>
      <header className="flex flex-wrap items-center gap-2.5 justify-between pb-3.5">
        <h1>Hangar</h1>
        <Ways quads={quads} />
      </header>
      {quads.length === 0 && (
        <p>
          No quad is here yet. Begin one from a settings list and its parts, or bring one from an archive. Started afresh with the demo world, there are five to
          try things with.
        </p>
      )}
      {quads.length > 0 && (
        <p className="max-w-230 pb-3.5 text-soft">
          Every quad, checked as a whole before it flies. Each stands on a wire of {line.length} stations: a bird sits where a station is proven, leans where
          something must be fixed, and falls off where a stop is open. Quads marked <i>Demo</i> are made up, to try things with. What to do first stands at the
          right: click it.
        </p>
      )}
      {quads.length > 1 && <Which onFound={setFound} />}
      {found?.length === 0 && <p className="pb-3.5 text-soft">None of your quads has that.</p>}
      <Rows quads={shown.filter((q) => !q.retired)} names={names} has={found} />
      <Retired quads={shown.filter((q) => q.retired)} />
      <OwnLimits />
      <Units />
    </Page>
  )
}

const tones = { released: ink.ok, grounded: ink.stop, working: ink.soft }
const words = { released: 'Released', grounded: 'Grounded', working: 'On the line' }

type Names = (station: string) => string

/** Quads that have what is looked for; null while nothing is. */
type Found = Schemas['WhichView'][] | null

/** Finds the quads that have a part, a link or a firmware, as one types. */
function Which({ onFound }: { onFound: (found: Found) => void }) {
  const [typed, setTyped] = useState('')
  const late = useDeferredValue(typed.trim())
  const found = useWhich(late)
  useEffect(() => onFound(late && found.data ? found.data : null), [late, found.data, onFound])
  return (
    <label className="flex flex-wrap items-baseline gap-2.5 pb-3.5 text-soft">
      Which has
      <input
        type="search"
        className="w-72 placeholder:text-soft"
        maxLength={60}
        placeholder="a part, a link, a firmware version"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
      />
    </label>
  )
}

/** Those that are seen at once come first; the rest follows while one looks at them. */
function Rows({ quads, names, has }: { quads: Schemas['HangarQuad'][]; names: Names; has: Found }) {
  const shown = useDeferredValue(quads, quads.slice(0, atOnce))
  return shown.map((q) => <Row key={q.id} q={q} names={names} has={has?.find((f) => f.id === q.id)?.has} />)
}

function Row({ q, names, has }: { q: Schemas['HangarQuad']; names: Names; has?: Schemas['WhichHave'][] }) {
  const [all, setAll] = useState(false)
  // The hangar tells of each quad what comes first; all of it is told by its line.
  const whole = useQuad(all ? q.id : 0)
  const next = (all && whole.data?.next) || q.next
  return (
    <article
      className="[contain-intrinsic-size:auto_150px] [content-visibility:auto] grid grid-cols-[270px_minmax(0,1fr)_380px] items-start gap-6.5 border-t border-line pt-4 pb-3 phone:grid-cols-1 phone:gap-3 [&_h2]:text-[22px]"
      aria-label={q.name}
    >
      <div>
        <h2>
          <Link to={`/quads/${q.id}/${q.next[0]?.station ?? 'airframe'}`}>{q.name}</Link>
        </h2>
        <p className="text-soft">{q.words}</p>
        {has && <p>Has {has.map((h) => h.words).join('; ')}.</p>}
        <p>
          <b className={tones[q.state]}>{words[q.state]}</b>
          <span className="text-soft">
            {' '}
            {q.says}. {q.flights === 0 ? 'Not flown yet' : q.flights === 1 ? '1 flight' : `${q.flights} flights`}.
          </span>
        </p>
        <QuadWays quad={q} />
      </div>
      <div>
        <svg viewBox="0 0 640 96" width="100%" role="img" aria-label={q.perches.map((p) => `${names(p.station)}: ${p.word}`).join(', ')}>
          <path d="M0 48Q320 66 640 48" fill="none" stroke="var(--wire)" strokeWidth="2" />
          {q.perches.map((p, i) => {
            const t = (i + 0.5) / 14
            return (
              <g key={p.station} transform={`translate(${t * 640} ${48 + 36 * t * (1 - t)})`}>
                <title>{`${names(p.station)}: ${p.word}`}</title>
                <Bird state={p.state} />
              </g>
            )
          })}
        </svg>
        <AsTable keyless below caption={`${q.name}, station by station`} head={['station', 'state']} rows={q.perches.map((p) => [names(p.station), p.word])} />
      </div>
      <div>
        {q.next.length === 0 ? <p className="text-soft">Nothing is left to do.</p> : <Todos id={q.id} list={next} names={names} />}
        {q.toDo > q.next.length && (
          <TextButton aria-expanded={all} onClick={() => setAll(!all)}>
            {all ? 'The first three' : `All ${q.toDo}`}
          </TextButton>
        )}
      </div>
    </article>
  )
}

/** Quads that fly no more: kept, and out of the way. */
function Retired({ quads }: { quads: Schemas['HangarQuad'][] }) {
  if (quads.length === 0) return null
  return (
    <Disclosure className="border-t border-line pt-3" words={`Retired (${quads.length})`}>
      <ul aria-label="Retired">
        {quads.map((q) => (
          <li key={q.id} className="border-b border-line py-1.5">
            <Link to={`/quads/${q.id}/airframe`}>{q.name}</Link> <span className="text-soft">{q.words}</span>
            <QuadWays quad={q} />
          </li>
        ))}
      </ul>
    </Disclosure>
  )
}

/** The limits as this pilot has them for every quad. */
function OwnLimits() {
  const pilot = usePilot()
  if (!pilot.data) return null
  return (
    <Disclosure className="max-w-180 border-t border-line pt-3" words={`Limits you judge every quad by (${pilot.data.limits.length})`}>
      {pilot.data.limits.map((l) => (
        <LimitRow key={l.key} limit={l} />
      ))}
    </Disclosure>
  )
}

/** The units that the pilot reads figures in, and types bare ones. */
function Units() {
  const pilot = usePilot()
  const queries = useQueryClient()
  const set = useMutation({
    mutationFn: (shows: Schemas['Shows']) => setShows(pilot.data?.version ?? 0, shows),
    onSuccess: () => void queries.invalidateQueries(),
    onError: showError,
  })
  if (!pilot.data) return null
  const { mass = 'g', length = 'mm' } = pilot.data.shows
  return (
    <section aria-label="Units" className="mt-2 flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-line pt-3">
      <span className="text-soft">Units</span>
      <Segments
        items={[
          { value: 'g', words: 'g' },
          { value: 'oz', words: 'oz' },
        ]}
        value={mass || 'g'}
        onChoose={(to) => set.mutate({ ...pilot.data?.shows, mass: to })}
      />
      <Segments
        items={[
          { value: 'mm', words: 'mm' },
          { value: 'in', words: 'in' },
        ]}
        value={length || 'mm'}
        onChoose={(to) => set.mutate({ ...pilot.data?.shows, length: to })}
      />
      <span className="text-[14px] text-soft">A figure typed with its unit is understood either way.</span>
    </section>
  )
}
