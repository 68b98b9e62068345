// How quads come in and go out: begun from a list and parts, brought from an archive, cloned, taken along.

import { useMutation, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { Button, buttonLook, TextButton, textLook } from '../../kit/button'
import { useCommands } from '../../shell/commands'
import { showError } from '../../shell/message'
import { quads, type Schemas } from '../../wire/client'
import { useMade } from './made'

type Hangar = Schemas['HangarQuad'][]

// Dialogs come when they are asked for: the hangar is what is seen first.
const Begin = lazy(() => import('./begin').then((m) => ({ default: m.Begin })))
const Naming = lazy(() => import('./naming').then((m) => ({ default: m.Naming })))
const Deleting = lazy(() => import('./deleting').then((m) => ({ default: m.Deleting })))

export function Ways({ quads: list }: { quads: Hangar }) {
  const [beginning, setBeginning] = useState(false)
  const picker = useRef<HTMLInputElement>(null)
  const navigate = useNavigate()
  const [archive, setArchive] = useState<{ text: string; name: string } | null>(null)
  const bring = useMade(({ text, name }: { text: string; name: string }) => quads.bring(text, name))
  const pick = () => picker.current?.click()
  useCommands([
    { words: 'Begin a quad', place: 'Hangar', run: () => setBeginning(true) },
    { words: 'My parts', place: 'Hangar', run: () => navigate('/parts'), also: 'catalogue shelf own CSV table' },
    { words: 'My packs', place: 'Hangar', run: () => navigate('/packs'), also: 'battery lipo resistance health' },
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
      <Link className={buttonLook({ small: true })} to="/parts">
        My parts
      </Link>
      <Link className={buttonLook({ small: true })} to="/packs">
        My packs
      </Link>
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
      <Suspense>{beginning && <Begin list={list} onClose={() => setBeginning(false)} />}</Suspense>
      {archive && (
        <Suspense>
          <Naming
            title="You have a quad of that name"
            says="Bring this one in under another."
            act="Bring it in"
            onClose={() => setArchive(null)}
            onName={(name) => bring.mutateAsync({ text: archive.text, name })}
          />
        </Suspense>
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
        <Suspense>
          <Deleting
            name={name}
            busy={remove.isPending}
            onDone={() => remove.mutate(undefined, { onSuccess: () => setDeleting(false) })}
            onClose={() => setDeleting(false)}
          />
        </Suspense>
      )}
      {cloning && (
        <Suspense>
          <Naming
            title={`Another quad like ${name}`}
            says="It is meant the same. What was measured, signed and flown belongs to this one and stays with it."
            act="Clone it"
            onClose={() => setCloning(false)}
            onName={(as) => clone.mutateAsync(as)}
          />
        </Suspense>
      )}
    </div>
  )
}
