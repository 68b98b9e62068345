import { useDeferredValue } from 'react'
import { ways } from '../../kit/looks'
import { Select } from '../../kit/select'
import { Facts } from '../../kit/table'
import { AsTable } from '../../shell/as-table'
import type { Schemas } from '../../wire/client'
import { useFilters } from '../../wire/feel'
import type { QuadAt } from '../../wire/figures'
import { asNamed, type Path } from '../../wire/path'
import { Plot, placesIn, through, usualBox } from './plot'
import type { Tried } from './tried'
import { TypedFigure } from './typed'

type View = Schemas['FiltersView']

/** Filters as what they cost and what they take away: each a delay, all of them over frequency, above what shakes in a hover. */
export function FiltersTried({ quad, tried }: { quad: QuadAt<'feel'>; tried: Tried }) {
  const answer = useFilters(quad, useDeferredValue({ tried: tried.list }))
  const v = answer.data
  if (answer.error)
    return (
      <p role="alert" className="text-stop">
        {answer.error.message}
      </p>
    )
  if (!v) return <p>Flying a hover and listening to it…</p>
  return (
    <>
      <AsTable
        caption="What comes through"
        head={['Hz', 'to proportional and integral', 'to the derivative']}
        rows={v.hertz.flatMap((h, i) =>
          i % 6 === 0 ? [[h.toFixed(0), `${((v.gyro[i] ?? 0) * 100).toFixed(0)} %`, `${((v.change[i] ?? 0) * 100).toFixed(0)} %`]] : [],
        )}
      />
      <div className="grid grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
        <section aria-label="Over frequency">
          <OverFrequency view={v} />
          <p className="text-[13px] text-soft">
            Thick: what comes through of the gyro; dashed: what reaches the derivative. Below it, what shakes in a hover of the model
            {v.spectra?.seen ? ', with the imbalance that was measured' : ', with propellers as far out of balance as new ones'}: thin before the filters, thick
            behind them.{v.sits.length > 0 && ' Triangles: where notches sit in it, filled fixed, open following, dotted searching.'}
          </p>
        </section>
        <section aria-label="Delay" className="text-[14px]">
          <p className={v.slow ? 'font-semibold text-fix' : 'font-semibold text-ok'} aria-live="polite">
            {v.slow ? 'Too slow for their loop' : 'Quick enough for their loop'}
            <span className="font-normal text-ink">
              : {v.total.toFixed(1)} ms, {v.worst.filters.toFixed(0)}° of phase where {v.axis} answers, {v.worst.crossing.toFixed(1)} Hz;{' '}
              {v.worst.phase.toFixed(0)}° are left.
            </span>
          </p>
          <Delays view={v} />
          <Follows view={v} />
        </section>
      </div>
      <Settings quad={quad} tried={tried} view={v} />
    </>
  )
}

const box = { ...usualBox, h: 280 }

function OverFrequency({ view: v }: { view: View }) {
  const high = v.hertz.at(-1) ?? 500
  const across = { low: 2, high, log: true, marks: [2, 5, 10, 20, 50, 100, 200, 500].filter((m) => m <= high), words: 'Hz' }
  const up = { low: 0, high: 1.05, marks: [0, 0.25, 0.5, 0.75, 1], words: 'comes through', shown: (x: number) => `${(x * 100).toFixed(0)} %` }
  const places = placesIn(box, across, up)
  const s = v.spectra
  const loud = Math.max(1e-9, ...(s?.raw ?? []).slice(4))
  const bars = (of: number[]) =>
    of
      .map((x, i) => [(i + 1) * (s?.every ?? 1), x] as const)
      .filter(([h]) => h >= 2 && h <= high)
      .map(([h, x]) => `M${places.x(h).toFixed(1)} ${places.y(0)}V${places.y(Math.min(1, 0.6 * (x / loud))).toFixed(1)}`)
      .join('')
  const turns = v.rotors[0]
  return (
    <Plot box={box} across={across} up={up} label={`The filters let ${((v.gyro.at(-1) ?? 0) * 100).toFixed(0)} % through at ${high.toFixed(0)} Hz`}>
      {turns && (
        <>
          <rect
            x={places.x(Math.max(2, turns.idle))}
            y={box.top}
            width={Math.max(0, places.x(Math.min(high, turns.full)) - places.x(Math.max(2, turns.idle)))}
            height={box.h - box.top - box.bottom}
            fill="var(--sunk)"
          />
          <text x={places.x(Math.max(2, turns.idle)) + 4} y={box.top + 14} fontSize="12" style={{ fill: 'var(--soft)' }}>
            rotors, idle to full
          </text>
          {turns.hang > 0 && turns.hang < high && (
            <path d={`M${places.x(turns.hang)} ${box.top}V${box.h - box.bottom}`} stroke="var(--soft)" strokeDasharray="3 3" />
          )}
        </>
      )}
      {s && (
        <>
          <path d={bars(s.raw)} stroke="var(--faint)" strokeWidth="1" />
          <path d={bars(s.filtered)} stroke="var(--ink)" strokeWidth="1.4" />
        </>
      )}
      <path d={through(places, v.hertz, v.change)} fill="none" stroke="var(--act)" strokeWidth="1.8" strokeDasharray="6 4" />
      <path d={through(places, v.hertz, v.gyro)} fill="none" stroke="var(--act)" strokeWidth="3" />
      {v.sits
        .filter((n) => n.hertz > 2 && n.hertz < high)
        .map((n, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two may sit at one place
          <g key={i}>
            <path
              d={`M${places.x(n.hertz)} ${box.top + 22}l-5 -9h10z`}
              fill={n.kind === 'fixed' ? 'var(--act)' : 'var(--panel)'}
              stroke="var(--act)"
              strokeWidth="1.6"
              strokeDasharray={n.kind === 'searching' ? '2 2' : ''}
            />
            <title>
              A {n.kind} notch at {n.hertz} Hz
            </title>
          </g>
        ))}
      {v.worst.crossing > 2 && (
        <>
          <path d={`M${places.x(v.worst.crossing)} ${box.top}V${box.h - box.bottom}`} stroke="var(--fix)" strokeWidth="1.5" />
          <text
            x={places.x(v.worst.crossing) + 5}
            y={places.y(0.06)}
            fontSize="12.5"
            stroke="var(--panel)"
            strokeWidth="3"
            paintOrder="stroke"
            style={{ fill: 'var(--fix)' }}
          >
            here it answers
          </text>
        </>
      )}
    </Plot>
  )
}

/** What comes late, one behind the other, to scale. */
function Delays({ view: v }: { view: View }) {
  const all = [...v.delays.map((d) => ({ ...d, filter: true })), ...v.others.map((d) => ({ ...d, filter: false }))]
  const most = Math.max(1, ...all.map((d) => d.delay))
  return (
    <Facts aria-label="What comes late" className="my-1">
      <tbody>
        {all.map((d) => (
          <tr key={d.words}>
            <th scope="row" className="text-[14px]! font-normal!">
              {d.words}
            </th>
            <td className="w-1/3">
              <span
                className={d.filter ? 'block h-2.5 rounded-sm bg-act' : 'block h-2.5 rounded-sm bg-faint'}
                style={{ width: `${Math.max(1, (100 * d.delay) / most)}%` }}
              />
            </td>
            <td className="text-right whitespace-nowrap tabular-nums">{d.delay.toFixed(d.delay < 10 ? 2 : 0)} ms</td>
          </tr>
        ))}
      </tbody>
    </Facts>
  )
}

function Follows({ view: v }: { view: View }) {
  if (!v.follows.on) return null
  return (
    <p className={!v.follows.told || v.follows.far ? 'text-fix' : undefined}>
      {!v.follows.told
        ? 'Notches are to follow the rotors, but the speed controllers do not tell their rotation.'
        : `Notches follow the rotors down to ${v.follows.least > 0 ? `${v.follows.least} Hz` : 'where the firmware ends'}; the slowest idle at ${v.follows.idle} Hz.`}
    </p>
  )
}

const lows = [
  ['gyro', 'Low-pass of the gyro'],
  ['gyroSecond', 'Second low-pass of the gyro'],
  ['change', 'Low-pass of the derivative'],
  ['changeSecond', 'Second low-pass of the derivative'],
] as const

const orders = [
  { value: '', words: 'left to the firmware' },
  { value: 'off', words: 'off' },
  { value: 'first', words: 'first order' },
  { value: 'second', words: 'second order' },
]
const switched = [
  { value: '', words: 'left to the firmware' },
  { value: 'on', words: 'on' },
  { value: 'off', words: 'off' },
]

function Settings({ quad, tried, view: v }: { quad: QuadAt<'feel'>; tried: Tried; view: View }) {
  const at = (name: string) => asNamed(`sheet.feel.filters.${name}`)
  const typed = (path: Path, label: string, unit: string, most: number) => (
    <TypedFigure
      label={label}
      value={tried.of(path)}
      unit={unit}
      least={0}
      most={most}
      className="w-16!"
      blank="usual"
      onType={(x) => tried.put([{ path, value: x }])}
    />
  )
  const chosen = (path: Path, label: string, options: { value: string; words: string }[]) => (
    <Select label={label} className="w-44" options={options} value={tried.word(path)} onChoose={(x) => tried.put([{ path, value: x }])} />
  )
  const rec = (name: string) => asNamed(`sheet.feel.recording.${name}`)
  const r = v.records
  return (
    <div className="grid grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] gap-5 text-[14px] phone:grid-cols-1">
      <section aria-label="Filters">
        <Facts>
          <tbody>
            {lows.map(([name, words]) => (
              <tr key={name}>
                <th scope="row">{words}</th>
                <td>{chosen(at(`${name}.kind`), `${words}: kind`, orders)}</td>
                <td>{typed(at(`${name}.cutoff`), `${words}: cutoff`, 'Hz', 2000)}</td>
              </tr>
            ))}
            {(['notch', 'notchSecond'] as const).map((name) => (
              <tr key={name}>
                <th scope="row">{name === 'notch' ? 'Notch' : 'Second notch'}</th>
                <td>{chosen(at(`${name}.on`), `${name === 'notch' ? 'Notch' : 'Second notch'}: on or off`, switched)}</td>
                <td>
                  at {typed(at(`${name}.centre`), `${name}: centre`, 'Hz', 2000)} wide {typed(at(`${name}.width`), `${name}: width`, 'Hz', 2000)}
                </td>
              </tr>
            ))}
            <tr>
              <th scope="row">Notches that follow rotation</th>
              <td>{chosen(at('following.on'), 'Notches that follow rotation: on or off', switched)}</td>
              <td>
                {typed(at('following.tones'), 'Multiples of each rotor', 'multiples', 5)} from {typed(at('following.least'), 'Lowest followed', 'Hz', 1000)}
              </td>
            </tr>
            <tr>
              <th scope="row">Notches that search</th>
              <td>{typed(at('searching.count'), 'How many search', 'of them', 8)}</td>
              <td>
                from {typed(at('searching.from'), 'Search from', 'Hz', 2000)} to {typed(at('searching.to'), 'Search to', 'Hz', 2000)}
              </td>
            </tr>
          </tbody>
        </Facts>
        <p className="text-soft">
          Nothing typed is left to the firmware. What {quad.meant.sheet.firmware.line || 'the firmware'} cannot hold is said when it is written.
        </p>
      </section>
      <section aria-label="Recording">
        <b>Recording</b>
        <div className={ways}>
          <Select
            label="What the recording is for"
            className="w-60"
            empty="for nothing yet"
            options={[
              { value: '', words: 'for nothing yet' },
              { value: 'gains', words: 'how the gains answer' },
              { value: 'filters', words: 'what shakes, what filters leave' },
              { value: 'flights', words: 'what happened' },
            ]}
            value={tried.word(rec('purpose'))}
            onChoose={(x) => tried.put([{ path: rec('purpose'), value: x }])}
          />
          <Select
            label="Where it is written"
            className="w-44"
            options={[
              { value: '', words: 'left to the firmware' },
              { value: 'nothing', words: 'nowhere' },
              { value: 'chip', words: 'on a chip' },
              { value: 'card', words: 'on a card' },
            ]}
            value={tried.word(rec('medium'))}
            onChoose={(x) => tried.put([{ path: rec('medium'), value: x }])}
          />
        </div>
        <div className={ways}>
          <span>one record every {typed(rec('share'), 'Rounds of the loop to one record', 'rounds', 256)}</span>
          <span className="flex items-center gap-2">unfiltered gyro {chosen(rec('raw'), 'Unfiltered gyro', switched)}</span>
        </div>
        <p aria-live="polite">
          {r.rate > 0 ? (
            <>
              {r.rate.toFixed(0)} records a second
              {r.needs > 0 && <span className={r.slow ? 'text-fix' : undefined}>; {r.needs.toFixed(0)} are needed for it</span>}
              {r.minutes > 0 && (
                <span className={r.short ? 'text-fix' : undefined}>
                  ; {r.minutes.toFixed(1)} minutes fit, a pack hovers for {r.lasts.toFixed(1)}
                </span>
              )}
              .
            </>
          ) : (
            <span className="text-soft">How often it records is left to the firmware, and not known here.</span>
          )}
        </p>
        <div className={ways}>
          <span>room for {typed(asNamed('parts.board.memory'), 'Memory for recordings', 'MB', 1000000)}</span>
        </div>
      </section>
    </div>
  )
}
