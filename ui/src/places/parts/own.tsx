import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useDeferredValue, useRef, useState } from 'react'
import { Link } from 'react-router'
import { Button, TextButton, textLook } from '../../kit/button'
import { Columns } from '../../kit/columns'
import { ways, wideLeft } from '../../kit/looks'
import { Page } from '../../kit/page'
import { Segments } from '../../kit/segments'
import { Select } from '../../kit/select'
import { Facts } from '../../kit/table'
import { lower } from '../../kit/text'
import { showError } from '../../shell/message'
import type { Schemas } from '../../wire/client'
import { ownParts, useOwnParts, useReadParts } from '../../wire/own-parts'
import { type Kind, kinds } from './part-field'
import { drawn, Sketch } from './sketch'

type Own = Schemas['OwnPartView']
type Body = Schemas['PartsBody']

/** The pilot's own catalogue: what he has on the shelf, typed or brought in from a table, for any of his quads. */
export function OwnParts() {
  const shelf = useOwnParts()
  const [edited, setEdited] = useState<Own | null>(null)
  const [how, setHow] = useState<'one' | 'many'>('one')
  document.title = 'My parts · Vivid Perch'
  if (shelf.error) {
    return (
      <Page>
        <h1>My parts</h1>
        <p role="alert">{shelf.error.message}</p>
        <Button onClick={() => shelf.refetch()}>Try again</Button>
      </Page>
    )
  }
  if (!shelf.data) return <Page aria-busy="true">Looking what is on your shelf…</Page>
  const change = (p: Own) => {
    setHow('one')
    setEdited(p)
  }
  return (
    <Page>
      <header className="flex flex-wrap items-baseline justify-between gap-2.5 pb-1.5">
        <h1>My parts</h1>
        <Link to="/hangar">Back to the hangar</Link>
      </header>
      <p className="max-w-230 pb-3.5 text-soft">
        They are offered wherever a part is chosen, before those of the catalogue. A quad's part is a copy: a change here changes no quad. What you do not know
        is left out; thrust, power and resistance are then estimated where size and shape tell enough.
      </p>
      <div className={wideLeft}>
        <Shelf parts={shelf.data.parts} version={shelf.data.version} onChange={change} />
        <section aria-label="Add parts" className="min-w-0">
          <Segments
            label="How parts are added"
            items={[
              { value: 'one', words: 'Type one' },
              { value: 'many', words: 'From a table or a file' },
            ]}
            value={how}
            onChoose={setHow}
          />
          {how === 'one' ? (
            <One key={edited ? edited.kind + edited.name : ''} version={shelf.data.version} part={edited} onDone={() => setEdited(null)} />
          ) : (
            <Many version={shelf.data.version} />
          )}
        </section>
      </div>
    </Page>
  )
}

/** Keeps what was brought; the list that comes back is shown at once. */
function useShelf<T>(act: (asked: T) => Promise<Schemas['ShelfView']>) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: act,
    onSuccess: (shelf) => {
      queries.setQueryData(['ownParts'], shelf)
      void queries.invalidateQueries({ queryKey: ['catalogue'] })
    },
    // Another window was first: what it kept is shown beside the message.
    onError: (e) => {
      showError(e)
      void queries.invalidateQueries({ queryKey: ['ownParts'] })
    },
  })
}

function Shelf({ parts, version, onChange }: { parts: Own[]; version: number; onChange: (p: Own) => void }) {
  const forget = useShelf(ownParts.forget)
  if (parts.length === 0) {
    return <p>Nothing is on your shelf yet. Type what is printed on a part, or bring in the table that you keep of your parts.</p>
  }
  return (
    <section aria-label="On your shelf" className="min-w-0">
      {kinds
        .map(([kind, label]) => ({ kind, label, list: parts.filter((p) => p.kind === kind) }))
        .filter((k) => k.list.length > 0)
        .map(({ kind, label, list }) => (
          <Facts key={kind} aria-label={label} className="mb-4 table-fixed phone:table">
            <thead>
              <tr>
                {drawn.includes(kind) && (
                  <th scope="col" className="w-15 phone:hidden">
                    <span className="sr-only">To scale</span>
                  </th>
                )}
                <th scope="col" className="w-[34%]">
                  {label}
                </th>
                <th scope="col">What is known</th>
                <th scope="col" className="w-31">
                  <span className="sr-only">What can be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {list.map((p) => (
                <tr key={p.name} className="align-top">
                  {drawn.includes(kind) && (
                    <td className="phone:hidden">
                      <Sketch kind={kind} cells={p.cells} />
                    </td>
                  )}
                  <th scope="row">
                    {p.name}
                    <span className="block text-[13px] font-normal text-soft">{p.words}</span>
                    {p.on.length > 0 && <span className="block text-[13px] font-normal text-soft">on {p.on.join(', ')}</span>}
                  </th>
                  <td>
                    {p.figures.length > 0 ? p.figures.map((f) => `${lower(f.label)} ${f.words}`).join('; ') : <span className="text-soft">its name alone</span>}
                  </td>
                  <td>
                    <span className="flex gap-3">
                      <TextButton aria-label={`Change ${p.name}`} onClick={() => onChange(p)}>
                        Change
                      </TextButton>
                      <TextButton
                        quiet
                        aria-label={`Forget ${p.name}`}
                        disabled={forget.isPending}
                        onClick={() => forget.mutate({ version, kind: p.kind, name: p.name })}
                      >
                        Forget
                      </TextButton>
                    </span>
                  </td>
                </tr>
              ))}
            </tbody>
          </Facts>
        ))}
      <a className={textLook} href="/api/parts/file" download>
        Download all as a file
      </a>
    </section>
  )
}

/** The kind of what is added. */
function KindOf({ kind, onKind, disabled }: { kind: Kind; onKind: (k: Kind) => void; disabled?: boolean }) {
  return (
    <div className="grid py-2.5 text-[13px] text-soft">
      What they are
      <Select
        label="What they are"
        className="w-60 text-[15px]"
        value={kind}
        onChoose={(k) => onKind(k as Kind)}
        disabled={disabled}
        options={kinds.map(([value, words]) => ({ value, words }))}
      />
    </div>
  )
}

function One({ version, part, onDone }: { version: number; part: Own | null; onDone: () => void }) {
  const [kind, setKind] = useState<Kind>((part?.kind as Kind | undefined) ?? 'motor')
  const form = useRef<HTMLFormElement>(null)
  const keep = useShelf(ownParts.keep)
  // What can be told of a kind is what the columns of its table can be.
  const fields = useReadParts({ kind, typed: { name: 'any' } }).data?.fields ?? []
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const typed = Object.fromEntries([...new FormData(e.currentTarget)].map(([k, v]) => [k, String(v).trim()]).filter(([, v]) => v))
    keep.mutate(
      { version, kind, typed },
      {
        onSuccess: () => {
          form.current?.reset()
          onDone()
        },
      },
    )
  }
  return (
    <form ref={form} aria-label={part ? `Change ${part.name}` : 'Type a part'} onSubmit={submit}>
      <KindOf kind={kind} onKind={setKind} disabled={part !== null} />
      <div className="grid grid-cols-2 gap-x-4 gap-y-2 phone:grid-cols-1 [&_label]:grid [&_label]:text-[13px] [&_label]:text-soft">
        {fields.map((f) => (
          <label key={`${kind}.${f.key}`} className={f.key === 'words' ? 'col-span-full' : ''}>
            {f.label}
            {f.unit && f.unit !== '1' && f.unit !== 'count' ? `, ${f.unit}` : ''}
            <input
              name={f.key}
              type="text"
              required={f.needed}
              maxLength={200}
              defaultValue={part?.cells[f.key]}
              readOnly={part !== null && f.key === 'name'}
            />
          </label>
        ))}
      </div>
      <div className={`${ways} pt-2.5`}>
        <Button type="submit" main disabled={keep.isPending}>
          {part ? 'Keep it so' : 'Put it on the shelf'}
        </Button>
        {part && <TextButton onClick={onDone}>Cancel</TextButton>}
      </div>
    </form>
  )
}

function Many({ version }: { version: number }) {
  const [kind, setKind] = useState<Kind>('motor')
  const [text, setText] = useState('')
  const [columns, setColumns] = useState<string[]>([])
  const picker = useRef<HTMLInputElement>(null)
  const late = useDeferredValue(text)
  const ask: Body = columns.length ? { kind, text: late, columns } : { kind, text: late }
  const read = useReadParts(late.trim() ? ask : undefined)
  const keep = useShelf(ownParts.keep)
  const take = (next: string) => {
    setText(next)
    setColumns([])
  }
  const v = late.trim() ? read.data : undefined
  return (
    <div>
      <KindOf
        kind={kind}
        onKind={(k) => {
          setKind(k)
          setColumns([])
        }}
      />
      <label className="grid gap-1.5 text-[13px] text-soft">
        A table with a line of heads, out of a spreadsheet or a file; or a file of parts
        <textarea className="text-[14px] text-ink" rows={6} spellCheck={false} value={text} onChange={(e) => take(e.target.value)} />
      </label>
      <div className={ways}>
        <Button small onClick={() => picker.current?.click()}>
          Choose a file
        </Button>
        <input
          ref={picker}
          type="file"
          hidden
          accept=".csv,.tsv,.txt,.json,text/csv,text/plain,application/json"
          aria-label="Table or file of parts"
          onChange={(e) => {
            void e.target.files?.[0]?.text().then(take)
            e.target.value = ''
          }}
        />
      </div>
      {text.trim() !== '' && read.error && (
        <p role="alert" className="pt-2 text-stop">
          {read.error.message}
        </p>
      )}
      {v && !read.error && (
        <div className="grid gap-2 pt-2.5" aria-live="polite">
          {v.table && <Columns head={v.head} rows={v.rows} columns={v.columns} fields={v.fields} onColumns={setColumns} />}
          {v.table && v.known && <p className="text-soft">The columns are as you said before of the same heads.</p>}
          <p>
            <b>{v.count === 1 ? '1 part' : `${v.count} parts`}</b> can be kept
            {v.replaces.length > 0 &&
              `, of which ${v.replaces.length === 1 ? `${v.replaces[0]} takes` : `${v.replaces.length} take`} the place of what is on your shelf`}
            .{v.faults.length > 0 && v.table && ' The lines named below are left out.'}
          </p>
          {v.faults.length > 0 && (
            <ul aria-label="What cannot be kept" className="max-h-47.5 overflow-y-auto [&_li]:border-t [&_li]:border-line [&_li]:py-0.75">
              {v.faults.map((f) => (
                <li key={f.place + f.says}>
                  {f.place && <b>{f.place}: </b>}
                  {f.says}
                </li>
              ))}
            </ul>
          )}
          <div className={ways}>
            <Button
              main
              disabled={keep.isPending || v.count === 0 || read.isFetching || late !== text}
              onClick={() => keep.mutate({ version, ...ask }, { onSuccess: () => take('') })}
            >
              {v.count === 1 ? 'Keep it' : `Keep ${v.count} parts`}
            </Button>
          </div>
        </div>
      )}
    </div>
  )
}
