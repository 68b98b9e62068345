import { type FormEvent, useId, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Dialog } from '../../kit/dialog'
import { fieldRow } from '../../kit/looks'
import { acts, type QuadView, type Schemas, useAct } from '../../wire/client'
import { asNamed } from '../../wire/path'
import { Fields, missingOf, typedValue } from './typed'

type Ask = Schemas['AskView']

/** All that a station still needs on one sheet, as a pilot goes through it with a meter in the hand: what is filled in is kept together. */
export function TypeAll({ asks, quad, onClose }: { asks: Ask[]; quad: QuadView; onClose: () => void }) {
  const id = useId()
  const [text, setText] = useState<Record<string, Record<string, string>>>({})
  const [missing, setMissing] = useState('')
  const filled = asks.filter((a) => Object.values(text[a.path] ?? {}).some((t) => t.trim() !== ''))
  const keep = useAct(quad.id, async () => {
    const values = filled.map((a) => ({ path: asNamed(a.path), value: typedValue(a.slots, text[a.path] ?? {}) }))
    const meant = values.filter((v) => !v.path.startsWith('readings.'))
    const read = values.filter((v) => v.path.startsWith('readings.'))
    let now = quad
    if (meant.length) now = await acts.edit(quad.id, quad.version, meant)
    return read.length ? acts.typeAll(quad.id, read) : now
  })
  const submit = (e: FormEvent) => {
    e.preventDefault()
    const open = filled.find((a) => missingOf(a.slots, text[a.path] ?? {}))
    const short = filled.find((a) => a.slots.some((s) => !s.optional && !(text[a.path]?.[s.path] ?? '').trim()))
    const wrong = open ?? short
    setMissing(wrong ? `${wrong.label} is filled in half: say all of it, or nothing.` : '')
    if (!wrong) keep.mutate(undefined, { onSuccess: onClose })
  }
  return (
    <Dialog title="What is still needed here" className="w-[min(760px,calc(100vw-24px))]" onClose={onClose}>
      <p className="text-soft">Fill in what you have; the rest stays needed. Units are understood.</p>
      <form onSubmit={submit} aria-label="All that is still needed">
        <ol className="[&>li]:grid [&>li]:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] [&>li]:gap-x-5 [&>li]:border-b [&>li]:border-line [&>li]:py-2 phone:[&>li]:grid-cols-1">
          {asks.map((a) => (
            <li key={a.path} data-ask={a.path}>
              <div>
                <b className="font-semibold">{a.label}</b>
                <p className="text-[14px] text-soft">{a.how}</p>
                {a.good && <p className="text-[14px] text-ok">Good: {a.good}</p>}
              </div>
              <fieldset className={fieldRow} aria-label={a.label}>
                <Fields
                  id={`${id}${a.path}`}
                  slots={a.slots}
                  label={a.label}
                  text={text[a.path] ?? {}}
                  loose
                  onText={(t) => setText({ ...text, [a.path]: t })}
                />
              </fieldset>
            </li>
          ))}
        </ol>
        {(missing || keep.error) && (
          <p role="alert" className="pt-2 text-stop">
            {missing || keep.error?.message}
          </p>
        )}
        <div className="flex flex-wrap items-center gap-2.5 pt-2.5">
          <Button type="submit" main disabled={keep.isPending || filled.length === 0}>
            {filled.length > 1 ? `Save ${filled.length}` : 'Save'}
          </Button>
          <TextButton onClick={onClose}>Cancel</TextButton>
        </div>
      </form>
    </Dialog>
  )
}
