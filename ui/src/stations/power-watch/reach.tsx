import { Link } from 'react-router'
import { Subhead } from '../../kit/heading'
import { two } from '../../kit/looks'
import { AsTable } from '../../shell/as-table'
import type { Schemas } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import type { StationProps } from '../props'
import { clock } from './clock'

/** How far a pack reaches and where to turn, what each pack's life says of it, and how warm the motors came home. */
export function PacksAndReach({ quad }: StationProps<QuadAt<'power-watch'>>) {
  const v = quad.watch
  return (
    <div className={two}>
      <section aria-label="Where to turn">
        <Subhead className="mt-0!">Where to turn, to be home with a fifth left</Subhead>
        {v.reach && v.reach.ways.length > 0 ? (
          <ReachDrawn reach={v.reach} />
        ) : (
          <p className="text-soft">
            {v.reach ? 'The wind is as fast as it flies: out there it does not come home.' : 'Parts are missing: what it draws as it flies cannot be said.'}
          </p>
        )}
      </section>
      <section aria-label="Its packs">
        <Subhead className="mt-0!">What it flies with</Subhead>
        <ul className="grid gap-2 text-[14.5px]">
          {v.packs.map((p) => (
            <li key={p.name} className="border-t border-line pt-1.5">
              <b>{p.name}</b>, {p.pack.cells} cells, {p.pack.capacity} mAh: hovers {p.hover > 0 ? `${p.hover} mAh a minute, ` : ''}
              {p.seconds > 0 ? `${clock(p.seconds)} until it is to land` : 'not told'}.{' '}
              <span className={p.fits ? 'text-soft' : 'text-fix'}>
                Warned of at {p.warns.toFixed(1)} V, landed at {p.landsAt.toFixed(1)} V
                {p.fits ? '' : `; the alarm counts on ${v.cells} cells and would do so at ${(v.warn * v.cells).toFixed(1)} V`}.
              </span>
              {p.wear.words && <p className={p.wear.retire ? 'font-semibold text-stop' : p.wear.look ? 'text-fix' : 'text-soft'}>{p.wear.words}</p>}
            </li>
          ))}
        </ul>
        <p className="mt-1 text-[14px]">
          <Link to="/packs">Measure a pack, and see how it ages</Link>
        </p>
        {v.heat && <HeatDrawn heat={v.heat} />}
      </section>
    </div>
  )
}

const box = { w: 420, h: 330 }

function ReachDrawn({ reach: r }: { reach: Schemas['ReachView'] }) {
  const up = r.ways[0]
  const across = r.ways[1] ?? up
  const down = r.ways.at(-1) ?? up
  if (!up || !across || !down) return null
  const most = Math.max(up.metres, across.metres, down.metres)
  const s = 130 / most
  const cx = box.w / 2
  const cy = 160
  const n = (m: number) => (m >= 1000 ? `${(m / 1000).toFixed(1)} km` : `${m} m`)
  return (
    <>
      <AsTable
        caption="Where to turn"
        head={['way', 'out, mAh a km', 'back, mAh a km', 'turn at, m']}
        rows={r.ways.map((w) => [w.towards, String(w.out), String(w.back), String(w.metres)])}
      />
      <svg viewBox={`0 0 ${box.w} ${box.h}`} className="w-full" role="img" aria-label={r.ways.map((w) => `${w.towards} turn at ${n(w.metres)}`).join(', ')}>
        <path
          d={`M${cx} ${cy - up.metres * s}A${across.metres * s} ${up.metres * s} 0 0 1 ${cx + across.metres * s} ${cy}A${across.metres * s} ${down.metres * s} 0 0 1 ${cx} ${cy + down.metres * s}A${across.metres * s} ${down.metres * s} 0 0 1 ${cx - across.metres * s} ${cy}A${across.metres * s} ${up.metres * s} 0 0 1 ${cx} ${cy - up.metres * s}Z`}
          fill="var(--act)"
          fillOpacity="0.14"
          stroke="var(--act)"
          strokeWidth="2"
        />
        <circle cx={cx} cy={cy} r="4" fill="var(--ink)" />
        <text x={cx + 8} y={cy + 4} fontSize="13" fontWeight="600">
          home
        </text>
        {r.wind > 0 && (
          <g stroke="var(--wire)" strokeWidth="2" fill="none">
            <path d="M40 40V96M33 87l7 9l7 -9" />
            <text x="54" y="72" fontSize="13" stroke="none" style={{ fill: 'var(--soft)' }}>
              {r.wind} m/s
            </text>
          </g>
        )}
        <text x={cx} y={cy - up.metres * s - 8} textAnchor="middle" fontSize="13" fontWeight="600">
          {n(up.metres)}
        </text>
        {r.ways.length > 1 && (
          <>
            <text x={cx + across.metres * s + 6} y={cy - 12} textAnchor="start" fontSize="13" fontWeight="600">
              {n(across.metres)}
            </text>
            <text x={cx} y={cy + down.metres * s + 18} textAnchor="middle" fontSize="13" fontWeight="600">
              {n(down.metres)}
            </text>
          </>
        )}
      </svg>
      <p className="text-[14px] text-soft">
        With {r.pack} at {r.speed} m/s through the air{r.told ? '' : ', in still air: today’s wind is not measured'}: {r.minute} mAh a minute of hover;{' '}
        {r.ways.map((w) => `${w.towards} ${w.out} mAh a km out and ${w.back} back`).join('; ')}; {r.ways[0]?.minutes} min in all. Beyond it the pack ends on the
        way home.
      </p>
    </>
  )
}

const places = { frontLeft: [60, 30], frontRight: [180, 30], rearLeft: [60, 110], rearRight: [180, 110] } as const

/** Each motor bell with what was felt of it, the hottest marked. */
function HeatDrawn({ heat: h }: { heat: Schemas['HeatView'] }) {
  return (
    <section aria-label="Warmth after a flight">
      <Subhead>How warm its motors came home</Subhead>
      <svg viewBox="0 0 240 150" className="w-full max-w-75" role="img" aria-label={h.bells.map((b) => `${b.corner} ${b.is} °C`).join(', ')}>
        <path d="M60 30L180 110M180 30L60 110" stroke="var(--wire)" strokeWidth="6" />
        {h.bells.map((b) => {
          const [cx, cy] = places[b.corner]
          const tone = b.tooHot ? 'var(--stop)' : b.alone ? 'var(--fix)' : 'var(--wire)'
          return (
            <g key={b.corner}>
              <circle cx={cx} cy={cy} r="25" fill="var(--panel)" stroke={tone} strokeWidth={b.tooHot || b.alone ? 4 : 1.5} />
              <text x={cx} y={cy + 5} textAnchor="middle" fontSize="15" fontWeight="600">
                {b.is}°
              </text>
            </g>
          )
        })}
      </svg>
      <p className="text-[14px] text-soft">
        In air of {h.air} °C.{h.hover > 0 && ` A winding in a long hover has ${h.hover} °C by the model; its bell stays below.`}
      </p>
    </section>
  )
}
