import { useDeferredValue, useState } from 'react'
import { Button } from '../../kit/button'
import { ways } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { Slider } from '../../kit/slider'
import { Facts } from '../../kit/table'
import { AsTable } from '../../shell/as-table'
import type { Schemas } from '../../wire/client'
import { useFeelThrottle } from '../../wire/feel'
import type { QuadAt } from '../../wire/figures'
import type { Path } from '../../wire/path'
import { marksTo, Plot, placesIn, through, usualBox } from './plot'
import { asChanges, type Tried } from './tried'

const at = {
  middle: 'sheet.feel.throttleMiddle' as Path,
  bend: 'sheet.feel.throttleBend' as Path,
  limit: 'sheet.feel.throttleLimit' as Path,
  cut: 'sheet.feel.throttleCut' as Path,
  even: 'sheet.motors.linear' as Path,
}

/** The throttle from stick to thrust: its curve, its limit both ways side by side, and the hover where the hand wants it. */
export function ThrottleStick({ quad, tried }: { quad: QuadAt<'feel'>; tried: Tried }) {
  const [hoverAt, setHoverAt] = useState(45)
  const answer = useFeelThrottle(quad, useDeferredValue({ tried: tried.list, hoverAt }))
  const v = answer.data
  const holds = quad.hands.holds
  if (answer.error)
    return (
      <p role="alert" className="text-stop">
        {answer.error.message}
      </p>
    )
  if (!v) return <p>Reckoning what the stick lifts…</p>
  const cut = tried.word(at.cut) === 'true'
  const set = (path: Path) => (x: number) => tried.put([{ path, value: x }])
  return (
    <>
      <AsTable
        caption="The throttle stick"
        head={['stick', 'throttle', 'duty', 'lifts, times its weight']}
        rows={v.points.filter((_, i) => i % 5 === 0).map((p) => [`${p.stick} %`, `${p.throttle} %`, `${p.duty} %`, p.lifts.toFixed(2)])}
      />
      <div className="grid grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
        <section aria-label="Thrust over the stick">
          <Thrust view={v} />
          <p className="text-[13px] text-soft">
            With {v.pack} at rest voltage. Thick: as it is tried. {v.other.length > 0 ? `Dashed: the same limit ${v.cut ? 'compressed' : 'cut off'}. ` : ''}
            Rings: where each pack hovers, full and low. At rest the motors have {v.idles} % duty, at full stick {v.fully} %.
          </p>
        </section>
        <section aria-label="The throttle stick" className="text-[14px]">
          <div className="grid grid-cols-[auto_minmax(0,1fr)_70px] items-center gap-x-3 gap-y-1">
            <span>Middle, above half</span>
            <Slider label="Middle of the throttle, % above half" value={tried.of(at.middle)} min={-40} max={40} onMove={set(at.middle)} />
            <b className="tabular-nums">{tried.of(at.middle)} %</b>
            <span>Bend, flat about it</span>
            <Slider label="Bend of the throttle, %" value={tried.of(at.bend)} min={0} max={100} onMove={set(at.bend)} />
            <b className="tabular-nums">{tried.of(at.bend)} %</b>
            <span>Limit</span>
            <Slider label="Throttle limit, %" value={tried.of(at.limit)} min={20} max={100} onMove={set(at.limit)} />
            <b className="tabular-nums">{tried.of(at.limit)} %</b>
            {holds.even && (
              <>
                <span>Evened out</span>
                <Slider label="Thrust evened out by the board, %" value={tried.of(at.even)} min={0} max={100} onMove={set(at.even)} />
                <b className="tabular-nums">{tried.of(at.even)} %</b>
              </>
            )}
          </div>
          <div className={ways}>
            <Segments
              label="The limit is"
              small
              disabled={!holds.cut && !cut}
              items={[
                { value: 'compressed', words: 'Compressed' },
                { value: 'cut', words: 'Cut off' },
              ]}
              value={cut ? 'cut' : 'compressed'}
              onChoose={(x) => tried.put([{ path: at.cut, value: x === 'cut' }])}
            />
            {v.dead > 0 && <span className="text-fix">The last {v.dead} % of the stick do nothing.</span>}
            {!holds.cut && <span className="text-soft">This firmware only compresses.</span>}
          </div>
          {!holds.curve && <p className="text-soft">This firmware has no throttle curve.</p>}
          <div className="mt-2 grid grid-cols-[auto_minmax(0,1fr)_70px] items-center gap-x-3">
            <span>Hover at</span>
            <Slider label="Where the hand wants its hover, % of the stick" value={hoverAt} min={20} max={70} onMove={setHoverAt} />
            <b className="tabular-nums">{hoverAt} %</b>
          </div>
          <div className={ways}>
            <Button small disabled={v.hover.length === 0 || !holds.curve} onClick={() => tried.put(asChanges(v.hover))}>
              Put the hover there
            </Button>
            <Button small disabled={v.straight.length === 0 || !holds.curve} onClick={() => tried.put(asChanges(v.straight))}>
              Straighten the thrust
            </Button>
            {holds.even && (
              <Button small disabled={v.even.length === 0} onClick={() => tried.put(asChanges(v.even))}>
                Have the board even it out
              </Button>
            )}
          </div>
          <p className="mt-1.5 text-soft">
            {v.hoverWhy ||
              `Thrust strays by ${v.uneven} % from a straight line over the stick${v.straight.length > 0 ? `; straightened, by ${v.straightLeft} %` : ', and no curve does better'}${holds.even && v.even.length > 0 ? `; evened out by ${v.evenTo} %, by ${v.evenLeft} %` : ''}.`}
            {v.counts > 0 &&
              v.counts !== 1 &&
              ` In a hover a correction moves the motors ${v.counts.toFixed(2)} times as far: what that leaves in hand is at Gains.`}
          </p>
        </section>
      </div>
      <section aria-label="With each pack">
        <Facts className="text-[14px]">
          <thead>
            <tr>
              <th scope="col">Pack</th>
              <th scope="col">It hovers at, stick</th>
              <th scope="col">and duty</th>
              <th scope="col">Full stick lifts</th>
              <th scope="col">without a limit</th>
            </tr>
          </thead>
          <tbody>
            {v.packs.map((p) => (
              <tr key={`${p.pack} ${p.full}`} className="tabular-nums">
                <th scope="row">
                  {p.pack}, {p.full ? 'full' : 'low'}
                </th>
                <td>{p.stick > 100 ? 'no stick does' : `${p.stick.toFixed(0)} %`}</td>
                <td>{p.duty.toFixed(0)} %</td>
                <td className={p.hangs ? 'text-fix' : undefined}>{p.lifts.toFixed(1)} ×</td>
                <td>{p.all.toFixed(1)} ×</td>
              </tr>
            ))}
          </tbody>
        </Facts>
      </section>
    </>
  )
}

const box = { ...usualBox, h: 300 }

function Thrust({ view: v }: { view: Schemas['FeelThrottleView'] }) {
  const most = Math.max(2, ...v.points.map((p) => p.lifts), ...v.other.map((p) => p.lifts)) * 1.05
  const across = { low: 0, high: 100, marks: [0, 25, 50, 75, 100], words: 'throttle stick, %' }
  const up = { low: 0, high: most, marks: marksTo(most), words: 'lifts, times its weight' }
  const places = placesIn(box, across, up)
  const line = (list: Schemas['ThrottlePoint'][]) =>
    through(
      places,
      list.map((p) => p.stick),
      list.map((p) => p.lifts),
    )
  const last = v.points.at(-1)
  return (
    <Plot box={box} across={across} up={up} label={`Thrust over the throttle stick: full stick lifts ${last?.lifts.toFixed(1)} times its weight`}>
      <path d={`M${box.left} ${places.y(0)}L${places.x(100)} ${places.y(last?.lifts ?? 0)}`} stroke="var(--line)" strokeWidth="1.5" />
      <path d={`M${box.left} ${places.y(1)}H${box.w - box.right}`} stroke="var(--soft)" strokeDasharray="3 4" />
      <text x={box.w - box.right - 4} y={places.y(1) - 5} textAnchor="end" fontSize="12.5" style={{ fill: 'var(--soft)' }}>
        its weight: a hover
      </text>
      {v.other.length > 0 && <path d={line(v.other)} fill="none" stroke="var(--soft)" strokeWidth="1.8" strokeDasharray="6 5" />}
      <path d={line(v.points)} fill="none" stroke="var(--act)" strokeWidth="3" />
      {v.packs
        .filter((p) => p.stick <= 100)
        .map((p) => (
          <circle
            key={`${p.pack} ${p.full}`}
            cx={places.x(p.stick)}
            cy={places.y(1)}
            r="5.5"
            fill={p.full ? 'var(--act)' : 'var(--panel)'}
            stroke="var(--act)"
            strokeWidth="2"
          >
            <title>
              {p.pack}, {p.full ? 'full' : 'low'}: {p.stick.toFixed(0)} % of the stick
            </title>
          </circle>
        ))}
    </Plot>
  )
}
