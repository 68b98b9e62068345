import type { Schemas } from '../../../wire/client'
import type { Offset, SiteMap } from '../../../wire/sites'
import { kinds, middle, path, round, stands, type View } from './view'

const tones: Record<string, string> = { people: 'var(--stop)', water: 'var(--act)', roof: 'var(--note)', obstacle: 'var(--fix)', soft: 'var(--ok)' }

/** Hatches that tell the kinds of ground apart without colour. */
export function Hatches() {
  return (
    <defs>
      <pattern id="ground-people" width="9" height="9" patternUnits="userSpaceOnUse">
        <rect width="9" height="9" fill="var(--stop-bg)" />
        <circle cx="4.5" cy="3" r="1.4" fill="var(--stop)" />
        <path d="M4.5 4.4v3" stroke="var(--stop)" strokeWidth="1.3" />
      </pattern>
      <pattern id="ground-water" width="16" height="8" patternUnits="userSpaceOnUse">
        <rect width="16" height="8" fill="var(--act-bg)" />
        <path d="M0 4q4 -3 8 0t8 0" fill="none" stroke="var(--act)" strokeWidth="0.9" />
      </pattern>
      <pattern id="ground-roof" width="7" height="7" patternUnits="userSpaceOnUse">
        <rect width="7" height="7" fill="var(--note-bg)" />
        <path d="M0 0h7M0 0v7" stroke="var(--note)" strokeWidth="0.8" />
      </pattern>
      <pattern id="ground-obstacle" width="7" height="7" patternUnits="userSpaceOnUse">
        <rect width="7" height="7" fill="var(--fix-bg)" />
        <path d="M-1 8L8 -1" stroke="var(--fix)" strokeWidth="1.1" />
      </pattern>
      <pattern id="ground-soft" width="8" height="8" patternUnits="userSpaceOnUse">
        <rect width="8" height="8" fill="var(--ok-bg)" />
        <path d="M1 7l1.4 -4M4.5 7V2M7.2 7L6 3.6" stroke="var(--ok)" strokeWidth="0.9" />
      </pattern>
    </defs>
  )
}

/** What lies on the ground: areas with their hatches and names, safe places, home. */
export function Ground({ map, view, chosen }: { map: SiteMap; view: View; chosen?: string }) {
  const [hx, hy] = view.at({ east: 0, north: 0 })
  return (
    <g>
      {map.areas.map((a, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: areas have no names of their own
        <path key={i} d={path(a.corners, view, true)} fill={`url(#ground-${a.kind})`} stroke={tones[a.kind]} strokeWidth={chosen === `area${i}` ? 2.5 : 1} />
      ))}
      {map.safe.map((s, i) => {
        const [x, y] = view.at(s.at)
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: two may have one name
          <g key={i}>
            <circle cx={x} cy={y} r="6" fill="var(--panel)" stroke="var(--ok)" strokeWidth={chosen === `safe${i}` ? 3 : 2} />
            <circle cx={x} cy={y} r="1.8" fill="var(--ok)" />
            <Named x={x} y={y + 20} words={s.name || 'safe place'} />
          </g>
        )
      })}
      <path d={`M${hx} ${hy - 9}l9 8h-3v8h-12v-8h-3z`} fill="var(--ink)" />
      <Named x={hx} y={hy + 21} words="home" />
    </g>
  )
}

/** What the areas and places are called, above everything that is drawn. */
export function Names({ map, view }: { map: SiteMap; view: View }) {
  return (
    <g>
      {map.areas.map((a, i) => {
        const [x, y] = view.at(middle(a.corners))
        const high = stands(a.kind) ? (a.height === undefined ? ', how high?' : `, ${a.height} m`) : ''
        // biome-ignore lint/suspicious/noArrayIndexKey: areas have no names of their own
        return <Named key={i} x={x} y={y + 4} words={`${a.name || kinds[a.kind].toLowerCase()}${high}`} />
      })}
    </g>
  )
}

/** A name on the map, kept readable over any hatch. */
export function Named({ x, y, words }: { x: number; y: number; words: string }) {
  return (
    <text
      x={x}
      y={y}
      textAnchor="middle"
      fontSize="12.5"
      fillOpacity="1"
      stroke="var(--panel)"
      strokeWidth="3.5"
      paintOrder="stroke"
      style={{ fill: 'var(--ink)' }}
    >
      {words}
    </text>
  )
}

/** Where the radio is lost and where it comes down: the line, judged piece by piece, the areas and the dots of one policy. */
export function Losses({ losses, view }: { losses: Schemas['FlightLineLosses']; view: View }) {
  return (
    <g>
      {losses.dots.map((d, i) => {
        const [x, y] = view.at(d)
        // biome-ignore lint/suspicious/noArrayIndexKey: losses have no names
        return <circle key={i} cx={x} cy={y} r="1.4" fill="var(--ink)" opacity="0.45" />
      })}
      {losses.regions.map((r) => (
        <path
          key={r.share}
          d={r.rings.map((ring) => path(ring, view, true)).join('')}
          fill="var(--fix)"
          fillOpacity={r.share < 60 ? 0.22 : 0.08}
          fillRule="evenodd"
          stroke="var(--fix)"
          strokeWidth={r.share < 60 ? 1.2 : 2}
          strokeDasharray={r.share < 60 ? undefined : '7 4'}
        />
      ))}
    </g>
  )
}

/** The line that is meant to be flown; thick and broken where losing the radio ends badly. */
export function Line({
  points,
  avoid = [],
  back,
  view,
}: {
  points: Offset[]
  avoid?: Schemas['FlightLinePiece'][]
  back?: Schemas['FlightLineBack']
  view: View
}) {
  const arrow = ends(points, view)
  return (
    <g fill="none">
      <path d={path(points, view, false)} stroke="var(--panel)" strokeWidth="5" />
      <path d={path(points, view, false)} stroke="var(--ink)" strokeWidth="2" />
      {avoid.map((p) => (
        <path key={p.from} d={path(between(points, p.from, p.to), view, false)} stroke="var(--stop)" strokeWidth="6" strokeDasharray="5 3" />
      ))}
      {arrow && <path d="M-5 -8L0 2L5 -8" transform={arrow} stroke="var(--ink)" strokeWidth="2" />}
      {back?.told && !back.whole && (
        <g transform={`translate(${view.at(back.at).join(' ')})`}>
          <path d="M-9 0H9M0 -9V9" transform="rotate(45)" stroke="var(--stop)" strokeWidth="2.5" />
          <Named x={0} y={-14} words="turn back here" />
        </g>
      )}
    </g>
  )
}

function ends(points: Offset[], view: View): string {
  const [a, b] = points.slice(-2)
  if (!a || !b) return ''
  const [[ax, ay], [bx, by]] = [view.at(a), view.at(b)]
  return `translate(${bx} ${by}) rotate(${(Math.atan2(by - ay, bx - ax) * 180) / Math.PI - 90})`
}

/** The part of a line between two lengths along it, m. */
function between(points: Offset[], from: number, to: number): Offset[] {
  const out: Offset[] = []
  let along = 0
  points.slice(1).forEach((b, i) => {
    const a = points[i] as Offset
    const d = Math.hypot(b.east - a.east, b.north - a.north)
    const on = (s: number): Offset => ({ east: a.east + ((b.east - a.east) * s) / d, north: a.north + ((b.north - a.north) * s) / d })
    if (d > 0 && along + d > from && along < to) out.push(on(Math.max(0, from - along)), on(Math.min(d, to - along)))
    along += d
  })
  return out
}

/** How long a length is, which way north lies, and where the wind blows from. */
export function Bearings({ view, from, wind }: { view: View; from?: number; wind?: number }) {
  const length = round(60 / view.scale)
  const y = view.high - 14
  return (
    <g stroke="var(--soft)" fill="none">
      <path d={`M16 ${y}h${length * view.scale}m0 -4v8m${-length * view.scale} -8v8`} />
      <text x={22 + length * view.scale} y={y + 4} fontSize="12.5" stroke="none" style={{ fill: 'var(--soft)' }}>
        {length} m
      </text>
      <path d={`M${view.wide - 18} 34V12m-5 7l5 -7l5 7`} strokeWidth="1.5" />
      <text x={view.wide - 18} y="48" textAnchor="middle" fontSize="12.5" stroke="none" style={{ fill: 'var(--soft)' }}>
        north
      </text>
      {from !== undefined && Boolean(wind) && (
        <g>
          <circle cx="34" cy="34" r="22" fill="var(--panel)" fillOpacity="0.8" stroke="none" />
          <g transform={`translate(34 34) rotate(${from + 180})`} strokeWidth="2">
            <path d="M0 17V-17M-6 -9L0 -17L6 -9" />
          </g>
          <Named x={38} y={66} words={`${wind} m/s`} />
        </g>
      )}
    </g>
  )
}
