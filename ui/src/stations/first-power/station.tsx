import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Subhead } from '../../kit/heading'
import { stage, steps as stepsLook } from '../../kit/looks'
import { AsTable } from '../../shell/as-table'
import { answerOf, type QuadView, server } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import type { StationProps } from '../props'
import { figure } from '../senses/figure'
import { LeadDrawn } from './lead'
import { Stairs } from './stairs'

/** The order of the act: each with its caution, and the reading that it leaves. */
const act = [
  ['propellersOff', 'All four propellers off', 'A motor that starts by mistake has fingers next to it.'],
  ['antennasOn', 'An antenna on every transmitter', 'Without one it destroys its own output stage within seconds.'],
  ['leadResistance', 'Meter across the lead, pack out', 'Discharged first; at once, and after ten seconds.'],
  ['frameResistance', 'Meter from the lead to bare carbon', 'Either pole; carbon conducts.'],
  ['idleCurrent', 'Pack on through a limiter, or a meter in series', 'Polarity looked at twice; a hand at the plug, and out at the first warmth.'],
] as const

/** Trust neither a factory nor your own solder: what a meter should show before the pack goes in, and as one device comes on after the other. */
export function FirstPowerStation({ quad, perch }: StationProps<QuadAt<'first-power'>>) {
  const v = quad.power
  const read = (name: string) => perch.readings.find((r) => r.path === `readings.firstPower.${name}`)
  const next = act.find(([name]) => !read(name))?.[0]
  return (
    <div className={stage} style={{ overflowY: 'auto' }}>
      <AsTable
        caption="What a meter should show"
        head={['step', 'adds, A', 'in all, A']}
        rows={v.steps.map((s) => [s.device, s.adds.toFixed(2), s.sum.toFixed(2)])}
      />
      <div className="grid grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] gap-6 phone:grid-cols-1">
        <section aria-label="The battery lead">
          <Subhead className="mt-0!">Ohms across the lead, pack out</Subhead>
          <LeadDrawn view={v} />
          <p className={v.shape && v.shape !== 'climbs' ? 'text-[14px] font-semibold text-fix' : 'text-[14px] text-soft'}>
            {v.says || 'A sound lead climbs while you watch, then stays. Autoranging jumps and charge that was left mislead: discharge it and repeat.'}
          </p>
        </section>
        <section aria-label="In this order">
          <ol className={stepsLook} aria-label="The first power, in this order">
            {act.map(([name, what, caution], i) => {
              const got = read(name)
              return (
                <li key={name} data-is={got ? 'done' : name === next ? 'now' : undefined} aria-current={name === next ? 'step' : undefined}>
                  <span>{got ? '✓' : i + 1}</span>
                  <span>
                    {what}
                    {got && <b> {got.words}</b>}
                  </span>
                  {!got && <span className="text-[13px] text-soft">{caution}</span>}
                </li>
              )
            })}
          </ol>
          <p className="text-[13px] text-soft">
            After any interruption begin again at the propellers. A limiter stops a short that a meter only shows; a meter shows what creeps under a limit: both
            is better.
          </p>
        </section>
      </div>
      <ComingOn quad={quad} view={v} />
      {v.video.length > 0 && <VideoOnTheBench view={v} />}
    </div>
  )
}

type View = QuadAt<'first-power'>['power']

/** Devices that come on one after the other, each with its step of current: measured beside expected, the first that is off named. */
function ComingOn({ quad, view: v }: { quad: QuadView; view: View }) {
  const [typed, setTyped] = useState<string[]>([])
  const measured: number[] = []
  for (const t of typed) {
    const x = figure(t.replace(/\s*A$/, ''))
    if (x === null) break
    measured.push(x)
  }
  const judged = useQuery({
    queryKey: ['deviation', quad.id, quad.seen, measured],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/first-power/deviation', { params: { path: { id: quad.id } }, body: { measured } })),
    enabled: measured.length > 0,
    placeholderData: (before) => before,
  })
  const d = measured.length > 0 ? judged.data : undefined
  if (v.steps.length === 0) return <p className="text-soft">Nobody told what its devices draw: at Parts their data say it.</p>
  return (
    <section aria-label="Devices coming on">
      <Subhead>Amps in the lead, as one device comes on after the other</Subhead>
      <div className="grid grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
        <Stairs view={v} measured={measured} wrong={d?.step ?? -1} />
        <div>
          <ol aria-label="Measured as each came on" className="grid gap-1 text-[14px]">
            {v.steps.map((s, i) => (
              <li key={s.device}>
                <label className="grid grid-cols-[minmax(0,1fr)_auto_70px] items-baseline gap-2">
                  <span className={d && d.step === i ? 'font-semibold text-fix' : undefined}>{s.device}</span>
                  <span className="text-soft tabular-nums">{s.sum.toFixed(2)} A</span>
                  <input
                    type="text"
                    inputMode="decimal"
                    aria-label={`Measured with the ${s.device} on, A`}
                    className="py-0.5!"
                    value={typed[i] ?? ''}
                    onChange={(e) => setTyped(v.steps.map((_, n) => (n === i ? e.target.value : (typed[n] ?? ''))))}
                  />
                </label>
              </li>
            ))}
          </ol>
          <p aria-live="polite" className={d && d.step >= 0 ? 'mt-1 text-[14px] font-semibold text-fix' : 'mt-1 text-[14px] text-soft'}>
            {d?.says ?? 'Unplug what can be unplugged, and let it come on from the top down; note what the meter in the lead shows each time.'}
          </p>
        </div>
      </div>
    </section>
  )
}

function VideoOnTheBench({ view: v }: { view: View }) {
  const words = (m: number) => (m === 0 ? 'as long as you like' : m < 1 ? 'under a minute' : `${m.toFixed(0)} min`)
  return (
    <section aria-label="Video on the bench">
      <Subhead>How long the video transmitter may send without flying</Subhead>
      <ul className="flex flex-wrap gap-x-5 gap-y-1 text-[14px]">
        {v.video.map((b) => (
          <li key={b.power} className={b.set ? 'font-semibold' : 'text-soft'}>
            {b.power} mW: {words(b.still)}
            {b.still > 0 && <>, with a fan {words(b.fan)}</>}
            {b.set && ' (set)'}
          </li>
        ))}
      </ul>
    </section>
  )
}
