import { type FormEvent, type ReactNode, useState } from 'react'
import { Button, textLook } from '../../kit/button'
import { Dialog, DialogClose } from '../../kit/dialog'
import { Select } from '../../kit/select'
import { quads, type Schemas } from '../../wire/client'
import { kinds, PartField } from '../parts/part-field'
import { useMade } from './made'
import { Shape } from './shape'

/** Every kind of part as one quad has it, or none. */
const partsOf = (id: number): Schemas['PartsOf'] => ({ frame: id, motors: id, propeller: id, power: id, board: id, radio: id, video: id })

/** Sizes by the diameter of their propellers, mm. */
const sizes: [number, string][] = [
  [0, 'not said'],
  [31, '65 mm from motor to motor'],
  [40, '75 mm from motor to motor'],
  [50.8, '2 inch'],
  [63.5, '2.5 inch'],
  [76.2, '3 inch'],
  [88.9, '3.5 inch'],
  [101.6, '4 inch'],
  [127, '5 inch'],
  [152.4, '6 inch'],
  [177.8, '7 inch'],
  [203.2, '8 inch'],
  [228.6, '9 inch'],
  [254, '10 inch'],
]

const uses = ['first flights', 'freestyle', 'racing', 'indoors', 'carrying a camera', 'long ways', 'survey']

const options = (list: (readonly [string | number, string])[]) => list.map(([value, words]) => ({ value: String(value), words }))

/** A quad begun with no bench at all, step by step: what it is, what is on it, where it flies, what its board holds. A name is enough. */
export function Begin({ list, onClose }: { list: Schemas['HangarQuad'][]; onClose: () => void }) {
  const begin = useMade(quads.begin)
  const [diameter, setDiameter] = useState(0)
  const [cells, setCells] = useState(0)
  const wish = { diameter, cells }
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const d = new FormData(e.currentTarget)
    const text = (k: string) => String(d.get(k) ?? '').trim()
    begin.mutate({
      name: text('name'),
      words: text('words'),
      diameter,
      cells,
      use: text('use'),
      list: text('list'),
      line: text('line'),
      version: text('version'),
      target: text('target'),
      country: text('country'),
      registration: text('registration'),
      remoteId: text('remoteId'),
      parts: partsOf(Number(text('as'))),
      chosen: Object.fromEntries(kinds.map(([k]) => [k, text(k)]).filter(([, name]) => name)),
    })
  }
  return (
    <Dialog title="Begin a quad" className="w-[min(1060px,calc(100vw-24px))]" onClose={onClose}>
      <p className="text-soft">A name is enough: whatever you leave out is asked for when something needs it. No bench is needed.</p>
      <form
        className="mt-2.5 grid grid-cols-[minmax(0,1fr)_250px] gap-x-7 phone:grid-cols-1 [&_input]:text-ink [&_label]:grid [&_label]:content-start [&_label]:text-[13px] [&_label]:text-soft [&_textarea]:text-[14px] [&_textarea]:text-ink"
        onSubmit={submit}
      >
        <ol>
          <Step number={1} title="What is it?" says="Parts that suit its size and its cells are offered below.">
            <label className="col-span-2">
              Name
              <input name="name" type="text" required maxLength={80} />
            </label>
            <Choice label="Size of its propellers" value={String(diameter)} onChoose={(v) => setDiameter(Number(v))} options={options(sizes)} />
            <Choice
              label="Cells of its packs"
              value={String(cells)}
              onChoose={(v) => setCells(Number(v))}
              options={options([[0, 'not said'], ...[1, 2, 3, 4, 6, 8, 12].map((n) => [n, String(n)] as const)])}
            />
            <Choice label="What it is for" name="use" options={options([['', 'not said'], ...uses.map((u) => [u, u] as const)])} />
            <label className="col-span-full">
              In a few words, if those are not enough
              <input name="words" type="text" maxLength={200} />
            </label>
          </Step>
          <Step number={2} title="What is on it?" says="As far as you know: from the catalogue, from your own parts, or just by a name. Leave the rest.">
            {kinds.map(([kind, label]) => (
              <PartField key={kind} kind={kind} label={label} wish={wish} />
            ))}
            {list.length > 0 && (
              <Choice label="All others as on" name="as" options={options([[0, 'no other quad'], ...list.map((q) => [q.id, q.name] as const)])} />
            )}
          </Step>
          <Step number={3} title="Where does it fly?" says="What is allowed there comes from a quad of yours that flies there, or you say it later.">
            <label>
              Country or field
              <input name="country" type="text" maxLength={80} />
            </label>
            <label>
              Registration that it carries
              <input name="registration" type="text" maxLength={80} />
            </label>
            <label>
              Remote identification
              <input name="remoteId" type="text" maxLength={80} placeholder="not needed there" className="placeholder:text-soft" />
            </label>
          </Step>
          <Step
            number={4}
            title="What does its board hold?"
            says="A settings list, printed by the board or saved by the program that you set it up with. Each figure that it tells need not be typed."
          >
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
              <textarea name="list" rows={7} spellCheck={false} />
            </label>
          </Step>
        </ol>
        <aside className="sticky top-0 self-start phone:static">
          <Shape diameter={diameter} cells={cells} />
          {begin.error && (
            <p role="alert" className="pb-2 text-stop">
              {begin.error.message}
            </p>
          )}
          <div className="flex flex-wrap items-center gap-2.5">
            <Button type="submit" main disabled={begin.isPending}>
              {begin.isPending ? 'Reading it…' : 'Begin it'}
            </Button>
            <DialogClose className={textLook}>Cancel</DialogClose>
          </div>
        </aside>
      </form>
    </Dialog>
  )
}

function Step({ number, title, says, children }: { number: number; title: string; says: string; children: ReactNode }) {
  return (
    <li className="grid grid-cols-[34px_minmax(0,1fr)] border-t border-line pt-2 pb-3.5">
      <span aria-hidden="true" className="text-[19px] font-semibold text-act">
        {number}
      </span>
      <div>
        <h3 className="text-[16px] font-semibold">{title}</h3>
        <p className="pb-2 text-[14px] text-soft">{says}</p>
        <div className="grid grid-cols-3 gap-x-4 gap-y-2.5 phone:grid-cols-1 phone:[&>*]:col-span-full">{children}</div>
      </div>
    </li>
  )
}

type ChoiceProps = { label: string; options: { value: string; words: string }[]; name?: string; value?: string; onChoose?: (v: string) => void }

function Choice({ label, options: list, ...rest }: ChoiceProps) {
  return (
    <div className="grid content-start text-[13px] text-soft">
      {label}
      <Select label={label} options={list} start={rest.value === undefined ? (list[0]?.value ?? '') : undefined} {...rest} />
    </div>
  )
}
