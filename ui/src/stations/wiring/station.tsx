import { useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useRef, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { join } from '../../kit/join'
import { stage } from '../../kit/looks'
import { Select } from '../../kit/select'
import { Facts } from '../../kit/table'
import { useOwnBench } from '../../places/bench/whose'
import { onConflict } from '../../places/line/conflict'
import { AsTable, Rows } from '../../shell/as-table'
import { showError } from '../../shell/message'
import type { Change } from '../../wire/client'
import { acts, type Schemas, useAct, wires } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { asNamed, type Path } from '../../wire/path'
import { useUnits } from '../../wire/units'
import type { StationProps } from '../props'
import { Drawing } from './drawing'
import { saveDrawing } from './save'

const Devices = lazy(() => import('./devices').then((m) => ({ default: m.Devices })))

/** Which wire goes where: drawn, soldered on the bench, asked whether it answers, planned. */
export function WiringStation({ quad }: StationProps<QuadAt<'wiring'>>) {
  const svg = useRef<SVGSVGElement>(null)
  const queries = useQueryClient()
  const [open, setOpen] = useState<'' | 'ports' | 'wires' | 'devices' | 'plan'>('')
  const [plan, setPlan] = useState<Schemas['PlanView'] | null>(null)
  const move = useAct(quad.id, (m: Omit<Schemas['MoveBody'], 'version'>) => wires.move(quad.id, { ...m, version: quad.version }))
  const look = useAct(quad.id, (path: Path) => acts.take(quad.id, path))
  const unplugged = useOwnBench((s) => Boolean(s.live && !s.live.pack && !s.live.usb))
  const pack = useOwnBench((s) => s.live?.pack ?? false)
  const w = quad.wiring
  const units = useUnits()
  const wired = w.devices.filter((d) => d.wire.port)
  const lookAll = async () => {
    for (const d of wired) await look.mutateAsync(d.name === 'receiver' ? 'readings.wiring.receiverAnswers' : `readings.wiring.answers.${d.name}`)
  }
  const [soldered, setSoldered] = useState('')
  const solder = async () => {
    setSoldered('Soldering…')
    for (const d of wired) await wires.solder(quad.id, d.name)
    await queries.invalidateQueries({ queryKey: ['quad', quad.id] })
    setSoldered('Soldered as drawn.')
  }
  const ask = async () => {
    setPlan(await wires.plan(quad.id))
    setOpen('plan')
  }
  const head = ['Device', 'Signal', 'Pad', 'Colour', 'Length', 'Twisted with']
  const rows = w.leads.map((l) => [l.device, l.signal, l.pad, l.colour ?? '', l.length ? units.length(l.length) : '', l.twisted ?? ''])
  return (
    <div className={join(stage, 'overflow-y-auto [&>svg]:flex-none')}>
      <AsTable wide caption="Every wire" head={head} rows={rows} />
      <Drawing ref={svg} quad={quad} onMove={(m) => move.mutate(m, { onError: onConflict(quad, 'Your wire', []) })} />
      <Rows head={head} rows={rows} className="hidden! print:table!" />
      {w.rails.length > 0 && (
        <p className="flex justify-center gap-7 text-[14px]">
          {w.rails.map((r) => (
            <span key={r.rail} className={r.spare < 0 || r.wrong.length ? 'text-stop' : 'text-soft'}>
              <b>{r.rail}</b> {r.draws} of {r.most} mA drawn{r.usb ? '' : ', not fed by USB'}
            </span>
          ))}
        </p>
      )}
      {w.suspects.length > 0 && (
        <section aria-label="Which wire is wrong" className="[&_li]:border-t [&_li]:border-line [&_li]:py-0.75">
          <Subhead>Which wire is wrong, the likeliest first</Subhead>
          <ol>
            {w.suspects.slice(0, 4).map((s) => (
              <li key={s.says}>
                <span className="inline-block w-11.5 font-semibold">{Math.round(100 * s.share)} %</span> {s.says} <span className="text-soft">{s.test}</span>
              </li>
            ))}
          </ol>
        </section>
      )}
      {open === 'plan' && plan && <Plan quad={quad} plan={plan} onDone={() => setOpen('')} />}
      <div className="flex flex-wrap items-center gap-2.5 print:hidden">
        <Button onClick={() => void ask().catch(showError)}>Plan the wires</Button>
        <Button disabled={!pack || look.isPending} onClick={() => void lookAll().catch(showError)}>
          {look.isPending ? 'Looking…' : 'Look whether they answer'}
        </Button>
        <Button
          disabled={!unplugged}
          title={unplugged ? undefined : 'Take pack and USB out first'}
          onClick={() =>
            void solder().catch((e) => {
              setSoldered('')
              showError(e)
            })
          }
        >
          Solder it so on the bench
        </Button>
        {soldered && (
          <span role="status" className="text-soft">
            {soldered}
          </span>
        )}
        <TextButton aria-expanded={open === 'ports'} onClick={() => setOpen(open === 'ports' ? '' : 'ports')}>
          Ports
        </TextButton>
        <TextButton aria-expanded={open === 'devices'} onClick={() => setOpen(open === 'devices' ? '' : 'devices')}>
          Devices
        </TextButton>
        <TextButton aria-expanded={open === 'wires'} onClick={() => setOpen(open === 'wires' ? '' : 'wires')}>
          Wires
        </TextButton>
        <TextButton onClick={() => svg.current && saveDrawing(svg.current, quad)}>As SVG</TextButton>
        <TextButton onClick={() => window.print()}>Print</TextButton>
      </div>
      {open === 'ports' && <Ports quad={quad} onMove={(m) => move.mutate(m, { onError: onConflict(quad, 'Your port', []) })} />}
      {open === 'wires' && <Wires quad={quad} />}
      <Suspense>{open === 'devices' && <Devices quad={quad} />}</Suspense>
    </div>
  )
}

function Plan({ quad, plan, onDone }: { quad: QuadAt<'wiring'>; plan: Schemas['PlanView']; onDone: () => void }) {
  const take = useAct(quad.id, () => wires.takePlan(quad.id, quad.version))
  if (plan.conflict)
    return (
      <section aria-label="Plan">
        <p className="text-stop">
          <b>There is no way to wire all of it.</b> {plan.conflict.devices.join(', ')}: {plan.conflict.why}
        </p>
      </section>
    )
  if (!plan.plan) return null
  const changed = plan.plan.places.filter((p) => p.moved || p.fresh)
  return (
    <section aria-label="Plan">
      {plan.works ? (
        <p className="text-ok">It is wired and told as it should be.</p>
      ) : (
        <>
          <p>
            <b>
              {plan.plan.changes} of {plan.plan.places.length} {plan.plan.changes === 1 ? 'device moves' : 'devices move'}.
            </b>{' '}
            {changed.map((p) => `${p.device} to ${[p.port && `port ${p.port}`, p.bus && `bus ${p.bus}`, p.rail].filter(Boolean).join(', ')}`).join('; ')}
            {changed.length === 0 && 'Only what the ports are told changes'}.{plan.plan.released.map((r) => ` ${r.pad} is no longer ${r.was}.`)}
          </p>
          <Button main disabled={take.isPending} onClick={() => take.mutate(undefined, { onError: onConflict(quad, 'Your plan', []), onSuccess: onDone })}>
            Draw it so
          </Button>
        </>
      )}
    </section>
  )
}

/** What each port is told. A port that is given to a device takes its wire along, as the drawing does the other way round. */
function Ports({ quad, onMove }: { quad: QuadAt<'wiring'>; onMove: (m: Omit<Schemas['MoveBody'], 'version'>) => void }) {
  const edit = useAct(quad.id, (v: Change) => acts.edit(quad.id, quad.version, [v]))
  const parts = quad.meant.parts.board.ports
  const ports = quad.meant.sheet.wiring.ports ?? {}
  const tellPort = (port: string, does: string) => {
    const device = quad.wiring.devices.find((d) => d.function === does && d.wire.port !== port)
    if (device) onMove({ device: device.name, port, rail: device.wire.rail, bus: device.wire.bus })
    else edit.mutate({ path: `sheet.wiring.ports.${port}.function`, value: does }, { onError: onConflict(quad, 'Your port', []) })
  }
  return (
    <Facts className="mt-2.5">
      <thead>
        <tr>
          <th scope="col">Port</th>
          <th scope="col">It is told</th>
          <th scope="col">Soldered there</th>
          <th scope="col">It can</th>
        </tr>
      </thead>
      <tbody>
        {Object.entries(parts).map(([name, p]) => (
          <tr key={name}>
            <th scope="row">{name}</th>
            <td>
              <Select
                label={`Port ${name} is told`}
                disabled={p.usb}
                value={ports[name]?.function ?? 'nothing'}
                options={['nothing', 'receiver', 'satellite', 'video', 'display', 'telemetry', 'configure'].map((f) => ({
                  value: f,
                  words: f,
                  off: f === 'configure' && !p.usb,
                }))}
                onChoose={(f) => tellPort(name, f)}
              />
            </td>
            <td>
              {quad.wiring.devices
                .filter((d) => d.wire.port === name)
                .map((d) => d.name)
                .join(', ') || <span className="text-soft">nothing</span>}
            </td>
            <td className="text-soft">
              {[
                p.usb && 'the plug',
                p.receive && 'receive',
                p.send && 'send',
                p.inverts && 'invert',
                p.oneWire && 'one wire',
                p.direct && 'direct memory access',
                p.soft && 'software serial',
                p.most > 0 && `${p.most} kBd at most`,
                p.was && `otherwise ${p.was}`,
              ]
                .filter(Boolean)
                .join(', ')}
            </td>
          </tr>
        ))}
      </tbody>
    </Facts>
  )
}

/** Every wire with what the pilot notes of it. */
function Wires({ quad }: { quad: QuadAt<'wiring'> }) {
  const edit = useAct(quad.id, (v: Change) => acts.edit(quad.id, quad.version, [v]))
  const set = (l: Schemas['Joint'], key: 'colour' | 'length' | 'twisted', value: string) => {
    const now = { colour: l.colour ?? '', length: l.length, twisted: l.twisted ?? '' }
    const number = Number.parseFloat(value)
    const next = { ...now, [key]: key === 'length' ? (Number.isFinite(number) ? number : 0) : value }
    if (JSON.stringify(next) === JSON.stringify(now)) return
    edit.mutate({ path: asNamed(`parts.wires.${l.device}.leads.${l.signal}`), value: next }, { onError: onConflict(quad, 'Your note', []) })
  }
  return (
    <Facts className="mt-2.5">
      <thead>
        <tr>
          {['From', 'Signal', 'To', 'Colour', 'Length, mm', 'Twisted with'].map((h) => (
            <th key={h} scope="col">
              {h}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {quad.wiring.leads.map((l) => (
          <tr key={`${l.device} ${l.signal}`}>
            <th scope="row">{l.device}</th>
            <td>{l.signal}</td>
            <td>{l.pad}</td>
            {(['colour', 'length', 'twisted'] as const).map((k) => (
              <td key={k}>
                <input
                  aria-label={`${l.device} ${l.signal}, ${k}`}
                  size={8}
                  defaultValue={k === 'length' ? l.length || '' : (l[k] ?? '')}
                  onBlur={(e) => set(l, k, e.target.value)}
                  onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </Facts>
  )
}
