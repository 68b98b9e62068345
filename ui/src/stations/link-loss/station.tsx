import { lazy, Suspense, useRef } from 'react'
import { useSearchParams } from 'react-router'
import { stage } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { AsTable } from '../../shell/as-table'
import type { Schemas } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { useLive, useLiveDraw } from '../../wire/live'
import { HoldArmed } from '../bench-proof/station'
import type { StationProps } from '../props'
import { lanes, toneOf } from './stages'

const OutThere = lazy(() => import('./out-there').then((m) => ({ default: m.OutThere })))
const SiteStation = lazy(() => import('./map/site-map').then((m) => ({ default: m.SiteStation })))

const laneY = { receiver: 92, controller: 200, motors: 308 }
const x0 = 150
const perSecond = 210
const x = (t: number) => x0 + t * perSecond

const places = { parts: 'What each part does', place: 'Out there', map: 'On the map' } as const
type Place = keyof typeof places

/** A loss on one time axis, and at a place. */
export function LossStation({ quad, perch }: StationProps<QuadAt<'link-loss'>>) {
  const [query, setQuery] = useSearchParams()
  const asked = query.get('at') ?? ''
  const at: Place = asked in places ? (asked as Place) : 'parts'
  const kept = perch.readings.find((r) => r.path === 'readings.loss.line')?.value as Schemas['LineFlown'] | undefined
  return (
    <div className={stage} style={at === 'parts' ? undefined : { overflowY: 'auto' }}>
      <div>
        <Segments
          items={(Object.keys(places) as Place[]).map((p) => ({ value: p, words: places[p] }))}
          value={at}
          onChoose={(p) => setQuery(p === 'parts' ? {} : { at: p }, { replace: true })}
        />
      </div>
      {at === 'parts' && <Parts quad={quad} perch={perch} />}
      <Suspense fallback={<p aria-busy="true" />}>
        {at === 'place' && <OutThere quad={quad} />}
        {at === 'map' && <SiteStation quad={quad} kept={kept} stages={quad.loss} />}
      </Suspense>
    </div>
  )
}

/** What each part believes and does from the moment the radio is gone, on one time axis. */
function Parts({ quad, perch }: StationProps<QuadAt<'link-loss'>>) {
  const end = 3.2
  const measured = perch.readings.find((r) => r.path === 'readings.loss.response')
  const seconds = (measured?.value as Schemas['LossResponse'] | undefined)?.after ?? 0
  const motors = (measured?.value as Schemas['LossResponse'] | undefined)?.motors
  const over = { wentToLanding: 'at the landing throttle', rose: 'rising, as to climb' }[motors as 'rose']
  return (
    <>
      <AsTable
        wide
        caption="After the radio is gone"
        head={['part', 'from', 'until', 'what it does']}
        rows={quad.loss.map((s) => [s.part, `${s.from} s`, s.to > 0 ? `${s.to} s` : 'the end', s.sentence])}
      />
      <svg viewBox="0 0 852 400" role="img" aria-label={quad.loss.map((s) => `${s.part}, from ${s.from} s: ${s.sentence}`).join('. ')}>
        <path d={`M${x(0)} 40V372`} stroke="var(--ink)" strokeWidth="2" />
        <text x={x(0)} y="30" textAnchor="middle" fontSize="14.5" fontWeight="600">
          radio gone
        </text>
        {[0.5, 1, 1.5, 2, 2.5, 3].map((t) => (
          <g key={t}>
            <path d={`M${x(t)} 366v8`} stroke="var(--soft)" />
            <text x={x(t)} y="390" textAnchor="middle" fontSize="13" style={{ fill: 'var(--soft)' }}>
              {t} s
            </text>
          </g>
        ))}
        <path d={`M${x(0)} 370H${x(end)}`} stroke="var(--soft)" />
        {lanes.map((lane) => {
          const y = laneY[lane]
          const stages = quad.loss.filter((s) => s.part === lane)
          return (
            <g key={lane}>
              <text x="20" y={y + 6} fontSize="18" fontWeight="600">
                {lane}
              </text>
              <path d={`M${x(-0.05)} ${y}H${x(0)}`} stroke="var(--ok)" strokeWidth="14" />
              {stages.map((s) => {
                const to = s.to > 0 ? s.to : end
                const { over: stop, tone } = toneOf(s)
                return (
                  <g key={s.sentence}>
                    <path d={`M${x(s.from)} ${y}H${x(to)}`} stroke={tone} strokeWidth={stop ? 3 : 14} strokeDasharray={s.dangerous ? '10 4' : undefined} />
                    <text x={x(s.from) + 6} y={y + (s.from > 0 ? 30 : -16)} fontSize="14.5" style={{ fill: s.dangerous ? 'var(--stop)' : 'var(--ink)' }}>
                      {s.sentence}
                    </text>
                  </g>
                )
              })}
            </g>
          )
        })}
        {seconds > 0 && (
          <g>
            <path d={`M${x(Math.min(seconds, end))} 270V350`} stroke="var(--ok)" strokeWidth="3" />
            <text x={x(Math.min(seconds, end)) + 8} y="348" fontSize="14.5" fontWeight="600" style={{ fill: 'var(--ok)' }}>
              measured: stopped at {seconds} s
            </text>
          </g>
        )}
        {over && (
          <text x={x(end) - 8} y="348" textAnchor="end" fontSize="14.5" fontWeight="600" style={{ fill: 'var(--ok)' }}>
            measured: {over}
          </text>
        )}
        <Channels />
      </svg>
      <div className="flex flex-wrap items-center gap-2.5">
        <HoldArmed quad={quad} path="readings.loss.response" level={0} label="Hold: arm, then lose the radio" whenTurning />
        <span className="text-soft">
          <Ready />
        </span>
      </div>
      <p className="text-soft">
        Hold until it says so: the radio goes off, the motors are timed, the radio comes back, and it is watched for arming by itself. Finger on Cut power.
      </p>
    </>
  )
}

function Ready() {
  const words = useLive((s) => {
    const l = s.live
    const sky = l?.pack && l.satellites > 0 ? ` It sees ${l.satellites} satellites.` : ''
    if (!l) return 'No bench is connected: type what you measured.'
    if (l.propellers) return 'Take the propellers off first.'
    if (!l.pack) return 'Pack in, propellers off (b opens the bench).'
    if (!l.radio) return 'Turn the radio on.'
    if (l.armed) return l.loss ? 'The board is in failsafe.' : 'Armed, turning.'
    const gate = (l.gates ?? []).find((g) => g.holds && g.name !== 'switch')
    return gate ? `${gate.sentence} ${gate.remedy}` : `Ready.${sky}`
  })
  return <>{words}</>
}

/** What arrives at the board now, as a trembling line at the right. */
function Channels() {
  const ref = useRef<SVGTextElement>(null)
  useLiveDraw((s) => {
    const c = s.live?.channels
    if (ref.current)
      ref.current.textContent = !s.live
        ? ''
        : c?.length
          ? `arriving now: ${c
              .slice(0, 5)
              .map((v) => Math.round(v))
              .join(' · ')} µs`
          : 'nothing arrives now'
  })
  return <text ref={ref} x="842" y="30" textAnchor="end" fontSize="13.5" style={{ fill: 'var(--soft)' }} />
}
