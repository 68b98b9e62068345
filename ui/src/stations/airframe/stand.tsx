import { useMutation } from '@tanstack/react-query'
import { useId, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Columns } from '../../kit/columns'
import { Disclosure } from '../../kit/disclosure'
import { fieldRow, ways } from '../../kit/looks'
import { onConflict } from '../../places/line/conflict'
import { stands } from '../../wire/airframe'
import { type QuadView, type Schemas, useAct } from '../../wire/client'

const labels: Record<string, [string, string]> = {
  'parts.propeller.thrust': ['thrust coefficient', ''],
  'parts.propeller.power': ['power coefficient', ''],
  'parts.motor.resistance': ['winding resistance', 'mΩ'],
}

/** What a thrust stand measured: its table brought or pasted, its columns said once, the fit looked at before anything is taken. */
export function ThrustStand({ quad }: { quad: QuadView }) {
  const [text, setText] = useState('')
  const field = useId()
  const fit = useMutation({ mutationFn: (ask: Schemas['StandAsk']) => stands.fit(quad, ask) })
  const keep = useAct(quad.id, (ask: Schemas['StandAsk']) => stands.keep(quad, ask))
  const v = text && !fit.error ? fit.data : undefined
  const bring = (t: string) => {
    setText(t)
    if (t.trim()) fit.mutate({ text: t })
    else fit.reset()
  }
  const columns = v?.table.columns ?? []
  return (
    <Disclosure words="Figures of a thrust stand" className="mt-3">
      <p className="text-[14px] text-soft">
        A table of one motor with this propeller: rotation and thrust; with throttle, voltage and current the power and the winding follow too. Units stand in
        brackets in the heads.
      </p>
      <div className={fieldRow}>
        <label htmlFor={field}>the table, as a file</label>
        <input
          id={field}
          type="file"
          accept=".csv,.tsv,.txt,text/csv,text/plain"
          onChange={(e) => {
            const file = e.target.files?.[0]
            if (file) void file.text().then(bring)
          }}
        />
      </div>
      <label className="mt-1.5 grid text-[13px] text-soft">
        or pasted
        <textarea rows={4} className="font-mono text-[13px] text-ink" value={text} onChange={(e) => bring(e.target.value)} />
      </label>
      {fit.error && text && (
        <p role="alert" className="text-stop">
          {fit.error.message}
        </p>
      )}
      {v && (
        <div aria-live="polite" className="mt-2 text-[14px]">
          <Columns fields={v.table.fields} head={v.table.head} columns={columns} rows={v.table.rows} onColumns={(columns) => fit.mutate({ text, columns })} />
          {v.known && <p className="text-soft">Its columns are as you said before of the same heads.</p>}
          {!v.sorted && <p className="text-soft">Its rows were not in the order of rotation; they are now.</p>}
          {v.table.faults.map((f) => (
            <p key={f.place + f.says} className="text-fix">
              {f.place}: {f.says}
            </p>
          ))}
          {v.says && (
            <p role="alert" className="font-semibold text-stop">
              {v.says}
            </p>
          )}
          {v.stand && (
            <>
              <StandDrawn stand={v.stand} />
              <ul>
                {v.stand.fits.map((f) => {
                  const [label, unit] = labels[f.path] ?? [f.path, '']
                  return (
                    <li key={f.path}>
                      {label}: <b>{f.value.toPrecision(3)}</b>
                      {unit && ` ${unit}`}, 19 times of 20 between {f.low.toPrecision(3)} and {f.high.toPrecision(3)}; told is{' '}
                      {(v.is[f.path] ?? 0).toPrecision(3)}
                    </li>
                  )
                })}
              </ul>
              <p className="text-soft">The rows scatter by {v.stand.off.toFixed(1)} % of the largest thrust about the fit.</p>
              <div className={ways}>
                <Button
                  small
                  main
                  disabled={keep.isPending}
                  onClick={() => keep.mutate({ text, columns }, { onError: onConflict(quad, 'What the stand measured', []), onSuccess: () => bring('') })}
                >
                  Take these figures
                </Button>
                <TextButton quiet onClick={() => bring('')}>
                  Leave them
                </TextButton>
              </div>
            </>
          )}
        </div>
      )}
    </Disclosure>
  )
}

const box = { w: 320, h: 130 }

/** Thrust over rotation: the rows as points, the fit as a line. */
function StandDrawn({ stand }: { stand: Schemas['Stand'] }) {
  const far = Math.max(...stand.rows.map((r) => r.rpm))
  const most = Math.max(...stand.rows.map((r) => r.thrust), ...stand.thrusts)
  const x = (rpm: number) => 34 + (rpm / far) * (box.w - 46)
  const y = (n: number) => box.h - 22 - (n / most) * (box.h - 34)
  return (
    <svg viewBox={`0 0 ${box.w} ${box.h}`} className="my-1 w-full max-w-90" role="img" aria-label={`Thrust over rotation, ${stand.rows.length} rows`}>
      <path d={`M34 8V${box.h - 22}H${box.w - 8}`} fill="none" stroke="var(--line)" />
      <path d={`M${stand.rows.map((r, i) => `${x(r.rpm)} ${y(stand.thrusts[i] ?? 0)}`).join('L')}`} fill="none" stroke="var(--act)" strokeWidth="2" />
      {stand.rows.map((r) => (
        <circle key={`${r.rpm} ${r.thrust}`} cx={x(r.rpm)} cy={y(r.thrust)} r="3" fill="var(--panel)" stroke="var(--ink)" />
      ))}
      <g fontSize="11.5">
        <text x="30" y="14" textAnchor="end" style={{ fill: 'var(--soft)' }}>
          {most.toFixed(0)} N
        </text>
        <text x={box.w - 8} y={box.h - 6} textAnchor="end" style={{ fill: 'var(--soft)' }}>
          {far.toFixed(0)} rpm
        </text>
      </g>
    </svg>
  )
}
