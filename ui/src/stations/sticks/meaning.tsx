import { Popover } from 'radix-ui'
import { type FormEvent, useId, useRef, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { join } from '../../kit/join'
import { fieldRow } from '../../kit/looks'
import { upper } from '../../kit/text'
import { Tick } from '../../kit/tick'
import { onConflict } from '../../places/line/conflict'
import { acts, assignMeaning, type Change, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { asNamed } from '../../wire/path'
import { type Carry, type MeaningId, meaningKey, offSwitches, type Spot } from './carry'

type Props = { quad: QuadAt<'sticks'>; id: MeaningId; at?: Spot; carry: Carry; byTurns?: boolean }

/** One meaning where it lies: dragged or carried to another position; opened, its positions are ticked and its edges typed. */
export function Meaning({ quad, id, at = offSwitches, carry, byTurns }: Props) {
  const [open, setOpen] = useState(false)
  const meaning = quad.switches.map.meanings.find((m) => m.id === id)
  const dragged = useRef(false)
  if (!meaning) return null
  const listen = carry.listen(id, at)
  const held = carry.carried === id
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        data-meaning={meaningKey(id, at)}
        aria-describedby="how-to-carry"
        aria-label={`${meaning.on}, ${at.switch ? `${at.switch} at ${at.position}` : 'on no switch'}`}
        className={join(
          'cursor-grab touch-none rounded-xl border bg-panel px-2.5 py-px text-[14px] font-semibold pointer-coarse:min-h-10',
          id === 'arm' ? 'border-stop text-stop' : 'border-act text-act',
          byTurns && 'border-dashed',
          held && 'relative z-10 cursor-grabbing opacity-75 outline-2 outline-act outline-dashed',
        )}
        {...listen}
        onPointerMove={(e) => {
          listen.onPointerMove(e)
          dragged.current = carry.carried !== ''
        }}
        onClick={(e) => {
          // A drag ends in a click too.
          if (dragged.current) e.preventDefault()
          dragged.current = false
        }}
      >
        {meaning.on}
      </Popover.Trigger>
      {open && (
        <Popover.Portal>
          <Popover.Content
            side="bottom"
            align="start"
            sideOffset={6}
            collisionPadding={10}
            aria-label={`Where ${meaning.on} is on`}
            className="z-20 w-84 max-w-[94vw] rounded-lg border border-faint bg-panel px-4 py-3 text-[15px] text-ink"
          >
            <Edges quad={quad} id={id} at={at} onDone={() => setOpen(false)} />
          </Popover.Content>
        </Popover.Portal>
      )}
    </Popover.Root>
  )
}

/** The positions in which a meaning is on, and its edges in µs. */
function Edges({ quad, id, at, onDone }: { quad: QuadAt<'sticks'>; id: MeaningId; at: Spot; onDone: () => void }) {
  const field = useId()
  const map = quad.switches.map
  const meaning = map.meanings.find((m) => m.id === id)
  const column = map.columns.find((c) => c.switch === at.switch && c.switch !== '')
  const on = column?.cells.filter((c) => c.held.some((h) => h.function === id && h.on !== 'no')).map((c) => c.position) ?? []
  const [from, setFrom] = useState(String(meaning?.range.from || ''))
  const [to, setTo] = useState(String(meaning?.range.to || ''))
  const assign = useAct(quad.id, (positions: string[]) => assignMeaning(quad.id, { version: quad.version, function: id, switch: at.switch, positions }))
  const edit = useAct(quad.id, (values: Change[]) => acts.edit(quad.id, quad.version, values))
  const fails = { onError: onConflict(quad, 'The meaning', []) }
  const type = (e: FormEvent) => {
    e.preventDefault()
    const given = { from: Number(from.replace(',', '.')), to: Number(to.replace(',', '.')) }
    const path = asNamed(`${meaning?.path}`)
    edit.mutate([{ path, value: { channel: meaning?.range.channel, ...given } }], { onError: onConflict(quad, 'Your edges', []), onSuccess: onDone })
  }
  if (!meaning) return null
  if (meaning.range.channel === 0) return <p>{upper(meaning.on)} is on no switch. Drag it to a position, or pick it up with the space bar.</p>
  return (
    <>
      <p>
        <b>{upper(meaning.on)}</b> looks at channel {meaning.range.channel}
      </p>
      {column && column.shared.length === 0 && (
        <fieldset className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1" aria-label="On at">
          {[...column.cells].reverse().map((c) => (
            <Tick
              key={c.position}
              checked={on.includes(c.position)}
              disabled={assign.isPending || (on.length === 1 && on.includes(c.position))}
              onChange={(yes) => assign.mutate(yes ? [...on, c.position] : on.filter((p) => p !== c.position), { ...fails, onSuccess: onDone })}
            >
              {c.position}
            </Tick>
          ))}
        </fieldset>
      )}
      <form className={fieldRow} onSubmit={type} aria-label={`Edges of ${meaning.on}`}>
        {(
          [
            ['from', from, setFrom],
            ['to', to, setTo],
          ] as const
        ).map(([name, text, set]) => (
          <label key={name} htmlFor={field + name}>
            {name}, µs
            <input
              id={field + name}
              type="number"
              className="w-24 font-[inherit]"
              min={900}
              max={2100}
              step={5}
              required
              value={text}
              onChange={(e) => set(e.target.value)}
            />
          </label>
        ))}
        <Button small type="submit" disabled={edit.isPending}>
          Save
        </Button>
      </form>
      <div className="mt-2.5 flex flex-wrap gap-x-4">
        {on.length > 0 && column?.shared.length === 0 && (
          <TextButton disabled={assign.isPending} onClick={() => assign.mutate(on, { ...fails, onSuccess: onDone })}>
            Put its edges midway
          </TextButton>
        )}
        <TextButton quiet disabled={assign.isPending} onClick={() => assign.mutate([], { ...fails, onSuccess: onDone })}>
          Take it off the switch
        </TextButton>
      </div>
    </>
  )
}
