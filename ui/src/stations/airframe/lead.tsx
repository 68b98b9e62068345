import { useDeferredValue, useState } from 'react'
import { Button } from '../../kit/button'
import { fieldRow, ways } from '../../kit/looks'
import { onConflict } from '../../places/line/conflict'
import { AsTable } from '../../shell/as-table'
import { useLead } from '../../wire/airframe'
import { acts, type Change, type QuadView, type Schemas, useAct } from '../../wire/client'
import { asNamed } from '../../wire/path'
import { figure } from '../senses/figure'
import { marks } from './marks'

type Capacitor = Schemas['Capacitor']

const fields = [
  ['capacitance', 'each has, µF'],
  ['count', 'side by side'],
  ['resistance', 'series resistance of each, mΩ'],
  ['rating', 'rated, V'],
  ['leadLength', 'length of the lead, cm'],
] as const
type Field = (typeof fields)[number][0]

const box = { w: 460, h: 372, left: 50, right: 14, top: 18, bottom: 38 }

/** What the power lead does in the moment in which all four motors let go: its current runs on into the capacitor, and its voltage over the pack's. */
export function PowerLead({ quad }: { quad: QuadView }) {
  const is = quad.meant.parts.capacitor
  const [typed, setTyped] = useState<Partial<Record<Field, string>>>({})
  const value = (f: Field) => typed[f] ?? (is[f] ? String(is[f]) : f === 'count' ? '1' : '')
  const figures = Object.fromEntries(fields.map(([f]) => [f, figure(value(f)) ?? 0])) as Record<Field, number>
  const tried: Capacitor = { ...figures, count: Math.round(figures.count) }
  const touched = fields.some(([f]) => typed[f] !== undefined && figures[f] !== (is[f] || (f === 'count' ? 1 : 0)))
  const lead = useLead(quad, useDeferredValue(tried))
  const edit = useAct(quad.id, (values: Change[]) => acts.edit(quad.id, quad.version, values))
  const v = lead.error ? undefined : lead.data
  const take = () => {
    const values: Change[] = fields
      .filter(([f]) => typed[f] !== undefined)
      .map(([f]) => ({ path: asNamed(`parts.capacitor.${f}`), value: f === 'count' ? tried.count : figures[f] }))
    edit.mutate(values, { onError: onConflict(quad, 'The capacitor', values), onSuccess: () => setTyped({}) })
  }
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1.35fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
      <div className="flex min-h-0 flex-col gap-1">
        {v ? <Drawn view={v} /> : <p role={lead.error ? 'alert' : undefined}>{lead.error?.message ?? 'Working it out…'}</p>}
      </div>
      <section aria-label="The capacitor" className="min-h-0 overflow-y-auto pr-2">
        <p className="text-[14px] text-soft">
          When all four motors let go at once, the current in the lead cannot stop: it runs on into the capacitor and lifts the voltage over the pack's. A
          larger one, of less resistance, nearer to the lead, holds it down; side by side they share the current.
        </p>
        <div className={fieldRow}>
          {fields.map(([f, label]) => (
            <label key={f}>
              {label}
              <input
                type="text"
                inputMode="decimal"
                className="w-24!"
                placeholder="not told"
                value={value(f)}
                onChange={(e) => setTyped({ ...typed, [f]: e.target.value })}
              />
            </label>
          ))}
        </div>
        {touched && (
          <div className={ways}>
            <Button small main disabled={edit.isPending} onClick={take}>
              Take it
            </Button>
            <Button small onClick={() => setTyped({})}>
              As it is on the quad
            </Button>
          </div>
        )}
        {v && <Judged view={v} />}
      </section>
    </div>
  )
}

const n = (x: number, digits = 0) => x.toFixed(digits)

function Judged({ view: v }: { view: Schemas['LeadView'] }) {
  return (
    <ul className="mt-2 text-[14px]">
      {v.packs.map((p) => {
        const holds = p.bound > 0 && p.bound <= p.allowed
        return (
          <li key={p.pack} className="border-t border-line py-1">
            <b>{p.pack}</b>: {n(p.current)} A let go of.{' '}
            {p.bound > 0 ? `The spike comes to ${n(p.peak, 1)} V, ${n(p.bound, 1)} V at the very worst; ` : 'Without one nothing holds it; '}
            {n(p.allowed, 1)} V are allowed over {n(p.full, 1)} V.{' '}
            <span className={holds ? 'text-ok' : 'font-semibold text-fix'}>
              {holds
                ? 'It holds.'
                : p.needs > 0
                  ? `It wants ${n(p.needs)} µF of this resistance.`
                  : 'Of this resistance none is enough: it lets the spike through before it stores anything.'}
            </span>
          </li>
        )
      })}
      <li
        className={
          v.capacitor.rating > 0 && v.capacitor.rating < v.rating ? 'border-t border-line py-1 font-semibold text-fix' : 'border-t border-line py-1 text-soft'
        }
      >
        Rated {n(v.rating)} V or more, with what the spike adds and a fifth to spare{v.capacitor.rating > 0 ? `; this one ${n(v.capacitor.rating)} V` : ''}.
      </li>
      <li className="border-t border-line py-1 text-soft">
        Together {n(v.bank)} µF and {n(v.ohm, 1)} mΩ; the lead {n(v.lead)} nH, of which the pack's own wires are 30.
      </li>
    </ul>
  )
}

function Drawn({ view: v }: { view: Schemas['LeadView'] }) {
  const drawn = v.packs.filter((p) => p.curve.length > 0)
  const far = Math.max(1, ...drawn.map((p) => p.curve.at(-1)?.time ?? 0))
  const top = 1.15 * Math.max(...v.packs.map((p) => Math.max(p.allowed, p.peak, 0.1)))
  const low = Math.min(0, ...drawn.flatMap((p) => p.curve.map((c) => c.over)))
  const x = (t: number) => box.left + (t / far) * (box.w - box.left - box.right)
  const y = (over: number) => box.top + ((top - over) / (top - low)) * (box.h - box.top - box.bottom)
  const strictest = Math.min(...v.packs.map((p) => p.allowed))
  const inks = ['var(--act)', 'var(--note)', 'var(--ok)', 'var(--soft)']
  const step = top > 6 ? 2 : 1
  return (
    <>
      <AsTable
        caption="The spike on the power lead, by pack"
        head={['pack', 'let go of, A', 'spike, V', 'at the worst, V', 'allowed, V']}
        rows={v.packs.map((p) => [p.pack, n(p.current), n(p.peak, 1), n(p.bound, 1), n(p.allowed, 1)])}
      />
      <svg
        viewBox={`0 0 ${box.w} ${box.h}`}
        className="min-h-0 w-full flex-1"
        role="img"
        aria-label={`Volts over the pack's after all motors let go. ${v.packs.map((p) => `${p.pack}: ${n(p.peak, 1)} V of ${n(p.allowed, 1)} allowed`).join(', ')}`}
      >
        <rect x={box.left} y={box.top} width={box.w - box.left - box.right} height={Math.max(0, y(strictest) - box.top)} fill="var(--fix)" fillOpacity="0.09" />
        <path d={`M${box.left} ${y(strictest)}H${box.w - box.right}`} stroke="var(--fix)" strokeDasharray="7 4" strokeWidth="1.6" />
        <text x={box.w - box.right - 4} y={y(strictest) - 6} textAnchor="end" fontSize="13" style={{ fill: 'var(--fix)' }}>
          {n(strictest, 1)} V allowed
        </text>
        {Array.from({ length: 1 + Math.floor(top / step) - Math.ceil(low / step) }, (_, i) => (Math.ceil(low / step) + i) * step).map((m) => (
          <g key={m}>
            <path d={`M${box.left} ${y(m)}H${box.w - box.right}`} stroke={m === 0 ? 'var(--wire)' : 'var(--line)'} />
            <text x={box.left - 6} y={y(m) + 4} textAnchor="end" fontSize="12" style={{ fill: 'var(--soft)' }}>
              {m === 0 ? 'pack' : `+${m} V`.replace('+-', '−')}
            </text>
          </g>
        ))}
        {marks(far).map((m) => (
          <text key={m} x={x(m)} y={box.h - box.bottom + 16} textAnchor="middle" fontSize="12" style={{ fill: 'var(--soft)' }}>
            {m}
          </text>
        ))}
        <text x={box.w - box.right} y={box.h - 6} textAnchor="end" fontSize="12.5" style={{ fill: 'var(--soft)' }}>
          µs after all four let go
        </text>
        {drawn.map((p, i) => (
          <path
            key={p.pack}
            d={`M${p.curve.map((c) => `${x(c.time).toFixed(1)} ${y(c.over).toFixed(1)}`).join('L')}`}
            fill="none"
            stroke={inks[i % inks.length]}
            strokeWidth="2.4"
            strokeDasharray={i > 0 ? `${10 - 2 * i} 4` : undefined}
          />
        ))}
        {drawn.map((p, i) => (
          <text
            key={p.pack}
            x={box.w - box.right - 4}
            y={box.h - box.bottom - 12 - 17 * i}
            textAnchor="end"
            fontSize="13"
            fontWeight="600"
            style={{ fill: inks[i % inks.length] }}
          >
            {p.pack}: {n(p.peak, 1)} V
          </text>
        ))}
        {drawn.length === 0 && (
          <text x={(box.w + box.left) / 2} y={y(strictest) + 60} textAnchor="middle" fontSize="15">
            No capacitor is told: nothing holds the spike but what the speed controllers carry.
          </text>
        )}
      </svg>
    </>
  )
}
