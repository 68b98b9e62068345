import { Select } from '../../kit/select'
// How quads come in and go out: begun from a list and parts, brought from an archive, cloned, taken along.

import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { Button, TextButton, textLook } from '../../kit/button'
import { Dialog, DialogClose } from '../../kit/dialog'
import { fieldRow } from '../../kit/looks'
import { useCommands } from '../../shell/commands'
import { showError } from '../../shell/message'
import { quads, type Schemas } from '../../wire/client'
import { kinds, PartField } from '../parts/part-field'

type Hangar = Schemas['HangarQuad'][]

/** Goes to a quad that was made a moment ago. */
function useMade<V>(make: (v: V) => Promise<{ id: number }>) {
  const go = useNavigate()
  const queries = useQueryClient()
  return useMutation({
    mutationFn: make,
    onSuccess: ({ id }) => {
      void queries.invalidateQueries({ queryKey: ['hangar'] })
      void go(`/quads/${id}/airframe`)
    },
  })
}

export function Ways({ quads: list }: { quads: Hangar }) {
  const [beginning, setBeginning] = useState(false)
  const picker = useRef<HTMLInputElement>(null)
  const [archive, setArchive] = useState<{ text: string; name: string } | null>(null)
  const bring = useMade(({ text, name }: { text: string; name: string }) => quads.bring(text, name))
  const pick = () => picker.current?.click()
  useCommands([
    { words: 'Begin a quad', place: 'Hangar', run: () => setBeginning(true) },
    { words: 'Bring a quad from an archive', place: 'Hangar', run: pick },
  ])
  const read = async (file: File | undefined) => {
    if (!file) return
    const text = await file.text()
    bring.mutate({ text, name: '' }, { onError: (e) => ('code' in e && e.code === 'name-taken' ? setArchive({ text, name: '' }) : showError(e)) })
  }
  return (
    <div className="flex flex-wrap items-center gap-2.5">
      <Button small onClick={() => setBeginning(true)}>
        Begin a quad
      </Button>
      <Button small onClick={pick} disabled={bring.isPending}>
        {bring.isPending ? 'Bringing it in…' : 'Bring one from an archive'}
      </Button>
      <input
        ref={picker}
        type="file"
        accept="application/json,.json"
        hidden
        aria-label="Archive of a quad"
        onChange={(e) => {
          void read(e.target.files?.[0])
          e.target.value = ''
        }}
      />
      {beginning && <Begin list={list} onClose={() => setBeginning(false)} />}
      {archive && (
        <Naming
          title="You have a quad of that name"
          says="Bring this one in under another."
          act="Bring it in"
          onClose={() => setArchive(null)}
          onName={(name) => bring.mutateAsync({ text: archive.text, name })}
        />
      )}
    </div>
  )
}

export function QuadWays({ quad: { id, name, version, flights, retired } }: { quad: Schemas['HangarQuad'] }) {
  const queries = useQueryClient()
  const [cloning, setCloning] = useState(false)
  const [deleting, setDeleting] = useState(false)
  const again = () => void queries.invalidateQueries({ queryKey: ['hangar'] })
  const retire = useMutation({ mutationFn: (to: boolean) => quads.retire(id, version, to), onSettled: again, onError: showError })
  const remove = useMutation({ mutationFn: () => quads.remove(id, version), onSettled: again, onError: showError })
  const [taking, setTaking] = useState(false)
  const clone = useMade((as: string) => quads.clone(id, as))
  return (
    <div className="flex flex-wrap items-center gap-2.5 mt-1 text-[14px]">
      <TextButton onClick={() => setCloning(true)} aria-label={`Clone ${name}`}>
        Clone
      </TextButton>
      <TextButton aria-expanded={taking} onClick={() => setTaking(!taking)} aria-label={`Download ${name} as an archive`}>
        Archive
      </TextButton>
      {taking && (
        <span>
          <a className={textLook} href={`/api/quads/${id}/archive`} download>
            to hand on
          </a>{' '}
          <span className="text-soft">without phrases and home coordinates, or</span>{' '}
          <a className={textLook} href={`/api/quads/${id}/archive?private=true`} download>
            with them
          </a>
        </span>
      )}
      <TextButton quiet disabled={retire.isPending} onClick={() => retire.mutate(!retired)} aria-label={retired ? `Bring ${name} back` : `Retire ${name}`}>
        {retired ? 'Bring back' : 'Retire'}
      </TextButton>
      {flights === 0 && (
        <TextButton quiet onClick={() => setDeleting(true)} aria-label={`Delete ${name}`}>
          Delete
        </TextButton>
      )}
      {deleting && (
        <Dialog title={`Delete ${name} for good?`} onClose={() => setDeleting(false)} className="w-115">
          <p className="py-2 text-soft">
            It never flew. Its settings, readings and proofs go with it, and cannot be brought back; an archive of it can. To keep it out of the way, retire it.
          </p>
          <div className="flex items-center gap-4">
            <Button disabled={remove.isPending} onClick={() => remove.mutate(undefined, { onSuccess: () => setDeleting(false) })}>
              Delete it
            </Button>
            <DialogClose className={textLook}>Cancel</DialogClose>
          </div>
        </Dialog>
      )}
      {cloning && (
        <Naming
          title={`Another quad like ${name}`}
          says="It is meant the same. What was measured, signed and flown belongs to this one and stays with it."
          act="Clone it"
          onClose={() => setCloning(false)}
          onName={(as) => clone.mutateAsync(as)}
        />
      )}
    </div>
  )
}

function Naming(props: { title: string; says: string; act: string; onClose: () => void; onName: (name: string) => Promise<unknown> }) {
  const [says, setSays] = useState('')
  return (
    <Dialog title={props.title} onClose={props.onClose}>
      <p className="text-soft">{props.says}</p>
      <form
        className={fieldRow}
        onSubmit={(e) => {
          e.preventDefault()
          props.onName(String(new FormData(e.currentTarget).get('name'))).catch((err: Error) => setSays(err.message))
        }}
      >
        <label>
          Name
          <input name="name" type="text" required maxLength={80} />
        </label>
        <Button type="submit" small main>
          {props.act}
        </Button>
        <DialogClose className={textLook}>Cancel</DialogClose>
      </form>
      {says && (
        <p role="alert" className="text-stop">
          {says}
        </p>
      )}
    </Dialog>
  )
}

/** Every kind of part as one quad has it, or none. */
const partsOf = (id: number): Schemas['PartsOf'] => ({ frame: id, motors: id, propeller: id, power: id, board: id, radio: id, video: id })

/** A quad begun with no bench at all: its parts from the hangar's shelf, its settings from a pasted list. */
function Begin({ list, onClose }: { list: Hangar; onClose: () => void }) {
  const begin = useMade(quads.begin)
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const d = new FormData(e.currentTarget)
    const text = (k: string) => String(d.get(k) ?? '').trim()
    begin.mutate({
      name: text('name'),
      words: text('words'),
      list: text('list'),
      line: text('line'),
      version: text('version'),
      target: text('target'),
      parts: partsOf(Number(text('as'))),
      chosen: Object.fromEntries(kinds.map(([k]) => [k, text(k)]).filter(([, name]) => name)),
    })
  }
  return (
    <Dialog title="Begin a quad" className="w-[min(860px,calc(100vw-24px))]" onClose={onClose}>
      <p className="text-soft">
        A name is enough. Say what is on it as far as you know, paste what the board holds if you have it, and see what does not fit. No bench is needed.
      </p>
      <form
        className="mt-2.5 grid grid-cols-[5fr_4fr] gap-x-5.5 gap-y-3 phone:grid-cols-1 phone:gap-3 [&_fieldset]:grid [&_fieldset]:content-start [&_fieldset]:grid-cols-2 [&_fieldset]:gap-x-4 [&_fieldset]:gap-y-2.5 phone:[&_fieldset]:grid-cols-1 [&_label]:grid [&_label]:content-start [&_label]:text-[13px] [&_label]:text-soft [&_legend]:col-span-full [&_legend]:pb-1 [&_legend]:font-semibold [&_textarea]:text-[14px] [&_textarea]:text-ink"
        onSubmit={submit}
      >
        <label>
          Name
          <input name="name" type="text" required maxLength={80} />
        </label>
        <label>
          In a few words
          <input name="words" type="text" maxLength={200} />
        </label>
        <fieldset>
          <legend>Parts, as far as they are known</legend>
          {kinds.map(([kind, label]) => (
            <PartField key={kind} kind={kind} label={label} />
          ))}
          {list.length > 0 && (
            <div className="grid text-[13px] text-soft">
              All others as on
              <Select
                label="All others as on"
                name="as"
                start="0"
                options={[{ value: '0', words: 'no other quad' }, ...list.map((q) => ({ value: String(q.id), words: q.name }))]}
              />
            </div>
          )}
        </fieldset>
        <fieldset>
          <legend>Its settings list</legend>
          <label>
            Firmware family
            <input name="line" type="text" maxLength={40} />
          </label>
          <label>
            Version
            <input name="version" type="text" maxLength={40} />
          </label>
          <label>
            Board target
            <input name="target" type="text" maxLength={40} />
          </label>
          <label className="col-span-full">
            The list, one setting a line
            <textarea name="list" rows={12} spellCheck={false} />
          </label>
        </fieldset>
        {begin.error && (
          <p role="alert" className="text-stop col-span-full">
            {begin.error.message}
          </p>
        )}
        <div className="flex flex-wrap items-center gap-2.5 col-span-full">
          <Button type="submit" main disabled={begin.isPending}>
            {begin.isPending ? 'Reading it…' : 'Begin it'}
          </Button>
          <DialogClose className={textLook}>Cancel</DialogClose>
        </div>
      </form>
    </Dialog>
  )
}
