import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Disclosure } from '../../kit/disclosure'
import { join } from '../../kit/join'
import { fieldRow } from '../../kit/looks'
import { acts, type Perch, type QuadView, Refusal, type Schemas, setLimit, useAct, usePilot } from '../../wire/client'
import { asNamed } from '../../wire/path'
import { onConflict } from './conflict'

type Limit = Schemas['LimitView']

/** The your own limits a station's rules go by: where they usually stand, and whose they are now. */
export function Limits({ perch, quad }: { perch: Perch; quad: QuadView }) {
  return (
    <Disclosure words={`Limits it is judged by (${perch.limits.length})`}>
      {perch.limits.map((l) => (
        <LimitRow key={l.key} limit={l} quad={quad} />
      ))}
    </Disclosure>
  )
}

const unit = (l: Limit) => (l.unit && l.unit !== '1' ? ` ${l.unit}` : '')

/** One limit; with a quad it can be moved for that quad, and for all of the pilot's in either case. */
export function LimitRow({ limit: l, quad }: { limit: Limit; quad?: QuadView }) {
  const [open, setOpen] = useState(false)
  const whose = l.quad.value ? `this quad's own: ${l.quad.reason}` : l.pilot.value ? `your own: ${l.pilot.reason}` : 'as usual'
  return (
    <div className="grid grid-cols-[1fr_auto] gap-x-2.5 border-b border-line py-1">
      <span>
        {l.label} <b>{l.stands}</b> <span className="text-soft">{whose}</span>
      </span>
      <TextButton aria-expanded={open} aria-label={`Move the limit: ${l.label}`} onClick={() => setOpen(!open)}>
        Move
      </TextButton>
      {open && <Mover limit={l} quad={quad} onDone={() => setOpen(false)} />}
    </div>
  )
}

function Mover({ limit: l, quad, onDone }: { limit: Limit; quad?: QuadView; onDone: () => void }) {
  const queries = useQueryClient()
  const pilot = usePilot()
  const [says, setSays] = useState('')
  const done = () => {
    void queries.invalidateQueries()
    onDone()
  }
  const forQuad = useAct(quad?.id ?? 0, (value: unknown) => acts.edit(quad?.id ?? 0, quad?.version ?? 0, [{ path: asNamed(l.path), value }]))
  const forAll = useMutation({
    mutationFn: (own: { value: unknown; reason: string }) => setLimit(pilot.data?.version ?? 0, l.key, own.value, own.reason),
    onSuccess: done,
    onError: (e) => {
      setSays(e.message)
      void pilot.refetch()
    },
  })
  const give = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const d = new FormData(e.currentTarget)
    const text = String(d.get('value')).trim()
    const n = Number(text.replace(',', '.'))
    const own = { value: text === '' ? 0 : Number.isFinite(n) ? n : text, reason: String(d.get('reason')) }
    const all = (e.nativeEvent as SubmitEvent).submitter?.getAttribute('value') === 'all' || !quad
    if (all) forAll.mutate(own)
    else
      forQuad.mutate(own, {
        onSuccess: done,
        onError: (e) => {
          if (e instanceof Refusal && e.code === 'changed' && quad) onConflict(quad, 'Your limit', [{ path: asNamed(l.path), value: own }])(e)
          else setSays(e.message)
        },
      })
  }
  const own = quad ? l.quad : l.pilot
  return (
    <form className={join(fieldRow, 'col-span-full gap-2')} onSubmit={give} aria-label={`Move the limit: ${l.label}`}>
      <label>
        Limit{unit(l) && `,${unit(l)}`}
        <input name="value" type="text" defaultValue={own.value || ''} placeholder={String(l.usual)} aria-describedby={`limit-${l.key}`} />
      </label>
      <label style={{ flex: '1 1 180px' }}>
        Why
        <input name="reason" type="text" defaultValue={own.reason} maxLength={500} style={{ width: '100%' }} />
      </label>
      <span className="flex-[1_1_100%] text-[13px] text-soft" id={`limit-${l.key}`}>
        Usually {l.usual}
        {unit(l)}. {l.allowed && `${l.allowed.least} to ${l.allowed.most}: ${l.allowed.because}.`} Empty puts the usual one back.
      </span>
      {quad && (
        <Button type="submit" small main value="quad" disabled={forQuad.isPending}>
          For {quad.name}
        </Button>
      )}
      <Button type="submit" small value="all" disabled={forAll.isPending || !pilot.data}>
        For all my quads
      </Button>
      <TextButton onClick={onDone}>Cancel</TextButton>
      {says && (
        <p role="alert" className="text-stop">
          {says}
        </p>
      )}
    </form>
  )
}
