import { useRef } from 'react'
import type { StationProps } from '../line/line'
import { tellError } from '../shell/say'
import { acts, type QuadView, type Schemas, useAct } from '../wire/client'
import { useLive, useLiveDraw } from '../wire/live'

type Axis = 'roll' | 'pitch' | 'throttle' | 'yaw'

export function SticksStation({ quad, perch }: StationProps) {
  return (
    <div className="stage" style={{ overflowY: 'auto' }}>
      <div className="bar" style={{ gap: 28, alignItems: 'flex-start' }}>
        <StickMap quad={quad} name="Left stick" along="throttle" across="yaw" />
        <StickMap quad={quad} name="Right stick" along="pitch" across="roll" />
      </div>
      <SwitchTable quad={quad} perch={perch} />
      <Gates />
    </div>
  )
}

const box = 138
const us = (x: number) => ((x - 900) / 1200) * box

type AxisState = QuadView['axes'][number]

function StickMap({ quad, name, along, across }: { quad: QuadView; name: string; along: Axis; across: Axis }) {
  const knob = useRef<SVGCircleElement>(null)
  const a = quad.axes.find((x) => x.axis === along)
  const b = quad.axes.find((x) => x.axis === across)
  useLiveDraw((s) => {
    const c = s.live?.channels ?? []
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
    <div className="bar" style={{ gap: 16, flexWrap: 'nowrap' }}>
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
          <AxisWords key={s.axis} quad={quad} name={`${name}, ${s.axis === along ? 'along' : 'across'}`} state={s} />
        ))}
      </div>
    </div>
  )
}

function AxisWords({ quad, name, state }: { quad: QuadView; name: string; state: AxisState }) {
  const { axis, captured, ends } = state
  const take = useAct(quad.id, () => acts.take(quad.id, `readings.sticks.axes.${axis}`))
  const able = useLive((s) => (s.live?.channels.length ?? 0) > 0)
  return (
    <div style={{ marginBottom: 6 }}>
      <span className="tone-soft">{name}</span>
      <br />
      <b>{axis}</b> {captured ? `arrives on channel ${state.channel}${state.reversed ? ', backwards' : ''}` : 'not captured'}
      <br />
      {captured && (
        <b className={state.reaches ? '' : 'tone-fix'}>
          {ends.low} · {ends.centre} · {ends.high} µs
        </b>
      )}{' '}
      <button
        type="button"
        className="btn small"
        disabled={!able || take.isPending}
        aria-label={captured ? `Capture ${axis} again` : undefined}
        onClick={() => take.mutate(undefined, { onError: tellError })}
      >
        {take.isPending ? 'Move it: high, low, let go' : captured ? 'Again' : `Capture ${axis}`}
      </button>
    </div>
  )
}

function SwitchTable({ quad, perch }: StationProps) {
  const able = useLive((s) => (s.live?.channels.length ?? 0) > 0)
  const take = useAct(quad.id, (name: string) => acts.take(quad.id, `readings.sticks.switches.${name}`))
  const at = useLive((s) => JSON.stringify(s.live?.channels ?? []))
  const channels = JSON.parse(at) as number[]
  return (
    <div style={{ display: 'grid', gridTemplateColumns: 'repeat(3, minmax(0, 1fr))', gap: 18 }}>
      {Object.entries(quad.meant.radio.switches).map(([name, s]) => {
        const plan = s as Schemas['SwitchPlan']
        const seen = perch.readings.some((r) => r.path === `readings.sticks.switches.${name}`)
        const now = channels[plan.channel - 1]
        return (
          <section key={name} aria-label={`${name} switch`}>
            <b>{name}</b>{' '}
            <span className="tone-soft">
              channel {plan.channel}, rests at {plan.rest}
            </span>
            <table className="facts">
              <tbody>
                {[...plan.positions].reverse().map((p) => {
                  const m = quad.positions.find((x) => x.switch === name && x.position === p)
                  const here = now !== undefined && m !== undefined && Math.abs(now - m.pulse) < 20
                  return (
                    <tr key={p}>
                      <td style={{ fontWeight: here ? 700 : 400, boxShadow: here ? 'inset 4px 0 0 var(--ink)' : undefined, paddingLeft: 10 }}>{p}</td>
                      <td>{m ? m.words : 'not seen'}</td>
                      <td style={{ textAlign: 'right' }} className={{ sure: 'tone-soft', near: 'tone-fix', edge: 'tone-stop' }[m?.hold || 'sure']}>
                        {m ? `${Math.round(m.pulse)} µs, ${Math.round(m.margin)} to the edge` : ''}
                      </td>
                    </tr>
                  )
                })}
              </tbody>
            </table>
            <button type="button" className="btn small" disabled={!able || take.isPending} onClick={() => take.mutate(name, { onError: tellError })}>
              {take.isPending && take.variables === name ? 'Put it through its positions' : seen ? 'Capture again' : `Capture ${name}`}
            </button>
          </section>
        )
      })}
    </div>
  )
}

/** Why it will not arm: the gates that hold, in the board's own order. */
function Gates() {
  const list = useLive((s) => JSON.stringify((s.live?.gates ?? []).filter((g) => g.holds)))
  const armed = useLive((s) => s.live?.armed ?? false)
  const board = useLive((s) => s.live?.board === 'running')
  const gates = JSON.parse(list) as Schemas['Gate'][]
  return (
    <section aria-label="Why it will not arm" style={{ background: 'var(--sunk)', borderRadius: 8, padding: '8px 14px' }}>
      <b>Would it arm?</b>{' '}
      {!board
        ? 'The board does not run.'
        : armed
          ? 'It is armed.'
          : gates.length === 0
            ? 'Yes: no gate holds it.'
            : `No: ${gates.length === 1 ? 'one gate holds' : `${gates.length} gates hold`}.`}
      <ol style={{ columns: gates.length > 2 ? 2 : 1 }}>
        {gates.map((g, i) => (
          <li key={g.name}>
            {i + 1}. {g.sentence} <span className="tone-soft">{g.remedy}</span>
          </li>
        ))}
      </ol>
    </section>
  )
}
