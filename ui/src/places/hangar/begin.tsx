import type { FormEvent } from 'react'
import { Button, textLook } from '../../kit/button'
import { Dialog, DialogClose } from '../../kit/dialog'
import { Select } from '../../kit/select'
import { quads, type Schemas } from '../../wire/client'
import { kinds, PartField } from '../parts/part-field'
import { useMade } from './made'

/** Every kind of part as one quad has it, or none. */
const partsOf = (id: number): Schemas['PartsOf'] => ({ frame: id, motors: id, propeller: id, power: id, board: id, radio: id, video: id })

/** A quad begun with no bench at all: its parts from the hangar's shelf, its settings from a pasted list. */
export function Begin({ list, onClose }: { list: Schemas['HangarQuad'][]; onClose: () => void }) {
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
      country: text('country'),
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
          <legend>Where it flies</legend>
          <label className="col-span-full">
            Country or field; what is allowed there comes from a quad that flies there already
            <input name="country" type="text" maxLength={80} />
          </label>
          <p className="col-span-full pt-1 text-[13px] font-semibold text-soft">Its settings list</p>
          <label>
            Firmware family, if its head does not say
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
