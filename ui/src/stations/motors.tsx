import { useEffect, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import type { StationProps } from '../line/line'
import { words } from '../line/typed'
import { AsTable } from '../shell/as-table'
import { tellError } from '../shell/say'
import { acts, type QuadView, Refusal, useAct } from '../wire/client'
import { HoldButton } from '../wire/hold'
import { now, useLive } from '../wire/live'
import { Blades, type Corner, cornerWords, disc, places, QuadBody, SweepArrow } from './drawing'

const spinAt = 5 // per cent of throttle: enough to see, slow enough to be safe
const ramp = (ms: number) => Math.min(9, 2 + Math.floor(ms / 100) * 0.1)

type Mode = 'which' | 'start'

export function MotorsStation({ quad, perch }: StationProps) {
  const [mode, setMode] = useState<Mode>('which')
  const ready = useLive((s) => Boolean(s.live?.pack && s.live.board === 'running' && !s.live.propellers))
  const why = useLive((s) =>
    !s.status?.connected
      ? 'No bench is connected: type what you saw.'
      : !s.live?.pack
        ? 'Connect the pack, propellers off (b opens the bench).'
        : s.live.propellers
          ? 'Take the propellers off first.'
          : s.live.board !== 'running'
            ? 'The board does not run.'
            : '',
  )
  const outputs = Object.keys(quad.meant.sheet.motors.outputs).sort()
  const missing = perch.asks.some((a) => a.path === 'readings.motors.restStill')
  const rest = useAct(quad.id, () => acts.take(quad.id, 'readings.motors.restStill'))
  const go = useNavigate()
  return (
    <div className="stage">
      <AsTable
        caption="Corners"
        head={['corner', 'driven by', 'wanted', 'seen']}
        rows={quad.corners.map((c) => [cornerWords[c.corner as Corner], c.output || 'nothing', words(c.wants), c.spin ? words(c.spin) : 'not seen'])}
      />
      <Picture quad={quad} />
      <div className="bar" id="spin-how">
        <span className="segments">
          <button type="button" aria-pressed={mode === 'which'} onClick={() => setMode('which')}>
            Which corner moves
          </button>
          <button type="button" aria-pressed={mode === 'start'} onClick={() => setMode('start')}>
            Where it starts
          </button>
        </span>
        <span className="tone-soft">{mode === 'which' ? 'Hold to spin' : 'Hold to raise'}</span>
        {outputs.map((o) =>
          mode === 'which' ? <Spin key={o} output={o} quad={quad} ready={ready} /> : <Start key={o} output={o} quad={quad} ready={ready} />,
        )}
        {mode === 'start' && missing && (
          <button type="button" className="btn" disabled={!ready} onClick={() => rest.mutate(undefined, { onError: tellError })}>
            Look at rest
          </button>
        )}
        <button type="button" className="link" onClick={() => go(`/quads/${quad.id}/rehearsal`)}>
          Watch it fly
        </button>
      </div>
      <p className="tone-soft">{why || 'Hold a button, or Space on it: it turns only as long as you hold. Bench clear of screws, hands off the bells.'}</p>
    </div>
  )
}

/** Spins one output while held and, once a corner has turned for a moment, asks the server to look. */
function Spin({ output, quad, ready }: { output: string; quad: QuadView; ready: boolean }) {
  const [held, setHeld] = useState(false)
  const asked = useRef(false)
  const take = useAct(quad.id, () => acts.take(quad.id, `readings.motors.outputs.${output}`))
  const turns = useLive((s) => s.live?.motion === 'spin' && s.live.output === output && Object.values(s.live.corners).some((c) => c.turning))
  useEffect(() => {
    if (!held) asked.current = false
    else if (turns && !asked.current) {
      asked.current = true
      take.mutate(undefined, { onError: tellError })
    }
  }, [held, turns, take])
  return (
    <HoldButton motion={() => ({ kind: 'spin', output, level: spinAt })} disabled={!ready} onHeld={setHeld} label={`Hold to spin ${output}`}>
      {take.isPending ? `${output}…` : output}
    </HoldButton>
  )
}

/** Raises one output slowly from nothing while held; the server notes where it begins to turn. */
function Start({ output, quad, ready }: { output: string; quad: QuadView; ready: boolean }) {
  const [held, setHeld] = useState(false)
  const [found, setFound] = useState<number | null>(null)
  const take = useAct(quad.id, () => acts.take(quad.id, 'readings.motors.startsAt'))
  const level = useLive((s) => (s.live?.motion === 'spin' && s.live.output === output ? s.live.level : 0))
  const turns = useLive((s) => s.live?.motion === 'spin' && s.live.output === output && Object.values(s.live.corners).some((c) => c.turning))
  useEffect(() => {
    if (held && turns && found === null) {
      setFound(now().live?.level ?? 0)
      // The server keeps account of every output raised; until the last it says that one is short.
      take.mutate(undefined, { onError: (e) => (e instanceof Refusal && e.code === 'not-all-started') || tellError(e) })
    }
  }, [held, turns, found, take])
  return (
    <HoldButton
      motion={(ms) => ({ kind: 'spin', output, level: ramp(ms) })}
      disabled={!ready}
      onHeld={(h) => {
        setHeld(h)
        if (h) setFound(null)
      }}
      label={found !== null ? `${output} starts at ${found.toFixed(1)} per cent; hold to raise it again` : `Hold to raise ${output}`}
    >
      {held && found === null ? `${output} at ${level.toFixed(1)} %` : found !== null ? `${output} ${found.toFixed(1)} %` : output}
    </HoldButton>
  )
}

type CornerState = QuadView['corners'][number]

function Picture({ quad }: { quad: QuadView }) {
  const at = places(quad)
  return (
    <svg viewBox="0 34 852 414" role="img" aria-label={quad.corners.map(describe).join('. ')}>
      <QuadBody quad={quad} lit={['motors']}>
        {quad.corners.map((c) => (
          <Rotor key={c.corner} state={c} xy={at[c.corner as Corner]} />
        ))}
        <path d="M240 438h34" stroke="var(--ok)" strokeWidth="5" strokeLinecap="round" />
        <text x="284" y="443" fontSize="13.5" style={{ fill: 'var(--soft)' }}>
          seen
        </text>
        <path d="M336 438h34" stroke="var(--soft)" strokeWidth="2" strokeDasharray="4 5" />
        <text x="380" y="443" fontSize="13.5" style={{ fill: 'var(--soft)' }}>
          wanted by the layout
        </text>
      </QuadBody>
    </svg>
  )
}

function describe(c: CornerState) {
  return `${cornerWords[c.corner as Corner]}: ${c.output ? `output ${c.output}, seen ${words(c.spin)}` : 'nothing seen'}, wanted ${words(c.wants)}`
}

const verdicts = {
  unseen: ['var(--faint)', 'not yet seen'],
  asWanted: ['var(--ok)', 'turns as wanted'],
  against: ['var(--stop)', 'turns against it'],
  otherOutput: ['var(--stop)', 'driven by another output'],
} as const

function Rotor({ state, xy: [x, y] }: { state: CornerState; xy: [number, number] }) {
  const corner = state.corner as Corner
  const { cx, cy, rx, ry } = disc(x, y)
  const turning = useLive((s) => s.live?.corners[corner]?.turning ?? false)
  const spinNow = useLive((s) => s.live?.corners[corner]?.spin ?? '')
  const { wants } = state
  const seen = state.verdict !== 'unseen'
  const bad = seen && state.verdict !== 'asWanted'
  const [tone, verdict] = verdicts[state.verdict]
  const right = x > 0 || (x === 0 && y > 0)
  const tx = right ? cx + rx + 14 : cx - rx - 14
  const anchor = right ? 'start' : 'end'
  return (
    <g>
      <ellipse
        cx={cx}
        cy={cy}
        rx={rx}
        ry={ry}
        fill={bad ? 'var(--stop-bg)' : turning ? 'var(--act-bg)' : 'var(--panel)'}
        stroke={tone}
        strokeWidth={turning ? 3 : 1.6}
        strokeDasharray={seen ? undefined : '4 6'}
      />
      <Blades x={x} y={y} clockwise={wants === 'clockwise'} faint={!seen} />
      <ellipse cx={cx} cy={cy - 3} rx="11" ry="8" fill="var(--ink)" />
      <SweepArrow x={x} y={y} r={74} clockwise={wants === 'clockwise'} colour={bad ? 'var(--soft)' : 'var(--faint)'} width={2} dashed />
      {turning && spinNow ? (
        <SweepArrow x={x} y={y} r={92} clockwise={spinNow === 'clockwise'} colour="var(--act)" width={6} className="turning" />
      ) : (
        seen && <SweepArrow x={x} y={y} r={90} clockwise={state.spin === 'clockwise'} colour={tone} width={5} />
      )}
      <text x={tx} y={cy - 12} textAnchor={anchor} fontSize="18" fontWeight="600">
        {cornerWords[corner]}
      </text>
      <text x={tx} y={cy + 9} textAnchor={anchor} fontSize="14.5" style={{ fill: 'var(--soft)' }}>
        {seen ? `output ${state.output}` : state.planned ? `meant for output ${state.planned}` : 'no output'}
      </text>
      <text x={tx} y={cy + 29} textAnchor={anchor} fontSize="14.5" fontWeight="600" style={{ fill: turning ? 'var(--act)' : tone }}>
        {turning ? 'turning' : verdict}
      </text>
    </g>
  )
}
