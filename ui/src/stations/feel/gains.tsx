import { useDeferredValue, useState } from 'react'
import { Button } from '../../kit/button'
import { Disclosure } from '../../kit/disclosure'
import { Subhead } from '../../kit/heading'
import { join } from '../../kit/join'
import { ways } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { Facts } from '../../kit/table'
import { AsTable } from '../../shell/as-table'
import type { Schemas } from '../../wire/client'
import { useGains } from '../../wire/feel'
import type { QuadAt } from '../../wire/figures'
import { asNamed } from '../../wire/path'
import { Plot, placesIn, through, usualBox } from './plot'
import type { Axis } from './stick'
import { asChanges, type Tried } from './tried'
import { TypedFigure } from './typed'

type View = Schemas['GainsView']
type Answered = Schemas['FlightAnswered']

const axes = [
  { value: 'roll', words: 'Roll' },
  { value: 'pitch', words: 'Pitch' },
  { value: 'yaw', words: 'Yaw' },
] as const

/** Gains as what they do: a step flown with every pack, what is in hand before it oscillates, and what a fourth more of each would change. */
export function GainsTried({ quad, tried }: { quad: QuadAt<'feel'>; tried: Tried }) {
  const [axis, setAxis] = useState<Axis>('roll')
  const answer = useGains(quad, useDeferredValue({ tried: tried.list, axis }))
  const v = answer.data
  if (answer.error)
    return (
      <p role="alert" className="text-stop">
        {answer.error.message}
      </p>
    )
  if (!v) return <p>Flying a step with every pack…</p>
  const said = (a: Answered) =>
    `${a.rise > 0 ? `${(a.rise * 1000).toFixed(0)} ms` : 'never'} up, ${a.overshoot.toFixed(0)} % over, ${a.settles > 0 ? `calm after ${(a.settles * 1000).toFixed(0)} ms` : 'never calm'}`
  return (
    <>
      <AsTable
        caption={`A step of ${v.asked} °/s about ${axis}`}
        head={['pack', 'from a tenth to nine', 'over', 'calm after', 'begins to oscillate at']}
        rows={v.packs.map((p) => [
          `${p.pack}, ${p.full ? 'full' : 'low'}`,
          p.answer ? `${(p.answer.rise * 1000).toFixed(0)} ms` : p.fails,
          p.answer ? `${p.answer.overshoot.toFixed(0)} %` : '',
          p.answer && p.answer.settles > 0 ? `${(p.answer.settles * 1000).toFixed(0)} ms` : 'never',
          p.margin.share > 0 ? `${p.margin.share.toFixed(2)} times the gains` : 'no share',
        ])}
      />
      <div className={ways}>
        <Segments label="Axis" items={[...axes]} value={axis} onChoose={setAxis} />
        <span className="text-[14px] text-soft">A step of {v.asked} °/s in a hover, flown in the model: no recorded flight is needed for it.</span>
      </div>
      <div className="grid grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
        <section aria-label="The step">
          <Steps view={v} />
          <p className="text-[13px] text-soft">Thick: full packs. Thin: low ones.{v.before ? ' Dashed: the settings as they are.' : ''}</p>
        </section>
        <section aria-label="In hand" className="text-[14px]">
          <InHand view={v} />
          <Facts>
            <thead>
              <tr>
                <th scope="col">Pack</th>
                <th scope="col">up in</th>
                <th scope="col">over by</th>
                <th scope="col">calm after</th>
              </tr>
            </thead>
            <tbody>
              {v.packs.map((p) => (
                <tr key={`${p.pack} ${p.full}`} className="tabular-nums">
                  <th scope="row" className="whitespace-nowrap">
                    {p.pack}, {p.full ? 'full' : 'low'}
                  </th>
                  {p.answer ? (
                    <>
                      <td>{p.answer.rise > 0 ? `${(p.answer.rise * 1000).toFixed(0)} ms` : 'never'}</td>
                      <td>{p.answer.overshoot.toFixed(0)} %</td>
                      <td>{p.answer.settles > 0 ? `${(p.answer.settles * 1000).toFixed(0)} ms` : 'never'}</td>
                    </>
                  ) : (
                    <td colSpan={3}>{p.fails}</td>
                  )}
                </tr>
              ))}
            </tbody>
          </Facts>
        </section>
      </div>
      <section aria-label="What each gain does">
        <Facts className="text-[14px]">
          <thead>
            <tr>
              <th scope="col">Gain</th>
              <th scope="col">is</th>
              <th scope="col">what it does</th>
              <th scope="col">a fourth more of it</th>
            </tr>
          </thead>
          <tbody>
            {v.gains.map((g) => (
              <tr key={g.path}>
                <th scope="row">{g.label}</th>
                <td className="whitespace-nowrap">
                  <TypedFigure
                    label={g.label}
                    value={g.value}
                    least={0}
                    most={50}
                    className="w-24!"
                    onType={(x) => tried.put([{ path: asNamed(g.path), value: x }])}
                  />
                </td>
                <td className="text-soft">{g.words}</td>
                <td>{g.more ? `${said(g.more)}; ${g.margin.toFixed(2)} times in hand` : 'there is none'}</td>
              </tr>
            ))}
          </tbody>
        </Facts>
      </section>
      {v.start && (
        <section aria-label="To begin with" className="text-[14px]">
          <Subhead>To begin with</Subhead>
          <p>
            The usual gains of {v.start.family} are for a quad that turns as hard as theirs; this one, by its thrust for a step of duty, its inertia and its
            hover, wants <b>{v.start.scale.map((s) => `${(s * 100).toFixed(0)} %`).join(', ')}</b> of them about roll, pitch and yaw.
            {v.start.held < 1 && ` Of that ${(v.start.held * 100).toFixed(0)} % are kept, so that every pack has enough in hand.`} Flown with every pack:{' '}
            {v.start.flown
              .map((f) => `${f.pack} ${f.shakes ? 'shakes' : 'is steady'}, ${f.share >= 100 ? 'over a hundred' : f.share.toFixed(1)} times in hand`)
              .join('; ')}
            .
          </p>
          <div className={ways}>
            <Button small disabled={v.start.flown.some((f) => f.shakes)} onClick={() => v.start && tried.put(asChanges(v.start.edits))}>
              Try gains to begin with
            </Button>
          </div>
        </section>
      )}
      <Disclosure words="What it does in the air: the tune, or a part?">
        <Facts className="text-[14px]">
          <thead>
            <tr>
              <th scope="col">You see</th>
              <th scope="col">the tune</th>
              <th scope="col">a part, or the air</th>
              <th scope="col">what tells</th>
            </tr>
          </thead>
          <tbody>
            {quad.hands.symptoms.map((s) => (
              <tr key={s.seen} className="align-top">
                <th scope="row">{s.seen}</th>
                <td>{s.tune}</td>
                <td>{s.part}</td>
                <td>{s.tells}</td>
              </tr>
            ))}
          </tbody>
        </Facts>
      </Disclosure>
    </>
  )
}

const box = { ...usualBox, h: 250 }

function Steps({ view: v }: { view: View }) {
  const all = v.packs.flatMap((p) => p.answer?.rotation ?? [])
  const high = Math.min(2.2 * v.asked, Math.max(1.3 * v.asked, ...all) * 1.05)
  const low = Math.max(-v.asked, Math.min(0, ...all))
  const across = { low: 0, high: 600, marks: [0, 100, 200, 300, 400, 500, 600], words: 'ms' }
  const up = { low, high, marks: [0, v.asked / 2, v.asked, 1.5 * v.asked, 2 * v.asked].filter((m) => m <= high), words: '°/s' }
  const places = placesIn(box, across, up)
  const line = (a: Answered) =>
    through(
      places,
      a.rotation.map((_, i) => i * a.every * 1000),
      a.rotation.map((r) => Math.max(low, Math.min(high, r))),
    )
  return (
    <Plot box={box} across={across} up={up} label={`How it answers a step of ${v.asked} °/s, with ${v.packs.length / 2} packs full and low`}>
      <path d={`M${box.left} ${places.y(v.asked)}H${box.w - box.right}`} stroke="var(--soft)" strokeWidth="1.5" />
      {v.before && <path d={line(v.before)} fill="none" stroke="var(--soft)" strokeWidth="1.8" strokeDasharray="6 5" />}
      {v.packs.map((p) => p.answer && <path key={`${p.pack} ${p.full}`} d={line(p.answer)} fill="none" stroke="var(--act)" strokeWidth={p.full ? 2.6 : 1.1} />)}
    </Plot>
  )
}

/** How many times its gains the axis stands before it oscillates: a balance between steady and shaking, on a line that doubles from mark to mark. */
function InHand({ view: v }: { view: View }) {
  const w = v.worst
  const x = (share: number) => 20 + (Math.log2(Math.max(0.5, Math.min(16, share))) + 1) * (380 / 5)
  const ink = v.weight === 'stop' ? 'var(--stop)' : v.weight === 'fix' ? 'var(--fix)' : 'var(--ok)'
  const words =
    w.share === 0 ? 'Nothing makes it oscillate' : v.weight === 'stop' ? 'It oscillates by itself' : v.weight === 'fix' ? 'Little in hand' : 'Enough in hand'
  return (
    <div>
      <p className={join('text-[15px] font-semibold', v.weight === 'stop' ? 'text-stop' : v.weight === 'fix' ? 'text-fix' : 'text-ok')} aria-live="polite">
        {words}
        {w.share > 0 && (
          <span className="font-normal text-ink">
            : at <b>{w.share.toFixed(2)}</b> times these gains it begins, {w.hertz.toFixed(0)} times a second
          </span>
        )}
      </p>
      <svg viewBox="0 0 420 62" className="w-full" role="img" aria-label={`${w.share.toFixed(2)} times in hand; ${v.few} is the least`}>
        <path d={`M${x(0.5)} 30H${x(1)}`} stroke="var(--stop)" strokeWidth="5" strokeDasharray="3 3" />
        <path d={`M${x(1)} 30H${x(v.few)}`} stroke="var(--fix)" strokeWidth="5" />
        <path d={`M${x(v.few)} 30H${x(16)}`} stroke="var(--ok)" strokeWidth="2" />
        {[0.5, 1, 2, 4, 8, 16].map((m) => (
          <text key={m} x={x(m)} y="54" textAnchor={m === 16 ? 'end' : 'middle'} fontSize="12" style={{ fill: 'var(--soft)' }}>
            {m === 16 ? '16×, more' : `${m}×`}
          </text>
        ))}
        {w.share > 0 && <path d={`M${x(w.share)} 30l-7 -14h14z`} fill={ink} />}
      </svg>
      <p className="text-soft">
        An error is taken back at {v.quick.toFixed(0)} 1/s with the weakest pack; from {v.soft.toFixed(0)} on it is flown well. The loop crosses at{' '}
        {w.crossing.toFixed(1)} Hz with {w.phase.toFixed(0)}° left.
        {v.throttled > 0 && v.throttled < w.share && ` With three quarters of the throttle open ${v.throttled.toFixed(2)} times are in hand.`}
      </p>
    </div>
  )
}
