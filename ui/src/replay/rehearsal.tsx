import { useEffect, useState } from 'react'
import { Link, useParams } from 'react-router'
import { AsTable } from '../shell/as-table'
import { useQuad, useRehearsal } from '../wire/client'
import { Above, Behind, frameAt, type Run, Traces } from './scene'

const still = () => window.matchMedia('(prefers-reduced-motion: reduce)').matches

/** The card flown with the quad as it is and as corrected, together, at one moment. */
export function Rehearsal() {
  const id = Number(useParams().id)
  const quad = useQuad(id)
  const flown = useRehearsal(id)
  if (flown.isPending)
    return (
      <main className="plain" aria-busy="true">
        Flying the card in the model…
      </main>
    )
  if (!flown.data?.asIs || !flown.data.corrected) {
    return (
      <main className="plain">
        <h1>This quad cannot be rehearsed yet</h1>
        <p>{flown.error?.message}</p>
        <Link className="btn" to={`/quads/${id}`}>
          Back to the line
        </Link>
      </main>
    )
  }
  return (
    <Replay
      key={flown.data.asIs.input}
      asIs={flown.data.asIs}
      corrected={flown.data.corrected}
      places={flown.data.places}
      assumed={flown.data.assumed}
      name={quad.data?.name ?? ''}
      id={id}
    />
  )
}

function Replay(props: { asIs: Run; corrected: Run; places: number[][]; assumed: string[]; name: string; id: number }) {
  const { asIs, corrected } = props
  const end = Math.max(asIs.frames.at(-1)?.time ?? 1, corrected.frames.at(-1)?.time ?? 1)
  const trouble = asIs.summary.outcome !== 'landed' && asIs.summary.moment > 0
  const start = Math.max(0, trouble ? asIs.summary.moment - 0.4 : asIs.opened)
  const [t, setT] = useState(still() ? Math.min(end, asIs.summary.moment) : start)
  const [slow, setSlow] = useState(trouble)
  const [playing, setPlaying] = useState(!still())
  useEffect(() => {
    if (!playing) return
    let last = performance.now()
    let raf = 0
    const tick = (now: number) => {
      const dt = ((now - last) / 1000) * (slow ? 0.25 : 1)
      last = now
      setT((was) => Math.min(was + dt, end))
      raf = requestAnimationFrame(tick)
    }
    raf = requestAnimationFrame(tick)
    return () => cancelAnimationFrame(raf)
  }, [playing, slow, end])
  useEffect(() => {
    if (t >= end) setPlaying(false)
  }, [t, end])
  const play = () => {
    if (t >= end) setT(start)
    setPlaying(t >= end || !playing)
  }
  return (
    <main className="plain" style={{ paddingTop: 12 }}>
      <div className="bar" style={{ justifyContent: 'space-between' }}>
        <h1>First hover, flown in the model</h1>
        <Link className="link" to={`/quads/${props.id}/first-flight`}>
          Back to First flight
        </Link>
      </div>
      <div className="two">
        <Side title={`${props.name} as it is`} run={asIs} t={t} end={end} places={props.places} />
        <Side title="As corrected" run={corrected} t={t} end={end} places={props.places} />
      </div>
      <div className="bar">
        <button type="button" className="btn" onClick={play}>
          {playing ? 'Pause' : t >= end ? 'Again' : 'Play'}
        </button>
        <span className="segments">
          <button type="button" aria-pressed={!slow} onClick={() => setSlow(false)}>
            as fast as it is
          </button>
          <button type="button" aria-pressed={slow} onClick={() => setSlow(true)}>
            quarter speed
          </button>
        </span>
        {trouble && (
          <button
            type="button"
            className="btn"
            onClick={() => {
              setPlaying(false)
              setT(Math.min(end, asIs.summary.moment + 0.4))
            }}
          >
            Where it goes wrong
          </button>
        )}
        <input
          type="range"
          aria-label="Moment"
          style={{ flex: 1 }}
          min="0"
          max={end}
          step="0.02"
          value={t}
          onChange={(e) => {
            setPlaying(false)
            setT(Number(e.target.value))
          }}
        />
        <b style={{ width: 70 }}>{t.toFixed(2)} s</b>
      </div>
      {props.assumed.length > 0 && (
        <details>
          <summary>
            {props.assumed.length} {props.assumed.length === 1 ? 'thing was' : 'things were'} assumed
          </summary>
          <p className="tone-soft">{props.assumed.join('; ')}.</p>
        </details>
      )}
    </main>
  )
}

function Side({ title, run, t, end, places }: { title: string; run: Run; t: number; end: number; places: number[][] }) {
  const f = frameAt(run, t)
  if (!f) return null
  const good = run.summary.outcome === 'landed'
  const path = run.frames.slice(0, Math.round(t * 50) + 1)
  return (
    <section aria-label={title}>
      <h2 style={{ fontSize: 18 }}>
        {title} <span className={good ? 'tone-ok' : 'tone-stop'}>{words[run.summary.outcome] ?? run.summary.outcome}</span>
      </h2>
      <p style={{ minHeight: 42 }}>{run.summary.sentence}</p>
      <div className="scenes">
        <Behind f={f} places={places} width={350} height={296} path={path} />
        <Above f={f} places={places} width={240} height={296} path={path} />
      </div>
      <Traces run={run} t={t} width={598} end={end} />
      <AsTable
        keyless
        caption={`${title}, every half second`}
        head={['time', 'height', 'roll', 'pitch', 'duty, highest']}
        rows={run.frames
          .filter((_, i) => i % 25 === 0)
          .map((x) => [
            `${x.time.toFixed(1)} s`,
            `${x.place[2]?.toFixed(2)} m`,
            `${x.roll.toFixed(1)}°`,
            `${x.pitch.toFixed(1)}°`,
            `${(100 * Math.max(...x.duty)).toFixed(0)} %`,
          ])}
      />
    </section>
  )
}

const words: Record<string, string> = {
  landed: 'lands on its feet',
  tippedOver: 'tips over',
  crashed: 'crashes',
  flewAway: 'gets away',
  neverLifted: 'never lifts',
  neverArmed: 'never arms',
}
