import { type FormEvent, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { fieldRow } from '../../kit/looks'
import { onConflict } from '../../places/line/conflict'
import { acts, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { asNamed } from '../../wire/path'

const plain = /^[^.*]+$/ // a switch is addressed by its name

/** The switches that the radio has: each with its channel and its positions, added and taken away. */
export function Switches({ quad }: { quad: QuadAt<'sticks'> }) {
  const [open, setOpen] = useState(false)
  const [wrong, setWrong] = useState('')
  const edit = useAct(quad.id, (v: { name: string; plan: unknown }) =>
    acts.edit(quad.id, quad.version, [{ path: asNamed(`radio.switches.${v.name}`), value: v.plan }]),
  )
  const have = Object.keys(quad.meant.radio.switches)
  const taken = new Set(Object.values(quad.meant.radio.switches).map((s) => s.channel))
  const free = Array.from({ length: 14 }, (_, i) => i + 5).find((c) => !taken.has(c)) ?? 5
  const add = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const d = new FormData(e.currentTarget)
    const text = (k: string) => String(d.get(k) ?? '').trim()
    const positions = text('positions')
      .split(',')
      .map((p) => p.trim())
      .filter((p) => p !== '')
    if (!plain.test(text('name')) || have.includes(text('name'))) {
      setWrong('A switch has a name of its own, without full stops.')
      return
    }
    if (positions.length < 2 || new Set(positions).size < positions.length) {
      setWrong('Name two positions or more, each once, with commas between.')
      return
    }
    setWrong('')
    edit.mutate(
      { name: text('name'), plan: { channel: Number(text('channel')), positions, rest: positions[0] } },
      { onSuccess: () => setOpen(false), onError: onConflict(quad, 'Your switch', []) },
    )
  }
  return (
    <section aria-label="The radio’s switches" className="flex flex-wrap items-center gap-2.5">
      {!open && (
        <Button small onClick={() => setOpen(true)}>
          Add a switch
        </Button>
      )}
      {open && (
        <form className={fieldRow} aria-label="Add a switch" onSubmit={add}>
          <label>
            Name
            {/* biome-ignore lint/a11y/noAutofocus: the pilot asked for this field a moment ago */}
            <input name="name" type="text" required maxLength={40} autoFocus placeholder="left shoulder" />
          </label>
          <label>
            Channel
            <input name="channel" type="number" required min={5} max={18} defaultValue={free} />
          </label>
          <label>
            Positions, the one at rest first
            <input name="positions" type="text" required maxLength={120} placeholder="safe, armed" />
          </label>
          <Button type="submit" small main disabled={edit.isPending}>
            Add it
          </Button>
          <TextButton onClick={() => setOpen(false)}>Cancel</TextButton>
          {wrong && (
            <p role="alert" className="text-stop">
              {wrong}
            </p>
          )}
        </form>
      )}
      {have.map((name) => (
        <TextButton
          key={name}
          disabled={edit.isPending}
          onClick={() => edit.mutate({ name, plan: null }, { onError: onConflict(quad, name, []) })}
        >{`Take ${name} away`}</TextButton>
      ))}
    </section>
  )
}
