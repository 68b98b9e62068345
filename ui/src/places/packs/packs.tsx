import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, lazy, Suspense, useState } from 'react'
import { Link } from 'react-router'
import { Button, TextButton } from '../../kit/button'
import { fieldRow, ways } from '../../kit/looks'
import { Page } from '../../kit/page'
import { lower } from '../../kit/text'
import { showError } from '../../shell/message'
import type { Schemas } from '../../wire/client'
import { packs, usePackAct, usePacks } from '../../wire/packs'
import { Trend } from './trend'

type Pack = Schemas['PackView']

const Reason = lazy(() => import('../../kit/reason').then((m) => ({ default: m.Reason })))

/** The pilot's packs: what each is, how it ages, and which quads fly with it. */
export function Packs() {
  const list = usePacks()
  const [adding, setAdding] = useState(false)
  document.title = 'My packs · Vivid Perch'
  if (list.error) {
    return (
      <Page>
        <h1>My packs</h1>
        <p role="alert">{list.error.message}</p>
        <Button onClick={() => list.refetch()}>Try again</Button>
      </Page>
    )
  }
  if (!list.data) return <Page aria-busy="true">Looking through your packs…</Page>
  const { packs: all, version } = list.data
  return (
    <Page>
      <header className="flex flex-wrap items-baseline justify-between gap-2.5 pb-1.5">
        <h1>My packs</h1>
        <Link to="/hangar">Back to the hangar</Link>
      </header>
      <p className="max-w-230 pb-2.5 text-soft">
        A pack is yours, whichever quad it flies on; a quad's parts hold a copy under its name. What you measure here is offered to every quad that has one, and
        changes none by itself.
      </p>
      {all.length === 0 && <p className="pb-2.5">You have none yet. Fit one on a quad, or write down what is printed on it.</p>}
      <ul aria-label="Packs">
        {all.map((p) => (
          <One key={p.name} pack={p} version={version} />
        ))}
      </ul>
      <div className={ways}>
        <Button small aria-expanded={adding} onClick={() => setAdding(!adding)}>
          Write down a pack
        </Button>
      </div>
      {adding && <Told version={version} onDone={() => setAdding(false)} />}
    </Page>
  )
}

function One({ pack: p, version }: { pack: Pack; version: number }) {
  const [open, setOpen] = useState<'' | 'measure' | 'change'>('')
  const forget = usePackAct(packs.forget)
  const cells = p.now.cells ?? 0
  return (
    <li className="grid grid-cols-[64px_minmax(0,1fr)_minmax(0,1fr)_minmax(0,1fr)] gap-x-5 gap-y-1.5 border-t border-line py-3 phone:grid-cols-[64px_minmax(0,1fr)]">
      <Drawn cells={cells} capacity={p.now.capacity ?? 0} />
      <section aria-label={p.name} className="min-w-0">
        <h2 className="text-[17px] font-semibold">{p.name}</h2>
        {p.figures.length === 0 && <p className="text-soft">its name alone is known</p>}
        <ul className="text-[14px]">
          {p.figures.map((f) => (
            <li key={f.label}>
              <span className="text-soft">{lower(f.label)}</span> {f.words}
              {f.measured && <span className="text-soft"> as measured</span>}
            </li>
          ))}
        </ul>
      </section>
      <section aria-label={`How ${p.name} ages`} className="min-w-0 phone:col-span-2">
        <Trend pack={p} />
        {p.wear.words && (
          <p className={p.wear.retire ? 'text-[14px] font-semibold text-stop' : p.wear.look ? 'text-[14px] text-fix' : 'text-[14px] text-soft'}>
            {p.wear.words}
            {p.wear.until && ` As it ages so far, to be retired about ${whenOf(p.wear.until)}.`}
          </p>
        )}
        <Measured pack={p} version={version} />
      </section>
      <section aria-label={`Quads with ${p.name}`} className="min-w-0 text-[14px] phone:col-span-2">
        {p.on.length === 0 && <p className="text-soft">on no quad</p>}
        <ul>
          {p.on.map((o) => (
            <Copy key={o.id} pack={p} on={o} />
          ))}
        </ul>
      </section>
      <div className="col-start-2 col-end-[-1] flex flex-wrap gap-4 phone:col-span-2">
        <TextButton aria-expanded={open === 'measure'} aria-label={`Measure ${p.name}`} onClick={() => setOpen(open === 'measure' ? '' : 'measure')}>
          Measure it
        </TextButton>
        <TextButton quiet aria-expanded={open === 'change'} aria-label={`Change ${p.name}`} onClick={() => setOpen(open === 'change' ? '' : 'change')}>
          Change what is printed on it
        </TextButton>
        {p.on.length === 0 && p.health.length === 0 && (
          <TextButton quiet aria-label={`Forget ${p.name}`} disabled={forget.isPending} onClick={() => forget.mutate({ version, name: p.name })}>
            Forget
          </TextButton>
        )}
      </div>
      {open === 'measure' && (
        <div className="col-start-2 col-end-[-1] phone:col-span-2">
          <Measure pack={p} version={version} onDone={() => setOpen('')} />
        </div>
      )}
      {open === 'change' && (
        <div className="col-start-2 col-end-[-1] phone:col-span-2">
          <Told version={version} pack={p} onDone={() => setOpen('')} />
        </div>
      )}
    </li>
  )
}

/** A pack cell by cell, as long as its cells hold. */
function Drawn({ cells, capacity }: { cells: number; capacity: number }) {
  const long = Math.min(58, 16 + capacity / 60)
  return (
    <svg viewBox="0 0 64 64" width="64" height="64" aria-hidden="true" fill="var(--sunk)" stroke="var(--ink)" strokeWidth="1.2">
      {Array.from({ length: Math.min(12, cells) }, (_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: cells have no other name
        <rect key={i} x="2" y={32 - 2.5 * cells + 5 * i} width={long} height="4.2" />
      ))}
      {cells > 0 && <path d={`M${2 + long} 32h4`} />}
    </svg>
  )
}

/** One quad's copy, and in what it is not as the pack is. */
function Copy({ pack, on }: { pack: Pack; on: Schemas['PackOn'] }) {
  const queries = useQueryClient()
  const take = useMutation({
    mutationFn: () => packs.take(on.id, { version: on.version, name: pack.name }),
    onSuccess: (view) => queries.setQueryData(['quad', on.id], view),
    onError: showError,
    onSettled: () => void queries.invalidateQueries({ queryKey: ['packs'] }),
  })
  return (
    <li className="border-b border-line py-1 last:border-b-0">
      <Link to={`/quads/${on.id}/airframe`}>{on.name}</Link>{' '}
      {on.differs.length === 0 ? (
        <span className="text-soft">has it so</span>
      ) : (
        <>
          has {on.differs.map((d) => `${lower(d.label)} ${d.copy} instead of ${d.pack}`).join(', ')}.{' '}
          <TextButton aria-label={`Take ${pack.name} over on ${on.name}`} disabled={take.isPending} onClick={() => take.mutate()}>
            Take it over there
          </TextButton>
        </>
      )}
    </li>
  )
}

const whenOf = (at: string) => new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })

const wordsOf = (h: Pack['health'][number]) =>
  [
    h.resistance && `${h.resistance} mΩ`,
    h.capacity && `${h.capacity} mAh`,
    h.spread !== undefined && h.spread > 0 && `cells ${h.spread} mV apart`,
    h.mass && `${h.mass} g`,
    h.stored && `put away at ${h.stored} V a cell`,
  ]
    .filter(Boolean)
    .join(', ')

/** The newest measurements; one that was a mistake is withdrawn, and stays. */
function Measured({ pack, version }: { pack: Pack; version: number }) {
  const [asking, setAsking] = useState<number | null>(null)
  const withdraw = usePackAct(packs.withdraw)
  if (pack.health.length === 0) return null
  return (
    <>
      <ul aria-label={`Measured of ${pack.name}`} className="max-h-24 overflow-y-auto text-[14px]">
        {pack.health.map((h) => (
          <li key={h.id} className="flex flex-wrap gap-x-2.5">
            <span className="text-soft">{whenOf(h.at)}</span>
            <span className={h.withdrawn ? 'line-through' : ''}>{wordsOf(h)}</span>
            {h.withdrawn ? (
              <span className="text-soft">{h.withdrawn}</span>
            ) : (
              <TextButton quiet aria-label={`Withdraw ${wordsOf(h)} of ${whenOf(h.at)}`} onClick={() => setAsking(h.id)}>
                Withdraw
              </TextButton>
            )}
          </li>
        ))}
      </ul>
      {asking !== null && (
        <Suspense>
          <Reason
            title="Withdraw what was measured"
            words="It stays to be seen, struck through; it counts no more."
            act="Withdraw it"
            busy={withdraw.isPending}
            error={withdraw.error?.message}
            onDone={(why) => withdraw.mutate({ version, name: pack.name, id: asking, why }, { onSuccess: () => setAsking(null) })}
            onClose={() => setAsking(null)}
          />
        </Suspense>
      )}
    </>
  )
}

const figure = (d: FormData, key: string) => {
  const text = String(d.get(key) ?? '')
    .trim()
    .replace(',', '.')
  return text === '' ? undefined : Number(text)
}

function Measure({ pack, version, onDone }: { pack: Pack; version: number; onDone: () => void }) {
  const measure = usePackAct(packs.measure)
  const fresh = pack.fresh
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const d = new FormData(e.currentTarget)
    const told = Object.fromEntries(
      ['resistance', 'capacity', 'spread', 'mass', 'stored'].flatMap((k) => (figure(d, k) === undefined ? [] : [[k, figure(d, k)]])),
    )
    measure.mutate({ version, name: pack.name, ...told }, { onSuccess: onDone })
  }
  return (
    <form aria-label={`Measure ${pack.name}`} onSubmit={submit}>
      <p className="max-w-200 text-[14px] text-soft">
        At room temperature, half full, by a charger that measures it. What you did not measure is left out.
        {fresh && ` When new such a pack has ${fresh.low.toFixed(0)} to ${fresh.high.toFixed(0)} mΩ; at twice that it is at its end.`} Cells lie within 10 mV of
        each other at rest; 30 mV and more is a cell that goes.
      </p>
      <div className={fieldRow}>
        <label>
          Internal resistance, mΩ
          <input
            name="resistance"
            type="text"
            inputMode="decimal"
            pattern="[0-9]+([.,][0-9]+)?"
            title="A figure, as 12.5"
            maxLength={10}
            ref={(x) => x?.focus()}
          />
        </label>
        <label>
          Put back by the charger, mAh
          <input name="capacity" type="text" inputMode="decimal" pattern="[0-9]+([.,][0-9]+)?" title="A figure, as 12.5" maxLength={10} />
        </label>
        <label>
          Highest to lowest cell, mV
          <input name="spread" type="text" inputMode="decimal" pattern="[0-9]+([.,][0-9]+)?" title="A figure, as 12.5" maxLength={10} />
        </label>
        <label>
          Mass, g
          <input name="mass" type="text" inputMode="decimal" pattern="[0-9]+([.,][0-9]+)?" title="A figure, as 12.5" maxLength={10} />
        </label>
        <label>
          Put away at, V a cell
          <input name="stored" type="text" inputMode="decimal" pattern="[0-9]+([.,][0-9]+)?" title="A figure, as 3.82" maxLength={10} />
        </label>
        <Button small main type="submit" disabled={measure.isPending}>
          Keep it
        </Button>
        <TextButton onClick={onDone}>Cancel</TextButton>
      </div>
    </form>
  )
}

const printed = [
  ['cells', 'Cells'],
  ['capacity', 'Capacity, mAh'],
  ['discharge', 'Discharge rating, per hour'],
  ['resistance', 'Internal resistance, mΩ'],
  ['mass', 'Mass, g'],
] as const

/** What is printed on a pack, a new one or one of his. */
function Told({ version, pack, onDone }: { version: number; pack?: Pack; onDone: () => void }) {
  const set = usePackAct(packs.set)
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const d = new FormData(e.currentTarget)
    const told = Object.fromEntries(printed.map(([k]) => [k, figure(d, k) ?? 0])) as Schemas['Pack']
    set.mutate({ version, name: pack?.name ?? String(d.get('name')), told }, { onSuccess: onDone })
  }
  return (
    <form aria-label={pack ? `Change ${pack.name}` : 'Write down a pack'} className={fieldRow} onSubmit={submit}>
      {!pack && (
        <label>
          Name
          <input name="name" type="text" required maxLength={60} ref={(x) => x?.focus()} />
        </label>
      )}
      {printed.map(([k, label]) => (
        <label key={k}>
          {label}
          <input
            name={k}
            type="text"
            inputMode="decimal"
            pattern="[0-9]+([.,][0-9]+)?"
            title="A figure, as 12.5"
            maxLength={10}
            defaultValue={pack?.told[k] || ''}
          />
        </label>
      ))}
      <Button small main type="submit" disabled={set.isPending}>
        Keep it
      </Button>
      <TextButton onClick={onDone}>Cancel</TextButton>
    </form>
  )
}
