import { Subhead } from '../../kit/heading'
import { join } from '../../kit/join'
import { stage } from '../../kit/looks'
import { AsTable } from '../../shell/as-table'
import type { QuadAt } from '../../wire/figures'
import type { StationProps } from '../props'
import { GuidedAct } from './act'
import { ComingOn, useComingOn } from './coming-on'
import { LeadDrawn } from './lead'
import { ProbeLead, useLeadHeld } from './probe-lead'

/** Trust neither a factory nor your own solder: what a meter should show before the pack goes in, and as one device comes on after the other. */
export function FirstPowerStation({ quad, perch }: StationProps<QuadAt<'first-power'>>) {
  const v = quad.power
  const lead = useLeadHeld(quad)
  const coming = useComingOn(quad, v)
  const shape = lead.looks?.shape ?? (lead.held ? undefined : v.shape)
  const says = lead.looks?.says ?? (lead.held ? 'Watching…' : v.says)
  return (
    <div className={join(stage, 'overflow-y-auto *:flex-none')}>
      <AsTable
        caption="What a meter should show"
        head={['step', 'adds, A', 'in all, A']}
        rows={v.steps.map((s) => [s.device, s.adds.toFixed(2), s.sum.toFixed(2)])}
      />
      <div className="grid grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] gap-6 phone:grid-cols-1">
        <section aria-label="The battery lead">
          <Subhead className="mt-0!">Ohms across the lead, pack out</Subhead>
          <LeadDrawn view={v} watched={lead.figures} />
          <ProbeLead quad={quad} lead={lead} />
          <p aria-live="polite" className={shape && shape !== 'climbs' ? 'text-[14px] font-semibold text-fix' : 'text-[14px] text-soft'}>
            {says || 'A sound lead climbs while you watch, then stays. Autoranging jumps and charge that was left mislead: discharge it and repeat.'}
          </p>
        </section>
        <GuidedAct quad={quad} perch={perch} view={v} />
      </div>
      <ComingOn quad={quad} view={v} coming={coming} />
      {v.rails.length > 0 && <RailsDrawn view={v} />}
      {v.video.length > 0 && <VideoOnTheBench view={v} />}
    </div>
  )
}

type View = QuadAt<'first-power'>['power']

/** What hangs on each rail, of what it gives, and what USB alone feeds: a device that it does not feed is not expected to answer. */
function RailsDrawn({ view: v }: { view: View }) {
  return (
    <section aria-label="Rails">
      <Subhead>What hangs on each rail, a fifth kept free</Subhead>
      <ul className="grid gap-1 text-[14px]">
        {v.rails.map((r) => (
          <li key={r.rail} className="grid grid-cols-[70px_minmax(0,220px)_minmax(0,1fr)] items-center gap-3">
            <b>{r.rail}</b>
            <svg viewBox="0 0 220 14" className="w-full" aria-hidden="true">
              <rect width="220" height="14" fill="var(--sunk)" />
              <rect width={220 * Math.min(1, r.most > 0 ? r.draws / r.most : 0)} height="14" fill={r.spare < 0 ? 'var(--fix)' : 'var(--act)'} />
              <path d={`M${220 / 1.2} 0V14`} stroke="var(--ink)" />
            </svg>
            <span className={r.spare < 0 ? 'text-fix' : 'text-soft'}>
              {r.draws.toFixed(0)} of {r.most.toFixed(0)} mA{r.devices.length > 0 ? `: ${r.devices.join(', ')}` : ''}.{' '}
              {r.usb ? 'USB alone feeds it.' : 'On USB alone it is dead, and what hangs on it silent.'}
            </span>
          </li>
        ))}
      </ul>
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
