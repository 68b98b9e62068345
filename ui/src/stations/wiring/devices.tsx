import { type FormEvent, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { fieldRow } from '../../kit/looks'
import { Select } from '../../kit/select'
import { Facts } from '../../kit/table'
import { Tick } from '../../kit/tick'
import { onConflict } from '../../places/line/conflict'
import { acts, type Change, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { asNamed } from '../../wire/path'

type Device = Schemas['Device']

const plain = /^[^.*]+$/ // a device is addressed by its name

const functions = [
  ['satellite', 'a satellite receiver'],
  ['video', 'a video transmitter that is told its channel'],
  ['display', 'goggles’ display, or what draws into the picture'],
  ['telemetry', 'something that hears telemetry'],
  ['nothing', 'something that needs no port of its own'],
] as const

/** What is wired to the board: added with what it needs, its wires taken off, or taken away as a whole. */
export function Devices({ quad }: { quad: QuadAt<'wiring'> }) {
  const [wrong, setWrong] = useState('')
  const [how, setHow] = useState({ bus: false, oneWire: false, inverted: false })
  const edit = useAct(quad.id, (values: Change[]) => acts.edit(quad.id, quad.version, values))
  const devices = quad.meant.parts.devices ?? {}
  const wires = quad.meant.parts.wires
  const change = (name: string, values: Change[]) => edit.mutate(values, { onError: onConflict(quad, name, values) })
  const offWires = (name: string): Change[] => (wires[name] ? [{ path: asNamed(`parts.wires.${name}`), value: null }] : [])
  const add = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const form = e.currentTarget
    const d = new FormData(form)
    const text = (k: string) => String(d.get(k) ?? '').trim()
    const name = text('name')
    if (!plain.test(name) || name === 'receiver' || devices[name]) {
      setWrong('A device has a name of its own, without full stops.')
      return
    }
    setWrong('')
    const value: Record<string, unknown> = { ...how, function: how.bus ? 'nothing' : text('function'), talks: true, listens: !how.oneWire || how.bus }
    for (const figure of ['least', 'most', 'draw', 'baud']) if (text(figure)) value[figure] = text(figure)
    edit.mutate([{ path: asNamed(`parts.devices.${name}`), value }], { onSuccess: () => form.reset(), onError: onConflict(quad, name, []) })
  }
  const names = [
    'receiver',
    ...Object.keys(devices)
      .filter((n) => n !== 'receiver')
      .sort(),
  ]
  return (
    <section aria-label="Devices" className="grid gap-2.5 print:hidden">
      <Facts>
        <thead>
          <tr>
            <th scope="col">Device</th>
            <th scope="col">Soldered to</th>
            <th scope="col">Needs</th>
            <th scope="col">
              <span className="sr-only">What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {names.map((name) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td>
                {wires[name]?.port ? `port ${wires[name].port}` : wires[name]?.bus ? `bus ${wires[name].bus}` : <span className="text-soft">nothing</span>}
              </td>
              <td className="text-soft">{devices[name] && needs(devices[name])}</td>
              <td>
                <span className="flex gap-4">
                  {wires[name] && (
                    <TextButton aria-label={`Take the wires of ${name} off`} disabled={edit.isPending} onClick={() => change(name, offWires(name))}>
                      Wires off
                    </TextButton>
                  )}
                  {devices[name] && name !== 'receiver' && (
                    <TextButton
                      quiet
                      aria-label={`Take ${name} away`}
                      disabled={edit.isPending}
                      onClick={() => change(name, [...offWires(name), { path: asNamed(`parts.devices.${name}`), value: null }])}
                    >
                      Take it away
                    </TextButton>
                  )}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </Facts>
      <form className={fieldRow} aria-label="Add a device" onSubmit={add}>
        <label>
          Name
          <input name="name" type="text" required maxLength={40} />
        </label>
        <div className="grid text-[13px] text-soft">
          What it is
          <Select label="What it is" name="function" start="satellite" disabled={how.bus} options={functions.map(([value, words]) => ({ value, words }))} />
        </div>
        <label>
          Supply from, V
          <input name="least" type="text" maxLength={12} />
        </label>
        <label>
          to, V
          <input name="most" type="text" maxLength={12} />
        </label>
        <label>
          Draws, mA
          <input name="draw" type="text" maxLength={12} />
        </label>
        <label>
          Speed, kBd
          <input name="baud" type="text" maxLength={12} />
        </label>
        <Tick checked={how.bus} onChange={(bus) => setHow({ ...how, bus })}>
          on a two-wire bus
        </Tick>
        <Tick checked={how.oneWire} onChange={(oneWire) => setHow({ ...how, oneWire })}>
          on one wire, in turn
        </Tick>
        <Tick checked={how.inverted} onChange={(inverted) => setHow({ ...how, inverted })}>
          inverted
        </Tick>
        <Button type="submit" small disabled={edit.isPending}>
          Add it
        </Button>
        {(wrong || edit.error) && (
          <p role="alert" className="text-stop">
            {wrong || edit.error?.message}
          </p>
        )}
      </form>
    </section>
  )
}

/** What a device needs, as far as it was told. */
const needs = (d: Device) =>
  [
    d.bus ? 'a bus' : '',
    d.oneWire ? 'one wire' : '',
    d.inverted ? 'inversion' : '',
    d.least || d.most ? `${d.least || '?'} to ${d.most || '?'} V` : '',
    d.draw ? `${d.draw} mA` : '',
    d.baud ? `${d.baud} kBd` : '',
  ]
    .filter(Boolean)
    .join(', ')
