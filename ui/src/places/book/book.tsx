import { type FormEvent, useState } from 'react'
import { useParams } from 'react-router'
import { Button, TextButton } from '../../kit/button'
import { Earlier } from '../../kit/earlier'
import { Subhead } from '../../kit/heading'
import { fieldRow, two } from '../../kit/looks'
import { Page } from '../../kit/page'
import { Reason } from '../../kit/reason'
import { Select } from '../../kit/select'
import { Facts } from '../../kit/table'
import { showError } from '../../shell/message'
import { acts, type QuadView, type Schemas, useAct, useQuad } from '../../wire/client'
import { useEvents, useFlights } from '../../wire/pages'
import { Withdraw } from '../line/withdraw'
import { Photos } from './photos'
import { Revisions } from './revisions'
import { dateTime } from './when'

const events = [
  ['crash', 'A crash'],
  ['repair', 'A repair'],
  ['solder', 'Soldering'],
  ['flash', 'Flashed outside this program'],
  ['linkFlash', 'New firmware in receiver or radio module'],
  ['remount', 'Swapped parts'],
] as const

type Happening = (typeof events)[number][0]

/** Flights, events and saved states of one quad, newest first. */
export function Book() {
  const id = Number(useParams().id)
  const quad = useQuad(id)
  const note = useAct(id, (e: { event: Happening; note: string }) => acts.note(id, e.event, e.note))
  const [what, setWhat] = useState<Happening | ''>('')
  if (!quad.data) return <Page>{quad.isPending ? 'Opening the book…' : quad.error?.message}</Page>
  const q = quad.data
  return (
    <Page>
      <h1>{q.name}: the book</h1>
      <div className={two}>
        <section aria-label="Flights">
          <Subhead>Note a flight</Subhead>
          <NoteFlight id={id} packs={Object.keys(q.meant.parts.packs)} site={q.release?.site ?? ''} />
          <Flights quad={q} />
        </section>
        <section aria-label="What happened and what changed">
          <Subhead>Something happened</Subhead>
          <div className="flex flex-wrap items-center gap-2.5">
            {events.map(([e, words]) => (
              <Button key={e} small aria-expanded={what === e} onClick={() => setWhat(what === e ? '' : e)}>
                {words}
              </Button>
            ))}
          </div>
          {what && (
            <form
              className={fieldRow}
              aria-label="What happened"
              onSubmit={(e: FormEvent<HTMLFormElement>) => {
                e.preventDefault()
                note.mutate({ event: what, note: String(new FormData(e.currentTarget).get('note')) }, { onSuccess: () => setWhat(''), onError: showError })
              }}
            >
              <label style={{ flex: '1 1 240px' }}>
                {events.find(([e]) => e === what)?.[1]}: what exactly?
                {/* biome-ignore lint/a11y/noAutofocus: it was asked for a moment ago */}
                <input name="note" type="text" maxLength={500} autoFocus required={what === 'crash'} style={{ width: '100%' }} />
              </label>
              <Button type="submit" small main disabled={note.isPending}>
                Note it
              </Button>
              <TextButton onClick={() => setWhat('')}>Cancel</TextButton>
              <p className="text-soft" style={{ flex: '1 1 100%' }}>
                Checks that it can have undone are needed again, and proofs that rest on them fall.
              </p>
            </form>
          )}
          <Events quad={q} />
          <Photos id={id} />
        </section>
      </div>
      <Revisions quad={q} />
    </Page>
  )
}

/** Flights, newest first. */
function Flights({ quad }: { quad: QuadView }) {
  const pages = useFlights(quad)
  return (
    <>
      <Subhead className="mt-3.5">Flights</Subhead>
      {pages.error && <p role="alert">{pages.error.message}</p>}
      {pages.list?.length === 0 && <p className="text-soft">Not flown yet.</p>}
      <ul>
        {pages.list?.map((f) => (
          <FlightLine key={f.id} flight={f} quad={quad} />
        ))}
      </ul>
      <Earlier pages={pages} what="flights" />
    </>
  )
}

function FlightLine({ flight: f, quad }: { flight: Schemas['FlightView']; quad: QuadView }) {
  const [correcting, setCorrecting] = useState(false)
  const [striking, setStriking] = useState(false)
  const correct = useAct(quad.id, (b: Schemas['CorrectionBody']) => acts.correct(quad.id, f.id, b))
  const told = { site: f.site, pack: f.pack, minutes: f.minutes, drawn: f.drawn, lowest: f.lowest, notes: f.notes }
  return (
    <li className="border-t border-line py-1.5 [&_p]:text-soft">
      <span className={f.struck ? 'line-through' : undefined}>
        <b>{dateTime(f.at)}</b>, {f.site}, pack {f.pack}: {[`${quantity(f.minutes)} min`, ...drawnOf(f)].join(', ')}.{' '}
        <b className={f.scope === 'none' ? 'text-stop' : 'text-ok'}>{f.scope === 'none' ? 'Not released' : `Released: ${f.scope}`}</b>
      </span>
      {f.notes && <p>{f.notes}</p>}
      {f.corrected && (
        <p>
          {f.struck ? 'Struck' : 'Corrected'} by {f.corrected.by}: {f.corrected.why}
        </p>
      )}
      {f.open && !f.struck && (
        <p className="flex gap-4">
          <TextButton quiet aria-expanded={correcting} onClick={() => setCorrecting(!correcting)}>
            Correct it
          </TextButton>
          <TextButton quiet onClick={() => setStriking(true)}>
            Strike it
          </TextButton>
        </p>
      )}
      {correcting && (
        <FlightForm
          name="Correct the flight"
          packs={Object.keys(quad.meant.parts.packs)}
          start={told}
          why
          busy={correct.isPending}
          onDone={(b, why) => correct.mutate({ told: b, why }, { onSuccess: () => setCorrecting(false), onError: showError })}
        />
      )}
      {striking && (
        <Reason
          title="Strike this flight"
          words="It stays in the book, struck through."
          act="Strike it"
          busy={correct.isPending}
          error={correct.error?.message}
          onDone={(why) => correct.mutate({ told, struck: true, why }, { onSuccess: () => setStriking(false) })}
          onClose={() => setStriking(false)}
        />
      )}
    </li>
  )
}

const quantity = (x: number) => String(Math.round(x * 100) / 100)

/** What was told of the pack; what nobody told is left out. */
const drawnOf = (f: Schemas['FlightView']) => [
  ...(f.drawn === undefined ? [] : [`${f.drawn} mAh`]),
  ...(f.lowest === undefined ? [] : [`lowest ${f.lowest} V`]),
]

const titleOf = (event: string) => (event === 'board' ? 'Another board' : (events.find(([x]) => x === event)?.[1] ?? event))

/** What happened to the quad, newest first. */
function Events({ quad }: { quad: QuadView }) {
  const pages = useEvents(quad)
  return (
    <>
      {pages.error && <p role="alert">{pages.error.message}</p>}
      <Facts className="mt-2.5">
        <tbody>
          {pages.list?.map((e) => (
            <tr key={e.id}>
              <td>{dateTime(e.at)}</td>
              <td className={e.withdrawn ? 'line-through' : undefined}>{titleOf(e.event)}</td>
              <td>
                {e.note} {e.withdrawn && <span className="text-soft">{`Withdrawn by ${e.withdrawn.by}: ${e.withdrawn.why}`}</span>}
                {e.counts && <Withdraw quad={quad} kind="event" name={e.event} what={titleOf(e.event).toLowerCase()} />}
              </td>
            </tr>
          ))}
        </tbody>
      </Facts>
      <Earlier pages={pages} what="events" />
    </>
  )
}

function NoteFlight({ id, packs, site }: { id: number; packs: string[]; site: string }) {
  const fly = useAct(id, (b: Schemas['FlightBody']) => acts.fly(id, b))
  const [done, setDone] = useState(false)
  return (
    <FlightForm
      name="Note a flight"
      packs={packs}
      start={{ site }}
      busy={fly.isPending}
      says={done ? 'Saved.' : ''}
      onDone={(b) => fly.mutate(b, { onSuccess: () => setDone(true), onError: showError })}
    />
  )
}

type FormProps = {
  name: string
  packs: string[]
  start: Partial<Schemas['FlightBody']>
  /** A reason is asked for too. */
  why?: boolean
  busy: boolean
  says?: string
  onDone: (b: Schemas['FlightBody'], why: string) => void
}

function FlightForm({ name, packs, start, why, busy, says, onDone }: FormProps) {
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const d = new FormData(e.currentTarget)
    // What nobody told is left out; what is no figure is asked for again.
    const n = (k: string) => {
      const given = String(d.get(k)).trim().replace(',', '.')
      const clock = /^(\d+):([0-5]\d)$/.exec(given) // minutes and seconds, as a timer shows them
      if (clock) return Number(clock[1]) + Number(clock[2]) / 60
      return given === '' ? undefined : Number(given)
    }
    const [minutes = Number.NaN, drawn, lowest] = ['minutes', 'drawn', 'lowest'].map(n)
    if ([minutes, drawn, lowest].some((x) => Number.isNaN(x))) return showError(new Error('Minutes, drawn and lowest are figures, such as 2.8.'))
    onDone({ site: String(d.get('site')), pack: String(d.get('pack')), minutes, drawn, lowest, notes: String(d.get('notes')) }, String(d.get('why') ?? ''))
  }
  return (
    <form className={fieldRow} onSubmit={submit} aria-label={name}>
      <label>
        Site
        <input name="site" type="text" defaultValue={start.site} required maxLength={120} />
      </label>
      <div className="grid text-[13px] text-soft">
        Pack
        <Select label="Pack" name="pack" start={start.pack ?? packs[0]} options={packs.map((p) => ({ value: p, words: p }))} />
      </div>
      <label>
        Minutes
        <input name="minutes" type="text" inputMode="decimal" defaultValue={start.minutes && quantity(start.minutes)} required style={{ width: 70 }} />
      </label>
      <label>
        Drawn, mAh
        <input name="drawn" type="text" inputMode="decimal" defaultValue={start.drawn} style={{ width: 80 }} />
      </label>
      <label>
        Lowest, V
        <input name="lowest" type="text" inputMode="decimal" defaultValue={start.lowest} style={{ width: 70 }} />
      </label>
      <label style={{ flex: '1 1 100%' }}>
        What happened
        <textarea name="notes" rows={2} maxLength={4000} defaultValue={start.notes} style={{ width: '100%' }} />
      </label>
      {why && (
        <label style={{ flex: '1 1 100%' }}>
          What was wrong?
          <input name="why" type="text" required maxLength={200} style={{ width: '100%' }} />
        </label>
      )}
      <Button type="submit" main disabled={busy}>
        Save it
      </Button>
      {says && <span role="status">{says}</span>}
    </form>
  )
}
