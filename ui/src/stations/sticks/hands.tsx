import { useRef, useState } from 'react'
import { Button } from '../../kit/button'
import { AsTable } from '../../shell/as-table'
import { showError } from '../../shell/message'
import { type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import type { StationProps } from '../props'
import { nearestOf, pulseOf } from './column'
import { Gates } from './gates'
import { Guided } from './guided'
import { type Source, useChannels, useNearest } from './source'

type Axis = 'roll' | 'pitch' | 'throttle' | 'yaw'

/** What the hands do: both sticks with what they reach, every switch with what its positions send, and whether it would arm. */
export function Hands({ quad, perch, source }: StationProps<QuadAt<'sticks'>> & { source: Source }) {
  return (
    <>
      <AsTable
        caption="Sticks and switches, as captured"
        head={['stick or switch', 'channel', 'sends', 'what it does']}
        rows={[
          ...quad.axes.map((a) => [
            a.axis,
            a.captured ? a.channel : '',
            a.captured ? `${a.ends.low} · ${a.ends.centre} · ${a.ends.high} µs` : 'not captured',
            a.captured ? (a.reaches ? 'reaches both ends' : 'does not reach its ends') : '',
          ]),
          ...quad.switches.map.columns
            .filter((c) => c.captured)
            .flatMap((c) =>
              c.cells.map((m) => [
                `${c.name}, ${m.position}`,
                c.channel,
                pulseOf(m, true),
                [m.words, nearestOf(m) ? `${Math.round(nearestOf(m)?.us ?? 0)} µs to the edge` : ''].filter(Boolean).join(', '),
              ]),
            ),
        ]}
      />
      <Guided quad={quad} perch={perch} source={source} />
      <div className="flex flex-wrap items-center gap-2.5" style={{ gap: 28, alignItems: 'flex-start' }}>
        <StickMap quad={quad} source={source} name="Left stick" upDown="throttle" leftRight="yaw" />
        <StickMap quad={quad} source={source} name="Right stick" upDown="pitch" leftRight="roll" />
      </div>
      <Switches quad={quad} perch={perch} source={source} />
      <Gates byStick={quad.meant.sheet.sticks.armByStick} />
    </>
  )
}

const box = 138
const us = (x: number) => ((x - 900) / 1200) * box

type AxisState = Schemas['AxisState']

function StickMap({ quad, source, name, upDown, leftRight }: { quad: QuadAt<'sticks'>; source: Source; name: string; upDown: Axis; leftRight: Axis }) {
  const knob = useRef<SVGCircleElement>(null)
  const a = quad.axes.find((x) => x.axis === upDown)
  const b = quad.axes.find((x) => x.axis === leftRight)
  useChannels(source, (c) => {
    const [x, y] = [c[(b?.channel ?? 0) - 1], c[(a?.channel ?? 0) - 1]]
    const el = knob.current
    if (!el) return
    el.setAttribute('visibility', x === undefined || y === undefined ? 'hidden' : 'visible')
    if (x !== undefined) el.setAttribute('cx', String(us(x)))
    if (y !== undefined) el.setAttribute('cy', String(box - us(y)))
  })
  if (!a || !b) return null
  const both = a.captured && b.captured
  const bad = both && !(a.reaches && b.reaches)
  return (
    <div className="flex flex-wrap items-center gap-2.5" style={{ gap: 16, flexWrap: 'nowrap' }}>
      <svg width={box} height={box} role="img" aria-label={`${name}: reach found by capture, and where it is now`}>
        <rect
          x={us(1000)}
          y={box - us(2000)}
          width={us(2000) - us(1000)}
          height={us(2000) - us(1000)}
          rx="4"
          fill="none"
          stroke="var(--faint)"
          strokeDasharray="4 5"
        />
        {both && (
          <rect
            x={us(b.ends.low)}
            y={box - us(a.ends.high)}
            width={us(b.ends.high) - us(b.ends.low)}
            height={us(a.ends.high) - us(a.ends.low)}
            fill={bad ? 'var(--fix-bg)' : 'var(--ok-bg)'}
            stroke={bad ? 'var(--fix)' : 'var(--ok)'}
            strokeWidth="2.5"
          />
        )}
        <path d={`M${us(1500)} 8V${box - 8}M8 ${box - us(1500)}H${box - 8}`} stroke="var(--line)" />
        <circle ref={knob} r="7" fill="var(--ink)" visibility="hidden" />
      </svg>
      <div>
        {[a, b].map((s) => (
          <AxisWords key={s.axis} quad={quad} source={source} name={`${name}, ${s.axis === upDown ? 'up-down' : 'left-right'}`} state={s} />
        ))}
      </div>
    </div>
  )
}

function AxisWords({ quad, source, name, state }: { quad: QuadAt<'sticks'>; source: Source; name: string; state: AxisState }) {
  const { axis, captured, ends } = state
  const [before, setBefore] = useState('')
  const shown = `${ends.low} · ${ends.centre} · ${ends.high} µs`
  const take = useAct(quad.id, () => source.capture(quad.id, `readings.sticks.axes.${axis}`))
  return (
    <div style={{ marginBottom: 6 }}>
      <span className="text-soft">{name}</span>
      <br />
      <b>{axis}</b> {captured ? `arrives on channel ${state.channel}${state.reversed ? ', backwards' : ''}` : 'not captured'}
      <br />
      {captured && (
        <b className={state.reaches ? '' : 'text-fix'}>
          {shown}
          {state.mapped ? ', stretched' : ''}
        </b>
      )}{' '}
      {before && before !== shown && <span className="text-soft">before {before} </span>}
      <Button
        small
        disabled={!source.able || take.isPending}
        aria-label={captured && !take.isPending ? `Capture ${axis} again` : undefined}
        onClick={() => {
          if (captured) setBefore(shown)
          take.mutate(undefined, { onError: showError })
        }}
      >
        {take.isPending ? 'Move it: high, low, let go' : captured ? 'Again' : `Capture ${axis}`}
      </Button>
    </div>
  )
}

const holdTone = { sure: 'var(--soft)', near: 'var(--fix)', edge: 'var(--stop)' }
// What flies in a position may take more than one line.
const rowFor = (words: string) => 52 + 21 * Math.min(2, Math.floor(words.length / 17))

/** Every physical switch as it lies under the finger: its positions, what each sends, and what flies in it. */
function Switches({ quad, perch, source }: StationProps<QuadAt<'sticks'>> & { source: Source }) {
  return (
    <div className="grid grid-cols-3 gap-4.5 phone:grid-cols-1">
      {Object.entries(quad.meant.radio.switches).map(([name, plan]) => (
        <Lever
          key={name}
          quad={quad}
          source={source}
          name={name}
          plan={plan}
          seen={perch.readings.some((r) => r.path === `readings.sticks.switches.${name}`)}
        />
      ))}
    </div>
  )
}

function Lever({ quad, source, name, plan, seen }: { quad: QuadAt<'sticks'>; source: Source; name: string; plan: Schemas['SwitchPlan']; seen: boolean }) {
  const take = useAct(quad.id, () => source.capture(quad.id, `readings.sticks.switches.${name}`))
  const column = quad.switches.map.columns.find((c) => c.switch === name)
  const at = useNearest(source, column)
  const rows = [...plan.positions].reverse().map((position) => ({ position, m: seen ? column?.cells.find((c) => c.position === position) : undefined }))
  const here = seen ? rows.findIndex(({ position }) => position === at) : -1
  const rowHeight = Math.max(...rows.map((r) => rowFor(r.m?.words ?? '')))
  const height = rows.length * rowHeight
  const y = (i: number) => i * rowHeight + rowHeight / 2 - 3
  return (
    <section aria-label={`${name} switch`}>
      <b>{name}</b>
      <p className="text-soft">
        channel {plan.channel}, rests at {plan.rest}
      </p>
      <div className="mt-1.5 mb-1 grid grid-cols-[26px_1fr] gap-2.5 [&_li]:mb-1.5 [&_li]:flex [&_li]:justify-between [&_li]:gap-2 [&_li]:rounded-[7px] [&_li]:border [&_li]:border-l-4 [&_li]:border-line [&_li]:bg-panel [&_li]:px-2.5 [&_li]:py-0.75 [&_li]:text-[14px] [&_li]:leading-[1.5] [&_li>span+span]:text-right [&_li>span+span]:whitespace-nowrap [&_li[data-here=true]]:border-ink">
        <svg width="26" height={height} aria-hidden="true">
          <path d={`M13 ${y(0)}V${y(rows.length - 1)}`} stroke="var(--line)" strokeWidth="5" />
          {rows.map(({ position }, i) => (
            <circle
              key={position}
              cx="13"
              cy={y(i)}
              r="9"
              fill={i === here ? 'var(--ink)' : 'var(--panel)'}
              stroke={i === here ? 'var(--ink)' : 'var(--line)'}
              strokeWidth="3"
            />
          ))}
        </svg>
        <ul>
          {rows.map(({ position, m }, i) => (
            <li key={position} data-here={i === here} style={{ height: rowHeight - 6, borderColor: m && m.hold !== 'sure' ? holdTone[m.hold] : undefined }}>
              <span>
                <b>{position}</b>
                <br />
                <span className="text-soft">{m ? (m.words === position ? 'matches' : m.words || 'nothing looks at it') : 'not yet seen'}</span>
              </span>
              {m && (
                <span style={{ color: holdTone[m.hold] }}>
                  {pulseOf(m, true)}
                  <br />
                  {nearestOf(m) && `${Math.round(nearestOf(m)?.us ?? 0)} to the edge`}
                </span>
              )}
            </li>
          ))}
        </ul>
      </div>
      <Button small disabled={!source.able || take.isPending} onClick={() => take.mutate(undefined, { onError: showError })}>
        {take.isPending ? `Put it through: ${plan.positions.join(', ')}` : seen ? 'Capture again' : `Capture ${name}`}
      </Button>
    </section>
  )
}
