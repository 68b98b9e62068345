import { type FormEvent, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { fieldRow } from '../../kit/looks'
import { lower } from '../../kit/text'
import { onConflict } from '../../places/line/conflict'
import { type Kind, labelOf, PartField } from '../../places/parts/part-field'
import { acts, type QuadView, type Schemas, useAct, useParts } from '../../wire/client'
import { packs } from '../../wire/packs'
import { asNamed } from '../../wire/path'

/** What is on the quad, kind by kind: fitted from the catalogue or by a name of one's own, and which other quads have the same. */
export function PartsList({ quad }: { quad: QuadView }) {
  const parts = useParts(quad)
  if (parts.error) return <p role="alert">{parts.error.message}</p>
  if (!parts.data) return <p aria-busy="true">Looking what is on it…</p>
  return (
    <div className="min-h-0 overflow-y-auto pr-2">
      <ul aria-label="Parts">
        {parts.data.map((p, i) => (
          <Part key={p.kind + p.name} quad={quad} part={p} more={parts.data[i + 1]?.kind !== p.kind} />
        ))}
      </ul>
      <p className="pt-2 text-[14px] text-soft">A part is a copy: its figures are changed below, under Intended settings, and change no other quad.</p>
    </div>
  )
}

const added = { pack: 'Add a pack', satellite: 'Add a device' }

function Part({ quad, part: p, more }: { quad: QuadView; part: Schemas['PartView']; more: boolean }) {
  const [open, setOpen] = useState(false)
  const [told, setTold] = useState(false)
  const kind = p.kind as Kind
  const label = labelOf[kind]
  const fit = useAct(quad.id, (name: string) => acts.fit(quad.id, { version: quad.version, kind, name }))
  const takeOff = useAct(quad.id, () => acts.edit(quad.id, quad.version, [{ path: asNamed(p.path), value: null }]))
  const take = useAct(quad.id, (name: string) => packs.take(quad.id, { version: quad.version, name }))
  const adds = kind === 'pack' || kind === 'satellite'
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    fit.mutate(String(new FormData(e.currentTarget).get(kind)), { onError: onConflict(quad, `The ${lower(label)}`, []), onSuccess: () => setOpen(false) })
  }
  return (
    <li className="grid grid-cols-[150px_minmax(0,1fr)_auto] items-baseline gap-x-3 border-b border-line py-1.5 phone:grid-cols-[minmax(0,1fr)_auto]">
      <span className="text-soft phone:col-span-full">{label}</span>
      <span>
        {p.name ? <b>{p.name}</b> : <span className="text-soft">not known yet</span>}
        {p.also.length > 0 && <span className="text-[14px] text-soft"> also on {p.also.join(', ')}</span>}
        {p.differs.length > 0 && (
          <span className="block text-[14px]">
            Your pack has {p.differs.map((d) => `${lower(d.label)} ${d.pack}, here ${d.copy}`).join('; ')}.{' '}
            <TextButton
              aria-label={`Take ${p.name} over`}
              disabled={take.isPending}
              onClick={() => take.mutate(p.name, { onError: onConflict(quad, p.name, []) })}
            >
              Take it over
            </TextButton>
          </span>
        )}
      </span>
      <span className="flex gap-4">
        {p.figures.length > 0 && (
          <TextButton quiet aria-expanded={told} aria-label={`Figures of ${p.name}`} onClick={() => setTold(!told)}>
            Figures
          </TextButton>
        )}
        {adds && p.name && (
          <TextButton
            quiet
            disabled={takeOff.isPending}
            aria-label={`Take off ${p.name}`}
            onClick={() => takeOff.mutate(undefined, { onError: onConflict(quad, p.name, []) })}
          >
            Take off
          </TextButton>
        )}
        {(!adds || more) && (
          <TextButton aria-expanded={open} aria-label={adds ? undefined : `Change the ${lower(label)}`} onClick={() => setOpen(!open)}>
            {adds ? added[kind] : p.name ? 'Change' : 'Say what it is'}
          </TextButton>
        )}
      </span>
      {told && (
        <dl
          aria-label={`Figures of ${p.name}, and where they came from`}
          className="col-span-full grid grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_minmax(0,1.2fr)] gap-x-3 pb-1.5 pl-38 text-[13.5px] phone:pl-0"
        >
          {p.figures.map((f) => (
            <div key={f.label} className="contents">
              <dt className="text-soft">{f.label}</dt>
              <dd className="tabular-nums">{f.words}</dd>
              <dd className={f.from === 'estimate' ? 'text-fix' : 'text-soft'}>{f.says}</dd>
            </div>
          ))}
        </dl>
      )}
      {open && (
        <form className={`${fieldRow} col-span-full pb-1.5 [&_input]:w-80!`} aria-label={`Fit: ${lower(label)}`} onSubmit={submit}>
          <PartField kind={kind} label={label} required />
          <Button small type="submit" disabled={fit.isPending}>
            Fit it
          </Button>
          <TextButton onClick={() => setOpen(false)}>Cancel</TextButton>
        </form>
      )}
    </li>
  )
}
