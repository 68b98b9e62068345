import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useSearchParams } from 'react-router'
import { Button, TextButton } from '../../kit/button'
import { Segments } from '../../kit/segments'
import { Select } from '../../kit/select'
import { Facts } from '../../kit/table'
import { onConflict } from '../../places/line/conflict'
import { when } from '../../places/line/proof-bar'
import { showError } from '../../shell/message'
import { acts, choose, type Schemas, useAct, useDictionaries, useReview } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'

type Row = Schemas['ReviewRow']
type Saved = Schemas['BackupView']

const filters: [string, string, (r: Row) => boolean][] = [
  ['decide', 'To decide', (r) => r.decide],
  ['yours', 'Yours', (r) => ['carried', 'converted', 'misfit'].includes(r.fate)],
  ['moved', 'Defaults that moved', (r) => r.fate === 'moved'],
  ['measure', 'Measured', (r) => r.fate === 'measure'],
  ['gone', 'Gone', (r) => r.fate === 'gone'],
  ['new', 'New', (r) => r.fate === 'new'],
  ['all', 'All', () => true],
]

const nameOf = (r: Row) => r.name || `gone ${r.was}`

/** The three-way review: old default, old value, new default, proposal and why, one row for each setting. */
export function Review({ quad, saved }: { quad: QuadAt<'firmware'>; saved: Saved[] }) {
  const [query, setQuery] = useSearchParams()
  const known = useDictionaries()
  // What a new board held before anybody set it is nothing to carry over.
  const from = Number(query.get('from')) || (saved.find((b) => b.step !== 'same' && b.own > 0) ?? saved[0])?.id || 0
  const [line, version] = (query.get('to') ?? ' ').split(' ')
  const ask = { backup: from, line: line || undefined, version: version || undefined }
  const review = useReview(quad, ask)
  const queries = useQueryClient()
  const take = useAct(quad.id, () => acts.takeReview(quad.id, quad.version, ask))
  const [filter, setFilter] = useState('')
  const [find, setFind] = useState('')
  const set = (key: string, value: string) => {
    query.set(key, value)
    setQuery(query, { replace: true })
  }
  const decide = async (choices: Record<string, string | null>) => {
    try {
      const v = await choose(quad.id, ask, choices)
      queries.setQueryData(['review', quad.id, ask, quad.seen], v)
      void queries.invalidateQueries({ queryKey: ['quad', quad.id] })
      return ''
    } catch (e) {
      return e instanceof Error ? e.message : String(e)
    }
  }
  const v = review.data
  const shown = filter || (v?.rows.some((r) => r.decide) ? 'decide' : 'yours')
  const keep = filters.find((f) => f[0] === shown)?.[2] ?? (() => true)
  const words = find.toLowerCase()
  const rows = v?.rows.filter((r) => keep(r) && (!words || `${r.name} ${r.was} ${r.label} ${r.subject}`.toLowerCase().includes(words))) ?? []
  const open = rows.filter((r) => r.decide && !r.decided)
  const versions = (known.data ?? []).flatMap((d) => d.versions.map((x) => `${d.line} ${x.version}`))
  if (v && !versions.includes(`${v.line} ${v.version}`)) versions.push(`${v.line} ${v.version}`)
  return (
    <section aria-label="Carry over" className="flex h-full flex-col gap-2">
      <div className="flex flex-wrap items-center gap-2.5">
        From
        <Select
          label="From"
          value={String(from)}
          options={saved.map((b) => ({ value: String(b.id), words: `${b.line} ${b.version}, ${b.why || 'saved at the board'}, ${when(b.at)}` }))}
          onChoose={(id) => set('from', id)}
        />
        to
        <Select label="to" value={v ? `${v.line} ${v.version}` : ''} options={versions.map((x) => ({ value: x, words: x }))} onChoose={(x) => set('to', x)} />
        {v && (
          <span className="text-soft">
            {v.step === 'line' || v.step === 'back'
              ? 'through your settings'
              : v.step === 'major'
                ? 'a major step'
                : v.step === 'same'
                  ? 'the same version'
                  : 'within one major version'}
            , {v.sameBoard ? 'the same board' : 'another board'}
          </span>
        )}
      </div>
      {review.error && (
        <p role="alert" className="text-stop">
          {review.error.message}
        </p>
      )}
      {v && (
        <>
          <div className="flex flex-wrap items-center gap-2.5 justify-between">
            <Segments
              label="Show"
              items={filters.map(([key, name, test]) => {
                const n = v.rows.filter(test).length
                return { value: key, words: `${name} ${key === 'decide' ? `${v.undecided}/${n}` : n}` }
              })}
              value={shown}
              onChoose={setFilter}
            />
            <input aria-label="Find a setting" placeholder="find" size={10} value={find} onChange={(e) => setFind(e.target.value)} />
          </div>
          <section
            className="min-h-30 flex-1 overflow-y-auto text-[14px] [&_input]:px-1.5 [&_input]:py-0.5 [&_input[data-own=true]]:border-act [&_input[data-own=true]]:font-semibold [&_td]:align-top [&_th]:align-top [&_thead_th]:sticky [&_thead_th]:top-0 [&_thead_th]:bg-paper [&_tr[data-decide=true]>:first-child]:pl-2.25 [&_tr[data-decide=true]>:first-child]:shadow-[inset_3px_0_var(--fix)]"
            aria-label="Settings"
          >
            <Facts>
              <thead>
                <tr>
                  <th scope="col">Setting</th>
                  <th scope="col">Old default</th>
                  <th scope="col">It was</th>
                  <th scope="col">New default</th>
                  <th scope="col">It shall be</th>
                  <th scope="col">Why</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((r) => (
                  <ReviewLine key={nameOf(r)} row={r} decide={decide} />
                ))}
              </tbody>
            </Facts>
            {rows.length === 0 && <p className="text-soft">{shown === 'decide' ? 'Nothing here needs you.' : 'None.'}</p>}
          </section>
          {!v.taken && v.rows.every((r) => r.old === r.oldDefault || r.fate === 'measure') && (
            <p className="text-fix">This list holds nothing of your own: applied, it would put every setting back to its default.</p>
          )}
          <div className="flex flex-wrap items-center gap-2.5 justify-between">
            <span className={v.undecided ? 'text-fix' : 'text-ok'}>
              {v.taken ? 'Your settings say all of this.' : v.undecided ? `${v.undecided} still to be decided.` : 'Everything is decided.'}
            </span>
            <div className="flex flex-wrap items-center gap-2.5">
              {open.length > 1 && (
                <Button onClick={() => void decide(Object.fromEntries(open.map((r) => [nameOf(r), r.chosen]))).then((w) => w && showError(w))}>
                  Take the proposal for these {open.length}
                </Button>
              )}
              <Button
                main
                disabled={v.undecided > 0 || v.taken || take.isPending}
                onClick={() => take.mutate(undefined, { onError: onConflict(quad, 'What you carry over', []) })}
              >
                Apply to settings
              </Button>
            </div>
          </div>
        </>
      )}
    </section>
  )
}

function ReviewLine({ row: r, decide }: { row: Row; decide: (c: Record<string, string | null>) => Promise<string> }) {
  const [text, setText] = useState<string | null>(null)
  const [wrong, setWrong] = useState('')
  const name = nameOf(r)
  const settle = async (value: string | null) => {
    const w = await decide({ [name]: value })
    setWrong(w)
    if (!w) setText(null)
  }
  return (
    <tr data-decide={r.decide && !r.decided}>
      <th scope="row">
        {r.name || <s>{r.was}</s>}
        {r.was && r.name && r.was !== r.name && <span className="text-soft"> was {r.was}</span>}
        {r.label && <span className="block text-[13px] font-normal text-soft">{r.label}</span>}
      </th>
      <td className="text-soft">{r.was ? r.oldDefault || 'nothing' : ''}</td>
      <td>{r.was ? <b className={r.old === r.oldDefault ? 'font-normal' : ''}>{r.old || 'nothing'}</b> : ''}</td>
      <td className="text-soft">{r.name ? r.newDefault || 'nothing' : ''}</td>
      <td>
        {r.name ? (
          <form
            className="flex flex-wrap items-center gap-1.5"
            onSubmit={(e) => {
              e.preventDefault()
              void settle(text ?? r.chosen)
            }}
          >
            <input
              aria-label={`${r.name} shall be`}
              size={Math.max(6, Math.min(14, (text ?? r.chosen).length + 1))}
              value={text ?? r.chosen}
              onChange={(e) => setText(e.target.value)}
              data-own={r.decided}
            />
            {(text !== null || (r.decide && !r.decided)) && (
              <Button type="submit" small>
                {text === null || text === r.chosen ? 'So be it' : 'Set'}
              </Button>
            )}
            {r.decided && text === null && <TextButton onClick={() => void settle(null)}>back</TextButton>}
          </form>
        ) : r.decide && !r.decided ? (
          <Button small onClick={() => void settle('')}>
            Noted
          </Button>
        ) : (
          <span className="text-soft">{r.decide ? 'noted' : ''}</span>
        )}
        {wrong && (
          <span role="alert" className="text-stop block text-[13px] font-normal text-soft">
            {wrong}
          </span>
        )}
      </td>
      <td>
        <span className={r.fate === 'misfit' || (r.decide && !r.decided) ? 'text-fix' : ''}>{r.reason}</span>
      </td>
    </tr>
  )
}
