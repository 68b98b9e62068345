// One moment of a flown run in depth: ground, shadow, way and quad, seen by an eye that can be turned about it.
import { useRef } from 'react'
import { type Frame, names, rotate, tones, type Vec } from './scene'

/** Where the eye stands: degrees about the quad from behind it, clockwise from above, and degrees above the ground. */
export interface Eye {
  round: number
  up: number
}

export const firstEye: Eye = { round: -32, up: 16 }

const rad = Math.PI / 180
const clamp = (x: number, a: number, b: number) => Math.min(b, Math.max(a, x))

interface Look {
  at: Vec // north, east, up that it looks at
  away: number // m
  eye: Eye
  width: number
  height: number
}

/** Projects a place (north, east, up) to the picture; undefined behind the eye. */
function projection({ at, away, eye, width, height }: Look) {
  const [cr, sr, cu, su] = [Math.cos(eye.round * rad), Math.sin(eye.round * rad), Math.cos(eye.up * rad), Math.sin(eye.up * rad)]
  const from: Vec = [at[0] - away * cu * cr, at[1] - away * cu * sr, at[2] + away * su]
  const focus = width * 0.95
  return (p: Vec): [number, number, number] | undefined => {
    const [n, e, u] = [p[0] - from[0], p[1] - from[1], p[2] - from[2]]
    const depth = n * cu * cr + e * cu * sr - u * su
    if (depth < 0.05) return undefined
    const right = e * cr - n * sr
    const over = n * su * cr + e * su * sr + u * cu
    return [width / 2 + (focus * right) / depth, height / 2 - (focus * over) / depth, depth]
  }
}

type Project = ReturnType<typeof projection>

const line = (project: Project, points: Vec[]) => {
  let d = ''
  let on = false
  for (const p of points) {
    const q = project(p)
    d += q ? `${on ? 'L' : 'M'}${q[0].toFixed(1)} ${q[1].toFixed(1)}` : ''
    on = Boolean(q)
  }
  return d
}

/** A closed line, or nothing where all of it is behind the eye. */
const ring = (project: Project, points: Vec[]) => {
  const d = line(project, points)
  return d && `${d}Z`
}

const circle = Array.from({ length: 24 }, (_, i) => [Math.cos((i * Math.PI) / 12), Math.sin((i * Math.PI) / 12)] as const)

/** How large a quad is drawn, and from how far: near to the ground and the place the eye stands still, else it follows. */
export function viewOf(frames: Frame[], span: number) {
  const far = Math.max(...frames.map((f) => Math.hypot(f.place[0] ?? 0, f.place[1] ?? 0, f.place[2] ?? 0)))
  return far < 4 ? { follows: false, larger: 2.2, away: clamp(1.5 + far * 0.5, 2.6, 3.6) } : { follows: true, larger: 1, away: 7 * span }
}

export function Space(props: {
  f: Frame
  path: Frame[]
  places: number[][]
  radius: number
  view: ReturnType<typeof viewOf>
  eye: Eye
  turn: (to: Eye) => void
  width: number
  height: number
  struck?: string
}) {
  const { f, view, eye, width, height } = props
  const from = useRef<{ x: number; y: number; eye: Eye } | null>(null)
  const [north = 0, east = 0, up = 0] = f.place
  const centre: Vec = [north, east, up + 0.03]
  const project = projection({ at: view.follows ? centre : [0.2, 0, 0.45], away: view.away, eye, width, height })
  const turn = (round: number, over: number) => props.turn({ round: ((((round + 180) % 360) + 360) % 360) - 180, up: clamp(over, 3, 85) })

  // The quad's own points, drawn larger than they are where the eye stands still, and lifted so far that none is under the ground.
  const body = (v: Vec): Vec => {
    const [n, e, d] = rotate(f.attitude, [v[0] * view.larger, v[1] * view.larger, v[2] * view.larger])
    return [n, e, -d]
  }
  const rims = props.places.map(([a = 0, r = 0]) => circle.map(([c, s]) => body([a + c * props.radius, r + s * props.radius, -0.02])))
  const lowest = Math.min(...rims.flat().map((p) => p[2]))
  const lift = view.larger > 1 ? Math.max(0, -lowest - centre[2] + 0.01) : 0
  const put = (p: Vec): Vec => [centre[0] + p[0], centre[1] + p[1], centre[2] + p[2] + lift]

  const step = view.follows ? (up > 30 ? 10 : 2) : 0.5
  const [gn, ge] = view.follows ? [Math.round(north / step) * step, Math.round(east / step) * step] : [0, 0]
  const reach = view.follows ? 12 : 6
  const grid = Array.from({ length: 2 * reach + 1 }, (_, i) => (i - reach) * step)
  const trail = props.path.filter((_, i) => i % 4 === 0).map((p): Vec => [p.place[0] ?? 0, p.place[1] ?? 0, (p.place[2] ?? 0) + 0.03])
  const order = props.places
    .map((_, i) => i)
    .sort((a, b) => (project(put(rims[b]?.[0] ?? [0, 0, 0]))?.[2] ?? 0) - (project(put(rims[a]?.[0] ?? [0, 0, 0]))?.[2] ?? 0))
  const nose = body([Math.max(...props.places.map((p) => p[0] ?? 0)) * 0.55, 0, -0.01])
  return (
    <svg
      className="col-span-full cursor-grab touch-none"
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the arrow keys turn the eye; the picture's name says so
      tabIndex={0}
      role="img"
      aria-label={`In depth: ${up.toFixed(2)} m up, ${Math.hypot(north, east).toFixed(1)} m from the start, leaning ${f.tilt.toFixed(0)} degrees. Arrow keys turn the view.`}
      onKeyDown={(e) => {
        const by = { ArrowLeft: [-8, 0], ArrowRight: [8, 0], ArrowUp: [0, 6], ArrowDown: [0, -6] }[e.key]
        if (!by) return
        e.preventDefault()
        turn(eye.round + (by[0] ?? 0), eye.up + (by[1] ?? 0))
      }}
      onPointerDown={(e) => {
        from.current = { x: e.clientX, y: e.clientY, eye }
        e.currentTarget.setPointerCapture(e.pointerId)
      }}
      onPointerMove={(e) => {
        const f = from.current
        if (f) turn(f.eye.round - (e.clientX - f.x) * 0.5, f.eye.up + (e.clientY - f.y) * 0.35)
      }}
      onPointerUp={() => {
        from.current = null
      }}
    >
      <path
        d={grid
          .map(
            (g) =>
              line(project, [
                [gn - reach * step, ge + g, 0],
                [gn, ge + g, 0],
                [gn + reach * step, ge + g, 0],
              ]) +
              line(project, [
                [gn + g, ge - reach * step, 0],
                [gn + g, ge, 0],
                [gn + g, ge + reach * step, 0],
              ]),
          )
          .join('')}
        fill="none"
        stroke="var(--line)"
      />
      <path
        d={ring(
          project,
          circle.map(([c, s]): Vec => [0.12 * c, 0.12 * s, 0]),
        )}
        fill="none"
        stroke="var(--soft)"
      />
      <path
        d={ring(
          project,
          circle.map(([c, s]): Vec => [north + c * props.radius * 2 * view.larger, east + s * props.radius * 2 * view.larger, 0]),
        )}
        fill="var(--ink)"
        opacity="0.14"
      />
      <path
        d={line(project, [
          [north, east, 0],
          [north, east, up],
        ])}
        stroke="var(--faint)"
        strokeDasharray="2 4"
      />
      <path d={line(project, trail)} fill="none" stroke="var(--act)" strokeWidth="1.4" />
      {props.places.map(([a = 0, r = 0], i) => (
        <path key={names[i]} d={line(project, [put([0, 0, 0]), put(body([a, r, 0]))])} stroke="var(--soft)" strokeWidth="4" strokeLinecap="round" />
      ))}
      {order.map((i) => {
        const rim = rims[i] ?? []
        const hub = body([props.places[i]?.[0] ?? 0, props.places[i]?.[1] ?? 0, -0.02])
        const duty = f.duty[i] ?? 0
        const way = Math.sign(f.thrusts[i] ?? 0)
        const size = Math.min(0.6, Math.abs(f.thrusts[i] ?? 0)) * props.radius * 5
        const tip = body([props.places[i]?.[0] ?? 0, props.places[i]?.[1] ?? 0, -0.02 - way * size])
        const spread = (f.rotors[i] ?? 0) > 300 || (f.rotors[i] ?? 0) < -300
        return (
          <g key={names[i]}>
            <path d={ring(project, rim.map(put))} fill={tones[i]} fillOpacity={spread ? 0.28 : 0.08} stroke={tones[i]} strokeWidth="1.6" />
            {size > 0.01 && duty !== 0 && (
              <path d={line(project, [put(hub), put(tip)])} stroke={way < 0 ? 'var(--stop)' : tones[i]} strokeWidth="3" strokeLinecap="round" />
            )}
          </g>
        )
      })}
      <path d={line(project, [put([0, 0, 0]), put(nose)])} stroke="var(--ink)" strokeWidth="5" strokeLinecap="round" />
    </svg>
  )
}
