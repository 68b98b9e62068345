import { useState } from 'react'
import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { causes, plot, wideLeft } from '../../kit/looks'
import { Slider } from '../../kit/slider'
import { showError } from '../../shell/message'
import { links, type QuadView, type RadioPath, type Schemas, useAct } from '../../wire/client'
import { metres } from './words'

const most = 2 << 20
const dbm = (x: number) => `${String(x).replace('-', '\u2212')} dBm`
const box = { w: 450, h: 236, left: 44, right: 12, top: 12, bottom: 30 }

/** How far it carries: strength over distance, what every packet rate makes of it, and a flight against it. */
export function Reach(props: { quad: QuadView; view: Schemas['LinkView']; path: RadioPath; setPath: (p: RadioPath) => void }) {
  const { quad, view, path, setPath } = props
  const [text, setText] = useState('')
  const [seen, setSeen] = useState<Schemas['Reach'] | null>(null)
  const [wrong, setWrong] = useState('')
  const keep = useAct(quad.id, () => links.keepTrack(quad.id, path, text))
  const b = view.budget
  if (!b) return <p>{view.says}</p>
  const track = seen ?? view.track
  const read = async (t: string) => {
    setText(t)
    setSeen(null)
    setWrong('')
    if (t.length > most) {
      setWrong('That is over 2 MB. Nothing was read.')
      return
    }
    try {
      setSeen(await links.track(quad.id, path, t))
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e))
    }
  }
  const figure = (key: keyof RadioPath, words: string, max: number, step: number, unit: string) => (
    <div className="text-[13px]">
      {words}{' '}
      <b>
        {path[key]} {unit}
      </b>
      <Slider label={words} min={key === 'body' ? 0 : step} max={max} step={step} value={path[key]} onMove={(x) => setPath({ ...path, [key]: x })} />
    </div>
  )
  return (
    <div className={wideLeft}>
      <section aria-label="Strength over distance">
        <Plot budget={b} curve={view.curve} track={track} />
        <p className="flex flex-wrap justify-center gap-x-4.5 gap-y-0.5 text-[14px] [&_span]:whitespace-nowrap">
          <span>
            <b>{metres(b.safe)}</b> with 20 dB to spare
          </span>
          <span>
            <b>{metres(b.least)}</b> with 10 dB
          </span>
          <span className="text-soft">
            radio horizon <b>{metres(b.horizon)}</b>
          </span>
          <span className="text-soft">
            keep six tenths of <b>{b.fresnel.toFixed(1)} m</b> clear midway
          </span>
          {b.polarisation > 0 && (
            <span className="text-fix">
              antennas cost <b>{b.polarisation} dB</b>
            </span>
          )}
        </p>
        <div className="grid grid-cols-2 items-center gap-x-3.5 gap-y-1.5 [&_label]:grid [&_label]:text-[13px]">
          {figure('body', 'Lost in bodies and leaves', 40, 1, 'dB')}
          {figure('ground', 'Your antenna, above ground', 10, 0.5, 'm')}
          {figure('air', 'The quad, above ground', 120, 5, 'm')}
        </div>
      </section>
      <div>
        <section aria-label="Packet rates">
          <Subhead>What each packet rate costs: delay, reach, switch positions</Subhead>
          <Rates view={view} />
          <p className="text-soft">
            At {b.rate.hertz} Hz have the radio warn at {dbm(view.alarms.strength)} and {dbm(view.alarms.strengthLast)}, {view.alarms.quality} and{' '}
            {view.alarms.qualityLast} % link quality.
          </p>
        </section>
        <section aria-label="A flight against it">
          <Subhead>A flight against it</Subhead>
          <div className="flex flex-wrap items-center gap-2.5">
            <input
              type="file"
              accept=".csv,.gpx,text/csv,application/gpx+xml"
              aria-label="Choose a track"
              onChange={(e) => {
                const f = e.target.files?.[0]
                if (f && f.size > most) setWrong(`${f.name} has over 2 MB. Nothing was read.`)
                else if (f) void f.text().then(read)
              }}
            />
            {seen && (
              <Button small main disabled={keep.isPending} onClick={() => keep.mutate(undefined, { onError: showError, onSuccess: () => setSeen(null) })}>
                Save it
              </Button>
            )}
          </div>
          {wrong && (
            <p role="alert" className="text-stop">
              {wrong}
            </p>
          )}
          {track ? (
            <Told track={track} />
          ) : (
            <p className="text-soft">
              A table with distance or position and strength in dBm, or GPX with a strength in each point; a second receiver's strength as “second”.
            </p>
          )}
        </section>
      </div>
    </div>
  )
}

function Told({ track }: { track: Schemas['Reach'] }) {
  return (
    <div aria-live="polite">
      <p>
        <b>
          {Math.abs(track.missing)} dB {track.missing < 0 ? 'more' : 'less'}
        </b>{' '}
        than predicted, scatter {track.spread} dB, to {metres(track.farthest)}, {track.points} points.
      </p>
      {track.paired && <p>{track.paired.words}</p>}
      <ul className={causes}>
        {track.causes.map((c) => (
          <li key={c}>{c}</li>
        ))}
        {track.jumps.slice(0, 3).map((j) => (
          <li key={j.line} className="text-soft">
            Left out: {j.words}.
          </li>
        ))}
      </ul>
    </div>
  )
}

/** Bars of reach at each rate, with what the sticks gain or lose by it. */
function Rates({ view }: { view: Schemas['LinkView'] }) {
  const farthest = Math.max(...view.rates.map((r) => r.safe), 1)
  const steps = (n: number) => (n ? `${n} positions` : 'any position')
  return (
    <ul className="[&_li]:grid [&_li]:grid-cols-[62px_minmax(0,1fr)] [&_li]:pt-0.75 [&_li]:pb-1.25 [&_li]:text-[14px]">
      {view.rates.map((r) => (
        <li key={r.rate.hertz} data-here={view.budget?.rate.hertz === r.rate.hertz}>
          <b>{r.rate.hertz} Hz</b>
          <span
            className="bg-sunk pl-1.5 whitespace-nowrap [[data-here=true]>&]:bg-act-bg [[data-here=true]>&]:font-semibold"
            style={{ width: `${(100 * r.safe) / farthest}%` }}
          >
            {metres(r.safe)}
          </span>
          <span className="col-span-full text-[13px] text-soft">
            {r.delay.toFixed(1)} ms late, {dbm(r.rate.sensitivity)}, {r.rate.channels} channels; {steps(r.rate.others)}
            {r.rate.first ? `, channel 5: ${r.rate.first}` : ''}
          </span>
        </li>
      ))}
    </ul>
  )
}

function Plot({ budget, curve, track }: { budget: Schemas['Budget']; curve: Schemas['Arrival'][]; track: Schemas['Reach'] | null }) {
  const least = budget.rate.sensitivity
  const low = least - 8
  const high = Math.max(curve[0]?.strength ?? -40, ...(track?.track ?? []).map((p) => p.strength))
  const far = curve[curve.length - 1]?.distance ?? 1000
  const x = (d: number) => box.left + ((Math.log10(Math.max(d, 10)) - 1) / (Math.log10(far) - 1)) * (box.w - box.left - box.right)
  const y = (s: number) => box.top + ((high - s) / (high - low)) * (box.h - box.top - box.bottom)
  const d = curve.map((p, i) => `${i ? 'L' : 'M'}${x(p.distance).toFixed(1)} ${y(p.strength).toFixed(1)}`).join('')
  const decades = [10, 100, 1000, 10_000, 100_000].filter((m) => m <= far)
  return (
    <svg
      viewBox={`0 0 ${box.w} ${box.h}`}
      className={plot}
      role="img"
      aria-label={`Strength falls to ${least} dBm, the weakest that is followed, at ${metres(budget.farthest)}; 20 dB are left at ${metres(budget.safe)}.`}
    >
      <rect x={box.left} y={y(least)} width={box.w - box.left - box.right} height={box.h - box.bottom - y(least)} fill="var(--stop-bg)" />
      <rect x={box.left} y={y(least + 10)} width={box.w - box.left - box.right} height={y(least) - y(least + 10)} fill="var(--fix-bg)" />
      {decades.map((m) => (
        <g key={m}>
          <path d={`M${x(m)} ${box.top}V${box.h - box.bottom}`} stroke="var(--line)" />
          <text x={x(m)} y={box.h - 10} textAnchor="middle" fontSize="12">
            {metres(m)}
          </text>
        </g>
      ))}
      {[least, least + 10, least + 20].map((s, i) => (
        <g key={s}>
          <path d={`M${box.left} ${y(s)}H${box.w - box.right}`} stroke={i ? 'var(--faint)' : 'var(--stop)'} strokeDasharray={i ? '3 5' : undefined} />
          <text x={box.left - 6} y={y(s) + 4} textAnchor="end" fontSize="12">
            {String(s).replace('-', '\u2212')}
          </text>
        </g>
      ))}
      <text x={box.left + 6} y={y(least) + 15} fontSize="12" style={{ fill: 'var(--stop)' }}>
        the receiver follows no more
      </text>
      {track?.track.map((p) => (
        <circle key={`${p.line}`} cx={x(p.distance)} cy={y(p.strength)} r="1.8" fill="var(--note)" opacity="0.75" />
      ))}
      <path d={d} fill="none" stroke="var(--act)" strokeWidth="2.5" />
      <path d={`M${x(budget.safe)} ${y(least + 20)}V${box.h - box.bottom}`} stroke="var(--act)" strokeDasharray="2 4" />
      <text x={x(budget.safe) + 5} y={y(least + 20) - 6} fontSize="12.5" fontWeight="600">
        {metres(budget.safe)}
      </text>
      <text x={12} y={box.top + 10} fontSize="12">
        dBm
      </text>
    </svg>
  )
}
