import { useEffect, useState } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { Button, buttonLook, textLook } from '../../kit/button'
import { Disclosure } from '../../kit/disclosure'
import { join } from '../../kit/join'
import { two } from '../../kit/looks'
import { Page } from '../../kit/page'
import { Segments } from '../../kit/segments'
import { Slider } from '../../kit/slider'
import { upper } from '../../kit/text'
import { AsTable } from '../../shell/as-table'
import { type Schemas, useQuad, useRehearsal } from '../../wire/client'
import { Above, frameAt, type Run, Side, Traces, tracesOf } from './scene'
import { type Eye, firstEye, Space, viewOf } from './space'

const still = () => window.matchMedia('(prefers-reduced-motion: reduce)').matches

type View = Schemas['RehearsalView']

/** A scenario flown with the quad as it is, or with one fault of it, beside the sound one, together, at one moment. */
export function Rehearsal() {
  const id = Number(useParams().id)
  const [search] = useSearchParams()
  const quad = useQuad(id)
  const wish = { shows: search.get('shows') ?? '', scenario: search.get('scenario') ?? '', beginner: search.get('hand') === 'beginner' }
  const flown = useRehearsal(id, wish)
  const v = flown.data
  if (!v?.asIs || !v.corrected) {
    return flown.isPending ? (
      <Page aria-busy="true">Flying it in the model…</Page>
    ) : (
      <Page>
        <h1>{wish.shows ? 'This cannot be shown' : 'This quad cannot be rehearsed yet'}</h1>
        <p>{flown.error?.message}</p>
        <Link className={buttonLook()} to={wish.shows ? `/quads/${id}/rehearsal` : `/quads/${id}`}>
          {wish.shows ? 'Fly everything that is known' : 'Back to the line'}
        </Link>
      </Page>
    )
  }
  return (
    <Page
      className="grid grid-cols-[186px_minmax(0,1fr)] gap-5.5 px-6 py-3 [&_h1]:text-[24px] phone:flex phone:flex-col phone:gap-4 phone:py-3"
      aria-busy={flown.isPlaceholderData}
    >
      <Choose view={v} beginner={wish.beginner} />
      <Replay
        key={v.asIs.input + v.corrected.input}
        view={v}
        asIs={v.asIs}
        corrected={v.corrected}
        name={quad.data?.name ?? ''}
        estimates={quad.data?.line.at(-1)?.estimates ?? []}
        wish={wish}
        id={id}
      />
    </Page>
  )
}

/** What can be flown: which scenario, and what is wrong in it. */
function Choose({ view, beginner }: { view: View; beginner: boolean }) {
  const to = (shows: string, scenario: string, hand = beginner) => {
    const s = new URLSearchParams()
    if (shows && shows !== 'whole') s.set('shows', shows)
    if (scenario) s.set('scenario', scenario)
    if (hand) s.set('hand', 'beginner')
    return `?${s}`
  }
  const known = (view.faults ?? []).filter((f) => f.known)
  const asked = (view.faults ?? []).filter((f) => !f.known && f.fault !== 'whole')
  const fault = (f: { fault: string; title: string }) => (
    <li key={f.fault}>
      <Link to={to(f.fault, '')} aria-current={view.shows === f.fault || undefined}>
        {f.title}
      </Link>
    </li>
  )
  return (
    <nav
      className="phone:order-2 [&_a]:-ml-2 [&_a]:block [&_a]:border-l-3 [&_a]:border-transparent [&_a]:px-2 [&_a]:py-0.75 [&_a]:text-[14px] [&_a]:leading-[1.3] [&_a[aria-current]]:border-act [&_a[aria-current]]:bg-act-bg [&_a[aria-current]]:font-semibold [&_a[aria-current]]:text-ink [&_h2]:mt-3 [&_h2]:mb-0.75 [&_h2]:text-[13px] [&_h2]:text-soft phone:[&_ul]:flex phone:[&_ul]:flex-wrap phone:[&_ul]:gap-x-2.5 phone:[&_ul]:gap-y-0.5"
      aria-label="What is flown"
    >
      <h2>What is wrong</h2>
      <ul>
        {fault({ fault: 'whole', title: 'All that is known against it' })}
        {known.map(fault)}
      </ul>
      <h2>What if</h2>
      <ul>{asked.map(fault)}</ul>
      <h2>Flown as</h2>
      <ul>
        {(view.scripts ?? []).map((s) => (
          <li key={s.scenario}>
            <Link to={to(view.shows, s.scenario)} aria-current={view.scenario === s.scenario || undefined} title={s.words}>
              {s.title}
            </Link>
          </li>
        ))}
      </ul>
      <h2>By</h2>
      <ul>
        <li>
          <Link to={to(view.shows, view.scenario, false)} aria-current={!beginner || undefined}>
            a steady hand
          </Link>
        </li>
        <li>
          <Link to={to(view.shows, view.scenario, true)} aria-current={beginner || undefined}>
            a beginner’s
          </Link>
        </li>
      </ul>
    </nav>
  )
}

const speeds = [
  [1, 'as fast as it is'],
  [0.25, 'a quarter'],
  [0.05, 'a twentieth'],
] as const

function Replay(props: { view: View; asIs: Run; corrected: Run; name: string; estimates: string[]; id: number; wish: { beginner: boolean } }) {
  const { view, asIs, corrected } = props
  const end = Math.max(asIs.frames.at(-1)?.time ?? 1, corrected.frames.at(-1)?.time ?? 1)
  const trouble = !asIs.good && asIs.summary.moment > 0
  const start = Math.max(0, trouble ? asIs.summary.moment - 0.6 : asIs.opened)
  const [t, setT] = useState(still() ? Math.min(end, asIs.summary.moment || start) : start)
  const [speed, setSpeed] = useState(trouble ? 0.25 : 1)
  const [playing, setPlaying] = useState(!still())
  const [eye, setEye] = useState<Eye>(firstEye)
  useEffect(() => {
    if (!playing) return
    let last = performance.now()
    let raf = 0
    const tick = (now: number) => {
      const dt = (Math.max(0, now - last) / 1000) * speed // the first frame may have begun before the effect
      last = now
      setT((was) => Math.min(was + dt, end))
      raf = requestAnimationFrame(tick)
    }
    raf = requestAnimationFrame(tick)
    return () => cancelAnimationFrame(raf)
  }, [playing, speed, end])
  useEffect(() => {
    if (t >= end) setPlaying(false)
  }, [t, end])
  const play = () => {
    if (t >= end) setT(start)
    setPlaying(t >= end || !playing)
  }
  const traces = tracesOf([asIs, corrected])
  const side = { view, t, end, traces, eye, turn: setEye }
  const script = (view.scripts ?? []).find((s) => s.scenario === view.scenario)
  return (
    <div className="[&_h2]:text-[16px] [&_h2]:leading-[1.25]">
      <div className="flex flex-wrap items-center gap-2.5 justify-between">
        <h1>{view.shows === 'whole' ? (script?.title ?? '') : view.title}</h1>
        <a
          className={textLook}
          href={`/api/quads/${props.id}/rehearsal/trace?shows=${view.shows}&scenario=${view.scenario}&beginner=${props.wish.beginner}`}
          download
        >
          Trace as CSV
        </a>
      </div>
      <p className="text-soft">
        {view.words}
        {(view.supposed ?? []).map((m) => ` With ${m}.`)}
        {props.estimates.length > 0 && ` Flown with estimates: ${props.estimates.join('; ')}.`}
      </p>
      <div
        className={join(
          two,
          'mt-1 gap-x-5.5 gap-y-0 [&>section]:row-span-5 [&>section]:grid [&>section]:grid-rows-subgrid [&>section]:items-start [&>section]:pb-1.5',
        )}
      >
        <One title={view.shows === 'whole' ? `${props.name} as it is` : 'With it'} what={view.with} run={asIs} {...side} />
        <One title={view.shows === 'whole' ? 'As corrected' : 'Without it'} what={view.without} run={corrected} {...side} />
      </div>
      <div className="flex flex-wrap items-center gap-2.5">
        <Button onClick={play}>{playing ? 'Pause' : t >= end ? 'Again' : 'Play'}</Button>
        <Segments items={speeds.map(([s, words]) => ({ value: String(s), words }))} value={String(speed)} onChoose={(s) => setSpeed(Number(s))} />
        {trouble && (
          <Button
            onClick={() => {
              setPlaying(false)
              setT(Math.min(end, asIs.summary.moment))
            }}
          >
            Where it goes wrong
          </Button>
        )}
        <Slider
          label="Moment"
          className="min-w-30 flex-1"
          min={0}
          max={end}
          step={0.02}
          value={t}
          onMove={(at) => {
            setPlaying(false)
            setT(at)
          }}
        />
        <b style={{ width: 64 }}>{t.toFixed(2)} s</b>
      </div>
      {(view.assumed ?? []).length > 0 && (
        <Disclosure words={`${view.assumed?.length} ${view.assumed?.length === 1 ? 'thing was' : 'things were'} assumed`}>
          <p className="text-soft">{view.assumed?.join('; ')}.</p>
        </Disclosure>
      )}
    </div>
  )
}

const wide = 492

function One(props: {
  title: string
  what: string
  run: Run
  view: View
  t: number
  end: number
  traces: ReturnType<typeof tracesOf>
  eye: Eye
  turn: (e: Eye) => void
}) {
  const { title, run, t, end, traces, view } = props
  const f = frameAt(run, t)
  if (!f) return null
  const path = run.frames.slice(0, Math.round(t * 50) + 1)
  const span = Math.max(...view.places.flat().map(Math.abs)) + view.radius
  return (
    <section aria-label={title}>
      <h2>
        {title} <span className={run.good ? 'text-ok' : 'text-stop'}>{words[run.summary.outcome] ?? run.summary.outcome}</span>
      </h2>
      <p className="min-h-15.5 text-[14.5px] leading-[1.4]">
        <span className="text-soft">{upper(props.what)}.</span> {run.summary.sentence}
        {run.impact > 0.5 && <> The blow: {figure(run.impact)} J.</>}
        {run.blades > 0.5 && <> In the propellers that struck: {figure(run.blades)} J.</>}
      </p>
      <div className="grid grid-cols-2 overflow-hidden rounded-lg border border-line bg-panel phone:grid-cols-1 phone:[&_svg]:h-auto phone:[&_svg]:max-w-full">
        <Space
          f={f}
          path={path}
          places={view.places}
          radius={view.radius}
          view={viewOf(run.frames, span)}
          eye={props.eye}
          turn={props.turn}
          width={wide}
          height={214}
        />
        <Side f={f} path={path} all={run.frames} width={wide / 2 - 1} height={136} />
        <Above f={f} places={view.places} path={path} all={run.frames} width={wide / 2 - 1} height={136} />
      </div>
      <Traces run={run} traces={traces} t={t} width={wide} end={end} />
      <AsTable
        below
        keyless
        caption={`${title}, every half second`}
        head={['time', 'height', 'roll', 'pitch', 'duty, highest', 'pack']}
        rows={run.frames
          .filter((_, i) => i % 25 === 0)
          .map((x) => [
            `${x.time.toFixed(1)} s`,
            `${x.place[2]?.toFixed(2)} m`,
            `${x.roll.toFixed(1)}°`,
            `${x.pitch.toFixed(1)}°`,
            `${(100 * Math.max(...x.duty.map(Math.abs))).toFixed(0)} %`,
            `${x.volts.toFixed(1)} V`,
          ])}
      />
    </section>
  )
}

const figure = (x: number) => (x < 10 ? x.toFixed(1) : x.toFixed(0))

const words: Record<string, string> = {
  landed: 'lands on its feet',
  flown: 'does as it is asked',
  tippedOver: 'tips over',
  tumbled: 'tumbles',
  crashed: 'crashes',
  flewAway: 'gets away',
  neverLifted: 'never lifts',
  neverArmed: 'never arms',
  ripples: 'shakes',
  answersWrong: 'answers wrongly',
  notHeld: 'only hops',
  stands: 'loses a motor',
  leaps: 'leaps as it is armed',
}
