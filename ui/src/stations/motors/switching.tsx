// How often the speed controllers switch their windings: what each frequency comes to, one tried on all of them, compared, kept or put back.

import { useState } from 'react'
import { Button, TextButton, textLook } from '../../kit/button'
import { AsTable } from '../../shell/as-table'
import { showError } from '../../shell/message'
import { acts, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'

type Choice = Schemas['SwitchingChoice']

export function Switching({ quad }: { quad: QuadAt<'motors'> }) {
  const v = quad.switching
  const outputs = v.outputs ?? []
  const trial = v.trial ?? undefined
  const edit = useAct(quad.id, (to: number) =>
    acts.edit(
      quad.id,
      quad.version,
      outputs.map((o) => ({ path: `sheet.motors.outputs.${o.output}.switching`, value: to })),
    ),
  )
  const note = useAct(quad.id, (t: { before: number; tried: number; was: number; is: number }) => acts.type(quad.id, 'readings.motors.trial', t))
  const write = useAct(quad.id, (output: string) => acts.writeOutput(quad.id, output))
  const busy = edit.isPending || note.isPending
  // What stood before is noted first: then nothing can be changed without a way back.
  const attempt = async (to: number) => {
    try {
      if (to !== trial?.before) await note.mutateAsync({ before: v.before, tried: to, was: 0, is: 0 })
      await edit.mutateAsync(to)
    } catch (e) {
      showError(e)
    }
  }
  const pending = quad.changes.map((w) => w.name)
  return (
    <div className="min-h-0 overflow-y-auto pr-2 [&_svg]:h-auto [&_svg]:w-full">
      <AsTable
        keyless
        caption="Switching frequencies"
        head={['frequency', 'braking', 'slows with', 'ripple']}
        rows={(v.choices ?? []).map((c) => [`${c.frequency} kHz`, `${c.braking.toFixed(0)} %`, `${c.slows.toFixed(0)} ms`, `${c.ripple.toFixed(0)} %`])}
      />
      <h2>
        {!v.alike
          ? 'The motors are set to different switching frequencies'
          : v.now > 0
            ? `Every motor switched at ${v.now} kHz`
            : 'Switched as the speed controllers were delivered'}
      </h2>
      {(v.choices ?? []).map((c) => (
        <Wave
          key={c.frequency}
          c={c}
          on={v.alike && c.frequency === v.now}
          before={c.frequency === trial?.before}
          busy={busy}
          onTry={() => attempt(c.frequency)}
        />
      ))}
      <p className="text-soft">
        A tenth of a millisecond of one winding at half throttle, and the current that follows. Low brakes harder: at both edges of a period there is a gap
        (red) in which nothing drives and nothing brakes. High is smoother and quieter, and warms the speed controller more.{' '}
        {v.told ? '' : 'The board does not tell them: set it in the speed controllers themselves, and ask each again.'}
      </p>
      <div className="mt-2.5 flex flex-wrap gap-x-9 gap-y-2">
        <table className="border-collapse text-[13.5px] [&_td]:py-px [&_td]:pr-5.5 [&_th]:py-px [&_th]:pr-5.5 [&_th]:text-left [&_th]:font-normal [&_thead_th]:text-soft">
          <thead>
            <tr>
              <th scope="col">Speed controller</th>
              <th scope="col">settings</th>
              <th scope="col">it says</th>
              <th scope="col">
                <span className="sr-only">Write</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {outputs.map((o) => (
              <tr key={o.output}>
                <th scope="row">{o.output}</th>
                <td>{o.meant > 0 ? `${o.meant} kHz` : 'as delivered'}</td>
                <td>{o.says > 0 ? `${o.says} kHz` : 'not asked'}</td>
                <td>
                  {v.told && (
                    <Button
                      small
                      disabled={write.isPending || !pending.some((n) => n.includes(`.${o.output}.`))}
                      onClick={() => write.mutate(o.output, { onError: showError })}
                    >
                      Write {o.output}
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {trial && (
          <Compare
            key={`${trial.tried} ${trial.was} ${trial.is}`}
            trial={trial}
            busy={busy}
            onKeep={(was, is) => note.mutate({ before: trial.before, tried: trial.tried, was, is }, { onError: showError })}
            onBack={() => attempt(trial.before)}
          />
        )}
      </div>
    </div>
  )
}

const across = 520

/** A tenth of a millisecond of one winding at half throttle, with the current that follows, to scale. */
function Wave({ c, on, before, busy, onTry }: { c: Choice; on: boolean; before?: boolean; busy: boolean; onTry: () => void }) {
  const period = 1000 / c.frequency
  const gap = (c.dead / 200) * period
  const x = (us: number) => 2 + ((across - 4) * us) / 100
  const edges = Array.from({ length: Math.ceil(200 / period) }, (_, i) => (i * period) / 2).filter((t) => t < 100)
  const high = Math.min(16, 0.16 * c.ripple)
  const square = edges.map((t, i) => `${i === 0 ? 'M' : 'L'}${x(t)} ${i % 2 ? 8 : 26}V${i % 2 ? 26 : 8}H${x(Math.min(100, t + period / 2))}`).join('')
  const saw = edges
    .map((t, i) => `${i === 0 ? `M${x(0)} ${50 + high / 2}` : ''}L${x(Math.min(100, t + period / 2))} ${i % 2 ? 50 + high / 2 : 50 - high / 2}`)
    .join('')
  return (
    <div className="grid grid-cols-[112px_minmax(0,460px)_minmax(0,1fr)] items-center gap-x-3.5 py-1 text-[13.5px] phone:grid-cols-1 [&_small]:block [&_small]:text-soft">
      <TextButton aria-pressed={on} disabled={busy || on} onClick={onTry}>
        {on ? `${c.frequency} kHz` : before ? `Back to ${c.frequency} kHz` : `Try ${c.frequency} kHz`}
      </TextButton>
      <svg
        viewBox={`0 0 ${across} 64`}
        width={across}
        height="64"
        role="img"
        aria-label={`At ${c.frequency} kHz a period takes ${period.toFixed(0)} µs, ${c.dead.toFixed(0)} % of it dead`}
      >
        {edges.map((t) => (
          <rect key={t} x={x(t)} y="4" width={Math.max(1.5, x(gap) - x(0))} height="26" fill="var(--stop)" opacity="0.55" />
        ))}
        <path d={square} fill="none" stroke={on ? 'var(--act)' : 'var(--soft)'} strokeWidth="1.6" />
        <path d={saw} fill="none" stroke="var(--fix)" strokeWidth="1.6" />
      </svg>
      <span>
        brakes {c.braking.toFixed(0)} %, slows with {c.slows.toFixed(0)} ms
        <small>
          current ripples {c.ripple.toFixed(0)} %{c.heard ? '; it whistles' : ''}
        </small>
      </span>
    </div>
  )
}

function Compare({ trial, busy, onKeep, onBack }: { trial: Schemas['Trial']; busy: boolean; onKeep: (was: number, is: number) => void; onBack: () => void }) {
  const [was, setWas] = useState(trial.was > 0 ? String(trial.was) : '')
  const [is, setIs] = useState(trial.is > 0 ? String(trial.is) : '')
  const figure = (s: string) => Number(s.replace(',', '.'))
  const good = figure(was) > 0 && figure(is) > 0
  return (
    <form
      className="flex-[1_1_320px] [&_input]:w-17.5"
      aria-label="What the traces show"
      onSubmit={(e) => {
        e.preventDefault()
        if (good) onKeep(figure(was), figure(is))
      }}
    >
      <h3>
        {trial.tried} kHz is tried; before it was {trial.before} kHz
      </h3>
      <p className="text-soft">
        Fly the same hard throttle cut with each, recorded. From each trace, CSV: the rotation that nobody asked for in the second after a cut, one sigma.
      </p>
      <div className="flex flex-wrap items-center gap-2.5">
        <Figure at={trial.before} value={was} onChange={setWas} />
        <Figure at={trial.tried} value={is} onChange={setIs} />
        <Button type="submit" small main disabled={busy || !good}>
          Save
        </Button>
        <Button small disabled={busy} onClick={onBack}>
          Put {trial.before} kHz back
        </Button>
        {trial.flown && <b className={trial.helped ? 'text-ok' : 'text-fix'}>{trial.helped ? 'It helps.' : 'No help worth having: put it back.'}</b>}
      </div>
    </form>
  )
}

/** One flight's figure: measured on its trace, or typed. */
function Figure({ at, value, onChange }: { at: number; value: string; onChange: (v: string) => void }) {
  const [seen, setSeen] = useState('')
  const measure = async (file: File | undefined) => {
    if (!file) return
    setSeen('…')
    try {
      const c = await acts.afterCuts(file)
      onChange(String(c.by))
      setSeen(`${c.count === 1 ? 'one cut' : `${c.count} cuts`}, worst about ${c.axis}`)
    } catch (e) {
      setSeen('')
      showError(e)
    }
  }
  return (
    <div className="flex flex-wrap items-baseline gap-x-2.5 gap-y-0.5 [&_small]:text-soft">
      <label>
        at {at} kHz, °/s <input type="text" inputMode="decimal" value={value} onChange={(e) => onChange(e.target.value)} />
      </label>
      <label className={textLook}>
        measure on a trace
        <input
          type="file"
          accept=".csv,text/csv"
          className="sr-only"
          aria-label={`Trace flown at ${at} kHz`}
          onChange={(e) => {
            void measure(e.target.files?.[0])
            e.target.value = ''
          }}
        />
      </label>
      <small role="status">{seen}</small>
    </div>
  )
}
