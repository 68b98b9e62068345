import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Earlier } from '../../kit/earlier'
import { Subhead } from '../../kit/heading'
import { fieldRow } from '../../kit/looks'
import { Select } from '../../kit/select'
import { Facts } from '../../kit/table'
import { showError } from '../../shell/message'
import { acts, answerOf, type QuadView, server, useAct } from '../../wire/client'
import { useRevisions } from '../../wire/pages'
import { asNamed } from '../../wire/path'
import { onConflict } from '../line/conflict'
import { words } from '../line/typed'
import { dateTime } from './when'

/** Saved states, newest first: who saved them, why and what they changed; any two compared, any one restored. */
export function Revisions({ quad }: { quad: QuadView }) {
  const id = quad.id
  const queries = useQueryClient()
  const pages = useRevisions(quad)
  const [from, setFrom] = useState(Math.max(1, quad.revision - 1))
  const [to, setTo] = useState(0)
  const tag = useMutation({
    mutationFn: (t: { number: number; tag: string }) => answerOf(server.POST('/api/quads/{id}/tag', { params: { path: { id } }, body: t })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['revisions', id] }),
    onError: showError,
  })
  const [tagging, setTagging] = useState(0)
  const list = pages.list
  if (!list) return <p aria-busy={pages.pending}>{pages.error?.message ?? 'Reading the revisions…'}</p>
  return (
    <section aria-label="Revisions" className="mt-6.5">
      <Subhead>Revisions</Subhead>
      {quad.draft.words.length > 0 && <SaveDraft quad={quad} />}
      <Facts>
        <thead>
          <tr>
            <th scope="col">no.</th>
            <th scope="col">what changed</th>
            <th scope="col">saved</th>
            <th scope="col">
              <span className="sr-only">ways</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {list.map((r) => (
            <tr key={r.number}>
              <td className="text-right whitespace-nowrap">{r.number}</td>
              <td>
                {r.tag && <b className="rounded-sm border border-act px-1.5 text-[13.5px] text-act">{r.tag}</b>}{' '}
                {words(r.words.join('. ')) || (r.number === 1 ? 'As it was made' : 'No intended setting')}
              </td>
              <td className="text-soft">
                {dateTime(r.at)}, {r.who}, {r.why}
              </td>
              <td>
                {tagging === r.number ? (
                  <form
                    className={fieldRow}
                    onSubmit={(e: FormEvent<HTMLFormElement>) => {
                      e.preventDefault()
                      tag.mutate({ number: r.number, tag: String(new FormData(e.currentTarget).get('tag')) })
                      setTagging(0)
                    }}
                  >
                    <input name="tag" type="text" maxLength={60} defaultValue={r.tag} aria-label={`Tag of revision ${r.number}`} />
                    <TextButton type="submit">Save</TextButton>
                  </form>
                ) : (
                  <TextButton onClick={() => setTagging(r.number)} aria-label={`Tag revision ${r.number}`}>
                    Tag
                  </TextButton>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Facts>
      <Earlier pages={pages} what="revisions" />
      <Compared quad={quad} numbers={list.map((r) => r.number)} from={from} to={to} setFrom={setFrom} setTo={setTo} />
    </section>
  )
}

/** The draft as a revision, with the pilot's reason. Signing, reading and writing save it by themselves. */
function SaveDraft({ quad }: { quad: QuadView }) {
  const save = useAct(quad.id, (why: string) => acts.save(quad.id, quad.version, why))
  return (
    <form
      className={fieldRow}
      aria-label="Save the draft as a revision"
      onSubmit={(e: FormEvent<HTMLFormElement>) => {
        e.preventDefault()
        save.mutate(String(new FormData(e.currentTarget).get('why')), { onError: onConflict(quad, 'Your revision', []) })
      }}
    >
      <label style={{ flex: '0 1 420px' }}>
        The draft: {quad.draft.words.join('. ')}. Why?
        <input name="why" type="text" required maxLength={200} style={{ width: '100%' }} />
      </label>
      <Button type="submit" small disabled={save.isPending}>
        Save it as revision {quad.revision + 1}
      </Button>
    </form>
  )
}

type Compare = { quad: QuadView; numbers: number[]; from: number; to: number; setFrom: (n: number) => void; setTo: (n: number) => void }

function Compared({ quad, numbers, from, to, setFrom, setTo }: Compare) {
  const id = quad.id
  const found = useQuery({
    queryKey: ['compare', id, quad.version, from, to],
    queryFn: () => answerOf(server.GET('/api/quads/{id}/compare', { params: { path: { id }, query: { from, to } } })),
  })
  const restore = useAct(id, (paths: string[]) => acts.restore(id, quad.version, from, paths.map(asNamed)))
  const back = (paths: string[]) => restore.mutate(paths, { onError: onConflict(quad, `The way back to revision ${from}`, []) })
  const name = (n: number) => (n === 0 ? 'the draft as it stands' : `revision ${n}`)
  const option = (n: number) => ({ value: String(n), words: name(n) })
  return (
    <div className="mt-3.5 grid gap-2">
      <div className="flex flex-wrap items-center gap-2.5">
        Compare
        <Select label="Compare" value={String(from)} options={numbers.map(option)} onChoose={(n) => setFrom(Number(n))} />
        with
        <Select label="with" value={String(to)} options={[0, ...numbers].map(option)} onChoose={(n) => setTo(Number(n))} />
      </div>
      {found.error && <p className="text-stop">{found.error.message}</p>}
      {found.data && found.data.differences.length === 0 && <p className="text-soft">No intended setting differs.</p>}
      {found.data && found.data.differences.length > 0 && (
        <>
          <Facts aria-label="What differs">
            <thead>
              <tr>
                <th scope="col">place</th>
                <th scope="col">{name(from)}</th>
                <th scope="col">{name(to)}</th>
                <th scope="col">
                  <span className="sr-only">ways</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {found.data.differences.map((d) => (
                <tr key={d.path}>
                  <th scope="row">{d.label}</th>
                  <td>{words(d.before)}</td>
                  <td>{words(d.after)}</td>
                  <td>
                    {to === 0 && (
                      <TextButton disabled={restore.isPending} onClick={() => back([d.path])} aria-label={`${d.label}: back to ${words(d.before)}`}>
                        Back
                      </TextButton>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </Facts>
          {to === 0 && (
            <div className="flex flex-wrap items-center gap-2.5">
              <Button small disabled={restore.isPending} onClick={() => back([])}>
                Bring all of it back to revision {from}
              </Button>
              <span className={found.data.falls.length > 0 ? 'text-fix' : 'text-soft'}>
                {found.data.falls.length > 0 ? `To be proven again then: ${found.data.falls.join(', ')}.` : 'No proof falls by it.'} It can be undone.
              </span>
            </div>
          )}
        </>
      )}
    </div>
  )
}
