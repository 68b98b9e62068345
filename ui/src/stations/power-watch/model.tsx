import { useDeferredValue, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Disclosure } from '../../kit/disclosure'
import { fieldRow, two, ways } from '../../kit/looks'
import { Tick } from '../../kit/tick'
import { showError } from '../../shell/message'
import { acts, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import type { Path } from '../../wire/path'
import { useCurrentModel } from '../../wire/powerwatch'
import type { StationProps } from '../props'
import { figure } from '../senses/figure'

type Row = { id: number; output: string; amps: string }

/** Without a sensor a board reckons the current from the output of its motors: two readings tell how, with the band in which that may be off. */
export function ModelOfCurrent({ quad }: StationProps<QuadAt<'power-watch'>>) {
  const m = quad.watch.meter
  const [idle, setIdle] = useState(m.seen ? String(m.seen.idle) : '')
  const [rows, setRows] = useState<Row[]>([{ id: 0, output: m.seen ? String(m.seen.output) : '', amps: m.seen ? String(m.seen.amps) : '' }])
  const [free, setFree] = useState(false)
  const [sure, setSure] = useState(false)
  const i = figure(idle)
  const loaded = rows.flatMap((r) => {
    const output = figure(r.output)
    const amps = figure(r.amps)
    return output !== null && amps !== null ? [{ output, amps }] : []
  })
  const whole = i !== null && loaded.length > 0
  const ask = useDeferredValue({ idle: i ?? 0, loaded, free })
  const got = useCurrentModel(quad, ask, whole)
  const v = whole && !got.error ? got.data : undefined
  const keep = useAct(quad.id, (value: Schemas['CurrentSeen']) => acts.typeAll(quad.id, [{ path: 'readings.watch.current' as Path, value }]))
  const set = (id: number, to: Partial<Row>) => setRows(rows.map((r) => (r.id === id ? { ...r, ...to } : r)))
  const slips = v?.slips ?? []
  const last = loaded.at(-1)
  return (
    <div className={two}>
      <section aria-label="What it draws">
        <p className="text-[14px] text-soft">
          A meter in the lead. At rest, disarmed: about {m.idle.toFixed(2)} A is expected. Then under load, with the output at which you really stopped, both in
          one look; a current without its output says nothing.
        </p>
        <div className={fieldRow}>
          <label>
            at rest, A
            <input type="text" inputMode="decimal" value={idle} onChange={(e) => setIdle(e.target.value)} />
          </label>
        </div>
        <ol aria-label="Under load" className="mt-2 grid gap-1">
          {rows.map((r, n) => (
            <li key={r.id} className="flex flex-wrap items-center gap-2 text-[14px]">
              <input
                type="text"
                inputMode="decimal"
                className="w-20!"
                aria-label={`Load ${n + 1}: output, %`}
                value={r.output}
                onChange={(e) => set(r.id, { output: e.target.value })}
              />
              % of output,
              <input
                type="text"
                inputMode="decimal"
                className="w-20!"
                aria-label={`Load ${n + 1}: current, A`}
                value={r.amps}
                onChange={(e) => set(r.id, { amps: e.target.value })}
              />
              A
            </li>
          ))}
        </ol>
        <div className={ways}>
          <TextButton onClick={() => setRows([...rows, { id: rows.length, output: '', amps: '' }])}>One reading more</TextButton>
          <Tick checked={free} onChange={setFree} className="text-[14px]">
            find how it bends too{m.told ? `; else ${m.bend}, its family’s own` : ''}
          </Tick>
        </div>
        <Disclosure words="How to read it under load, strapped down" className="mt-2">
          <ol className="list-decimal pl-5 text-[14px] text-soft">
            <li>Better: leave it, fly some packs, and go by the charger’s figures. Nothing is strapped and nobody is near a propeller.</li>
            <li>
              Else strap the quad down through its frame, never its arms, to something many times its weight, on grass or a bench that cannot tip; pull at it
              with your hand harder than it will.
            </li>
            <li>Eyes protected, nobody in the plane of the propellers, one finger on the switch that disarms it, nothing loose within two metres.</li>
            <li>Raise the throttle slowly, to low targets alone, and stop at the first that is more than expected:</li>
          </ol>
          <p className="mt-1 text-[14px]">
            {m.steps.map((s) => (
              <span key={s.output} className="mr-3 whitespace-nowrap tabular-nums">
                {s.output} %: about {s.amps.toFixed(1)} A
              </span>
            ))}
          </p>
        </Disclosure>
      </section>
      <section aria-label="The model of the current" aria-live="polite">
        {got.error && whole && (
          <p role="alert" className="text-stop">
            {got.error.message}
          </p>
        )}
        {slips.map((s) => (
          <p key={s.words} className="font-semibold text-fix">
            {s.words}
          </p>
        ))}
        {v ? <ModelDrawn view={v} meter={m} loaded={loaded} /> : <ModelDrawn meter={m} loaded={[]} />}
        {v && (
          <>
            <p className="text-[14.5px]">
              I = {v.model.idle.toFixed(2)} A + {v.model.slope.toFixed(1)} A (u + {v.model.bend.toFixed(2)} u²), u the output from 0 to 1.
            </p>
            {v.settings.length > 0 && (
              <p className="text-[14px] text-soft">
                In its list:{' '}
                {v.settings.map((s, n) => (
                  <span key={s.name}>
                    {n > 0 && ', '}
                    <code className="text-ink">{s.name}</code> is <code className="text-ink">{s.value}</code>
                  </span>
                ))}
                .
              </p>
            )}
            {v.says && <p className="text-fix">{v.says}</p>}
            {slips.length > 0 && (
              <Tick checked={sure} onChange={setSure} className="text-[14px]">
                It is so: I looked at the meter’s range
              </Tick>
            )}
            <div className={ways}>
              <Button
                small
                main
                disabled={keep.isPending || !last || (slips.length > 0 && !sure)}
                onClick={() => last && keep.mutate({ idle: i ?? 0, output: last.output, amps: last.amps }, { onError: showError })}
              >
                Keep what was read
              </Button>
            </div>
          </>
        )}
      </section>
    </div>
  )
}

const box = { w: 420, h: 240, left: 44, right: 12, top: 10, bottom: 40 }

function ModelDrawn({ view: v, meter: m, loaded }: { view?: Schemas['ModelView']; meter: Schemas['MeterView']; loaded: Schemas['Drawn'][] }) {
  const far = Math.max(40, ...loaded.map((d) => Math.min(100, 1.5 * d.output)))
  const curve = (v?.curve ?? []).filter((p) => p.output <= far)
  const expected = m.expected.filter((p) => p.output <= far)
  const most = 1.08 * Math.max(1, ...curve.map((p) => p.most), ...expected.map((p) => p.amps), ...loaded.map((d) => d.amps))
  const x = (u: number) => box.left + (u / far) * (box.w - box.left - box.right)
  const y = (a: number) => box.h - box.bottom - (a / most) * (box.h - box.top - box.bottom)
  const marks = [0, 0.25, 0.5, 0.75, 1].map((s) => s * most)
  return (
    <svg
      viewBox={`0 0 ${box.w} ${box.h}`}
      className="w-full"
      role="img"
      aria-label={`Current over output to ${far.toFixed(0)} %${v ? `, the model has ${(curve.at(-1)?.amps ?? 0).toFixed(1)} A there` : ''}`}
    >
      {marks.map((a) => (
        <g key={a}>
          <path d={`M${box.left} ${y(a)}H${box.w - box.right}`} stroke="var(--line)" />
          <text x={box.left - 5} y={y(a) + 4} textAnchor="end" fontSize="11.5" style={{ fill: 'var(--soft)' }}>
            {a < 10 ? a.toFixed(1) : a.toFixed(0)} A
          </text>
        </g>
      ))}
      {curve.length > 1 && (
        <>
          <path
            d={`M${curve.map((p) => `${x(p.output)} ${y(p.most)}`).join('L')}L${[...curve]
              .reverse()
              .map((p) => `${x(p.output)} ${y(p.least)}`)
              .join('L')}Z`}
            fill="var(--act)"
            fillOpacity="0.16"
          />
          <path d={`M${curve.map((p) => `${x(p.output)} ${y(p.amps)}`).join('L')}`} fill="none" stroke="var(--act)" strokeWidth="2.4" />
        </>
      )}
      {expected.length > 1 && (
        <>
          <path d={`M${expected.map((p) => `${x(p.output)} ${y(p.amps)}`).join('L')}`} fill="none" stroke="var(--ok)" strokeWidth="1.8" strokeDasharray="7 4" />
          <text x={x(far * 0.62)} y={y(expected[Math.floor(expected.length * 0.62)]?.amps ?? 0) + 20} fontSize="12" style={{ fill: 'var(--ok)' }}>
            by its parts
          </text>
        </>
      )}
      {loaded.map((d) => (
        <circle key={`${d.output} ${d.amps}`} cx={x(d.output)} cy={y(d.amps)} r="5.5" fill="var(--panel)" stroke="var(--ink)" strokeWidth="2.2" />
      ))}
      {[0, 0.25, 0.5, 0.75, 1].map((s) => (
        <text key={s} x={x(s * far)} y={box.h - box.bottom + 15} textAnchor="middle" fontSize="11.5" style={{ fill: 'var(--soft)' }}>
          {(s * far).toFixed(0)}
        </text>
      ))}
      <text x={box.w - box.right} y={box.h - 6} textAnchor="end" fontSize="11.5" style={{ fill: 'var(--soft)' }}>
        output, %
      </text>
    </svg>
  )
}
