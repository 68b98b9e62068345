import { lazy, Suspense, useEffect, useRef, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { Button, textLook } from '../../kit/button'
import { stage } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { useOwnBench } from '../../places/bench/whose'
import { words } from '../../places/line/typed'
import { AsTable } from '../../shell/as-table'
import { showError } from '../../shell/message'
import { acts, Refusal, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { HoldButton } from '../../wire/hold'
import { now, useLive } from '../../wire/live'
import { asNamed } from '../../wire/path'
import { useUnits } from '../../wire/units'
import { Blades, type Corner, cornerWords, disc, places, QuadBody, SweepArrow } from '../drawing'
import type { StationProps } from '../props'

/** Per cent of throttle for one spin: enough to see, slow enough to be safe, and more only for what does not turn at that. */
const spinAt = (ms: number) => (ms < 800 ? 5 : Math.min(9, 5 + (ms - 800) / 300))
const ramp = (ms: number) => Math.min(9, 2 + Math.floor(ms / 100) * 0.1)
/** How far below where it was the next hold begins, in milliseconds of the ramp: a fifth of a percent of throttle. */
const stepBack = 200
/** How fast a motor that was seen to start is run down again, per cent of throttle in a second. */
const fall = 1.5

const Signs = lazy(() => import('./signs').then((m) => ({ default: m.Signs })))
const Frames = lazy(() => import('./frames').then((m) => ({ default: m.Frames })))
const Switching = lazy(() => import('./switching').then((m) => ({ default: m.Switching })))
const Propellers = lazy(() => import('./propellers').then((m) => ({ default: m.Propellers })))
const BothWays = lazy(() => import('./both-ways').then((m) => ({ default: m.BothWays })))

const views = [
  ['which', 'Which corner moves'],
  ['start', 'Where it starts'],
  ['signs', 'Mistakes'],
  ['frames', 'Throttle frames'],
  ['switching', 'Switching'],
  ['propellers', 'Propellers'],
  ['both', 'Both ways'],
] as const
type Mode = (typeof views)[number][0]

export function MotorsStation({ quad, perch }: StationProps<QuadAt<'motors'>>) {
  const [query, setQuery] = useSearchParams()
  const mode: Mode = views.find(([m]) => m === query.get('at'))?.[0] ?? 'which'
  return (
    <div className={stage}>
      <AsTable
        caption="Corners"
        head={['corner', 'driven by', 'wanted', 'seen']}
        rows={quad.corners.map((c) => [cornerWords[c.corner as Corner], c.output || 'nothing', words(c.wants), c.spin ? words(c.spin) : 'not seen'])}
      />
      <div className="flex flex-wrap items-center gap-2.5">
        <Segments
          items={views.map(([m, words]) => ({ value: m, words }))}
          value={mode}
          onChoose={(m) => setQuery(m === 'which' ? {} : { at: m }, { replace: true })}
        />
      </div>
      {mode === 'which' || mode === 'start' ? (
        <Spinning quad={quad} perch={perch} mode={mode} />
      ) : (
        <Suspense fallback={<p aria-busy="true">…</p>}>
          {mode === 'signs' && <Signs quad={quad} />}
          {mode === 'frames' && <Frames quad={quad} />}
          {mode === 'switching' && <Switching quad={quad} />}
          {mode === 'propellers' && <Propellers quad={quad} />}
          {mode === 'both' && <BothWays quad={quad} />}
        </Suspense>
      )}
    </div>
  )
}

function Spinning({ quad, perch, mode }: StationProps<QuadAt<'motors'>> & { mode: 'which' | 'start' }) {
  const ready = useOwnBench((s) => Boolean(s.live?.pack && s.live.board === 'running' && !s.live.propellers))
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
  // What was seen before and holds no more is spun again; it stands first.
  const again = mode === 'which' ? outputs.filter((o) => perch.asks.some((a) => a.path === `readings.motors.outputs.${o}` && a.why)) : []
  const rest = useAct(quad.id, () => acts.take(quad.id, 'readings.motors.restStill'))
  const arms = useAct(quad.id, () => acts.take(quad.id, 'readings.motors.layout'))
  return (
    <>
      <Picture quad={quad} />
      {mode === 'which' ? <ToDo quad={quad} /> : <IdleFigures quad={quad} />}
      <div className="flex flex-wrap items-center gap-2.5" id="spin-how">
        <span className="text-soft">
          {again.length > 0 ? (
            <b className="text-fix">Spin {listed(again)} again: hold</b>
          ) : mode === 'which' ? (
            'Hold to spin'
          ) : quad.meant.sheet.motors.reversible ? (
            'Hold: it rises until it turns, falls until it stands, then the same backward'
          ) : (
            'Hold: it rises until it turns, then falls until it stands'
          )}
        </span>
        {again.map((o) => (
          <Spin key={o} output={o} quad={quad} ready={ready} />
        ))}
        {again.length > 0 && again.length < outputs.length && <span className="text-soft">the others</span>}
        {outputs
          .filter((o) => !again.includes(o))
          .map((o) => (mode === 'which' ? <Spin key={o} output={o} quad={quad} ready={ready} /> : <Start key={o} output={o} quad={quad} ready={ready} />))}
        {mode === 'which' && perch.asks.some((a) => a.path === 'readings.motors.layout') && (
          <Button disabled={!ready} onClick={() => arms.mutate(undefined, { onError: showError })}>
            Look how its arms stand
          </Button>
        )}
        {mode === 'start' && missing && (
          <Button disabled={!ready} onClick={() => rest.mutate(undefined, { onError: showError })}>
            Look at rest
          </Button>
        )}
      </div>
      <p className="text-soft">
        {why || 'Hold a button, or Space on it: it turns only as long as you hold. Bench clear of screws, hands off the motors.'}
        {mode === 'which' && ' Held down with its propellers off it proves no stability: the controller winds up and the motors run away from each other.'}
      </p>
    </>
  )
}

const listed = (names: string[]) => new Intl.ListFormat('en-GB').format(names)

/** The fewest acts that make the corners right, to be done on the sheet in one go. */
function ToDo({ quad }: { quad: QuadAt<'motors'> }) {
  const list = quad.acts ?? []
  const edits = list
    .filter((a) => a.path)
    .map((a) => ({ path: asNamed(a.path ?? ''), value: a.value === 'true' ? true : a.value === 'false' ? false : a.value }))
  const make = useAct(quad.id, () => acts.edit(quad.id, quad.version, edits))
  if (list.length === 0) return null
  return (
    <section className="[&_ol]:pl-5 [&_ol]:text-[13.5px] [&_ol]:leading-[1.35]" aria-label="What makes it right">
      <div className="flex flex-wrap items-center gap-2.5">
        <b>{list.length === 1 ? 'One change fixes it' : `${list.length} changes fix it`}</b>
        {edits.length > 0 && (
          <Button small disabled={make.isPending} onClick={() => make.mutate(undefined, { onError: showError })}>
            Apply to settings
          </Button>
        )}
        <Link className={textLook} to={`/quads/${quad.id}/rehearsal`}>
          Watch it fly as it is
        </Link>
      </div>
      <ol>
        {list.map((a) => (
          <li key={a.words}>{a.words}</li>
        ))}
      </ol>
    </section>
  )
}

/** What the idle search comes to: a scale of throttle with where each motor starts, stops, and where idle is. */
function IdleFigures({ quad }: { quad: QuadAt<'motors'> }) {
  const { idle } = quad
  const units = useUnits()
  const runs = idle.runs ?? []
  const most = Math.max(9, idle.set * 1.2)
  const x = (percent: number) => 60 + (700 * percent) / most
  const letters = Object.keys(quad.meant.sheet.motors.outputs).sort()
  return (
    <svg
      viewBox="0 0 852 96"
      className="max-h-24 w-full"
      role="img"
      aria-label={
        idle.known
          ? `Every motor turns from ${idle.least} per cent; idle is ${idle.set}, ${idle.wanted} is wanted`
          : `Idle is ${idle.set} per cent; where the motors start is not known`
      }
    >
      <path d={`M${x(0)} 62H${x(most)}`} stroke="var(--soft)" strokeWidth="1.5" />
      {[0, 2, 4, 6, 8].map((p) => (
        <g key={p}>
          <path d={`M${x(p)} 58v8`} stroke="var(--soft)" />
          <text x={x(p)} y="80" fontSize="12" textAnchor="middle" style={{ fill: 'var(--soft)' }}>
            {p} %
          </text>
        </g>
      ))}
      {idle.known && (
        <>
          <rect x={x(idle.least)} y="52" width={x(idle.wanted) - x(idle.least)} height="20" fill="var(--fix-bg)" />
          <text x={x(idle.wanted) + 6} y="92" fontSize="12" style={{ fill: 'var(--soft)' }}>
            enough from {idle.wanted.toFixed(1)} % on
          </text>
        </>
      )}
      {runs.map((r) => (
        <g key={r.output}>
          <path
            d={`M${x(r.stops)} ${20 + 9 * letters.indexOf(r.output)}H${x(r.starts)}`}
            stroke={r.output === idle.worst ? 'var(--fix)' : 'var(--act)'}
            strokeWidth="4"
            strokeLinecap="round"
          />
          <text x={x(r.starts) + 8} y={24 + 9 * letters.indexOf(r.output)} fontSize="11.5">
            {r.output}
          </text>
        </g>
      ))}
      <path d={`M${x(idle.set)} 44l-6 -10h12z`} fill={idle.enough ? 'var(--ok)' : 'var(--fix)'} />
      <text x={x(idle.set)} y="28" fontSize="13.5" textAnchor="middle" fontWeight="600">
        idle {idle.set.toFixed(1)} %
      </text>
      <text x="844" y="20" fontSize="13" textAnchor="end" style={{ fill: 'var(--soft)' }}>
        {idle.turns.toLocaleString('en')} rpm, lifts {units.mass(idle.lifts)}
        {idle.share > 0 ? `, ${idle.share} % of its weight` : ''}
      </text>
    </svg>
  )
}

/** Spins one output while held and, once a corner has turned for a moment, asks the server to look. */
function Spin({ output, quad, ready }: { output: string; quad: QuadAt<'motors'>; ready: boolean }) {
  const [held, setHeld] = useState(false)
  const asked = useRef(false)
  const at = useRef(0)
  const take = useAct(quad.id, () => acts.take(quad.id, `readings.motors.outputs.${output}`))
  const turns = useLive((s) => s.live?.motion === 'spin' && s.live.output === output && Object.values(s.live.corners).some((c) => c.turning))
  useEffect(() => {
    if (!held) asked.current = false
    else if (turns && !asked.current) {
      asked.current = true
      take.mutate(undefined, { onError: showError })
    }
  }, [held, turns, take])
  return (
    <HoldButton
      motion={(ms) => {
        if (!turns) at.current = spinAt(ms)
        return { kind: 'spin', output, level: at.current }
      }}
      disabled={!ready}
      onHeld={setHeld}
      label={`Hold to spin ${output}`}
    >
      {take.isPending ? `${output}…` : output}
    </HoldButton>
  )
}

/** One way that an output is raised: when it was begun and turned, in milliseconds of the hold; where it started and stood still again. */
type Leg = { begun: number; turned: number; starts: number; stops?: number; ended: number }

/**
 * Raises one output slowly from nothing while held until it turns, and lowers it again until it stands; where thrust is reversible, the
 * same backward. The server notes it all.
 */
function Start({ output, quad, ready }: { output: string; quad: QuadAt<'motors'>; ready: boolean }) {
  const ways = quad.meant.sheet.motors.reversible ? [1, -1] : [1]
  const [held, setHeld] = useState(false)
  const [legs, setLegs] = useState<Leg[]>([])
  const ms = useRef(0)
  // A hold broken off, by a finger or by the line, is taken up where it was: only a whole answer begins again at the foot.
  const from = useRef(0)
  const take = useAct(quad.id, () => acts.take(quad.id, 'readings.motors.startsAt'))
  const whole = useAct(quad.id, () => acts.take(quad.id, `readings.motors.starts.${output}`))
  const level = useLive((s) => (s.live?.motion === 'spin' && s.live.output === output ? s.live.level : 0))
  const turns = useLive((s) => s.live?.motion === 'spin' && s.live.output === output && Object.values(s.live.corners).some((c) => c.turning))
  const at = legs.at(-1)
  const stood = legs.filter((l) => l.stops !== undefined).length
  const all = stood === ways.length
  useEffect(() => {
    if (!held || all) return
    const shown = Math.abs(now().live?.level ?? 0)
    const begun = at?.ended ?? 0
    if (turns && (!at || at.stops !== undefined) && ms.current > begun) {
      setLegs([...legs, { begun, turned: ms.current, starts: shown, ended: 0 }])
      // The server keeps account of every output raised; until the last it says that one is short.
      if (legs.length === 0) take.mutate(undefined, { onError: (e) => (e instanceof Refusal && e.code === 'not-all-started') || showError(e) })
    }
    if (!turns && at && at.stops === undefined && shown > 0 && ms.current > at.turned + 300) {
      setLegs([...legs.slice(0, -1), { ...at, stops: shown, ended: ms.current }])
      if (legs.length === ways.length) whole.mutate(undefined, { onError: showError })
    }
  }, [held, turns, legs, at, all, ways.length, take, whole])
  // One that still runs on from the hold before would be taken for one that starts.
  const stands = useLive((s) => !Object.values(s.live?.corners ?? {}).some((c) => c.turning))
  const figures = legs.map((l) => `${l.starts.toFixed(1)}${l.stops === undefined ? '' : ` / ${l.stops.toFixed(1)}`} %`).join(', back ')
  return (
    <HoldButton
      motion={(since) => {
        const t = since + from.current
        ms.current = t
        const rising = !at || at.stops !== undefined
        const way = ways[Math.min(stood, ways.length - 1)] ?? 1
        if (all) return { kind: 'spin', output, level: 0.4 * way }
        return {
          kind: 'spin',
          output,
          level: way * (rising ? ramp(t - (at?.ended ?? 0)) : Math.max(0.4, ramp(at.turned - at.begun) - (fall * (t - at.turned)) / 1000)),
        }
      }}
      disabled={!ready || (!held && !stands)}
      onHeld={(h) => {
        setHeld(h)
        if (h) {
          if (all) setLegs([])
          ms.current = from.current
        } else if (all) {
          from.current = 0
        } else {
          // What was found of a way that was not ended is found anew.
          const begun = (at?.stops === undefined ? at?.begun : at.ended) ?? 0
          from.current = Math.max(begun, (at && at.stops === undefined ? at.turned : ms.current) - stepBack)
          setLegs(legs.filter((l) => l.stops !== undefined))
        }
      }}
      label={at ? `${output} starts at ${at.starts.toFixed(1)} per cent; hold to raise it again` : `Hold to raise ${output}`}
    >
      {held && !all ? `${output} at ${level.toFixed(1)} %` : at ? `${output} ${figures}` : output}
    </HoldButton>
  )
}

type CornerState = Schemas['CornerState']

function Picture({ quad }: { quad: QuadAt<'motors'> }) {
  const at = places(quad)
  return (
    <>
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
      {/* On a phone its words could not be read; who hears the page has them from the drawing. */}
      <ul aria-hidden="true" className="hidden phone:block [&_li]:border-b [&_li]:border-line [&_li]:py-0.75">
        {quad.corners.map((c) => (
          <CornerLine key={c.corner} state={c} />
        ))}
      </ul>
    </>
  )
}

function describe(c: CornerState) {
  return `${cornerWords[c.corner as Corner]}: ${c.output ? `output ${c.output}, seen ${words(c.spin)}` : 'nothing seen'}, ${c.wants ? `wanted ${words(c.wants)}` : 'no rotation plan'}`
}

/** A corner in words, for a phone. */
function CornerLine({ state }: { state: CornerState }) {
  const turning = useLive((s) => s.live?.corners[state.corner as Corner]?.turning ?? false)
  return (
    <li>
      <b>{cornerWords[state.corner as Corner]}</b> <span className="text-soft">{onOutput(state)}, </span>
      <span className={turning ? 'font-semibold text-act' : 'text-soft'}>{turning ? 'turning now' : verdicts[state.verdict][1]}</span>
    </li>
  )
}

/** Which output a corner is on, as far as it was seen. */
const onOutput = (c: CornerState) => (c.verdict !== 'unseen' ? `output ${c.output}` : c.planned ? `meant for output ${c.planned}` : 'no output')

const verdicts = {
  unseen: ['var(--faint)', 'not yet seen'],
  unplanned: ['var(--stop)', 'seen; no rotation plan'],
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
      {wants && <Blades x={x} y={y} clockwise={wants === 'clockwise'} faint={!seen} />}
      <ellipse cx={cx} cy={cy - 3} rx="11" ry="8" fill="var(--ink)" />
      {wants && <SweepArrow x={x} y={y} r={74} clockwise={wants === 'clockwise'} colour={bad ? 'var(--soft)' : 'var(--faint)'} width={2} dashed />}
      {turning && spinNow ? (
        <SweepArrow x={x} y={y} r={92} clockwise={spinNow === 'clockwise'} colour="var(--act)" width={6} className="animate-sweep motion-reduce:animate-none" />
      ) : (
        seen && <SweepArrow x={x} y={y} r={90} clockwise={state.spin === 'clockwise'} colour={tone} width={5} />
      )}
      <g className="phone:hidden">
        <text x={tx} y={cy - 12} textAnchor={anchor} fontSize="18" fontWeight="600">
          {cornerWords[corner]}
        </text>
        <text x={tx} y={cy + 9} textAnchor={anchor} fontSize="14.5" style={{ fill: 'var(--soft)' }}>
          {onOutput(state)}
        </text>
        <text x={tx} y={cy + 29} textAnchor={anchor} fontSize="14.5" fontWeight="600" style={{ fill: turning ? 'var(--act)' : tone }}>
          {turning ? 'turning' : verdict}
        </text>
      </g>
    </g>
  )
}
