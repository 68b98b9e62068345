// The one drawing of the quad, as the pilot stands behind it and looks down and forward: real arms and
// discs, and the parts in the middle that a station can light.
import type { ReactNode } from 'react'
import type { QuadView } from '../wire/client'
import type { Drawn } from '../wire/figures'

export const corners = ['frontLeft', 'frontRight', 'rearLeft', 'rearRight'] as const
export type Corner = (typeof corners)[number]
export const cornerWords: Record<Corner, string> = { frontLeft: 'Front left', frontRight: 'Front right', rearLeft: 'Rear left', rearRight: 'Rear right' }

export type Part = 'frame' | 'motors' | 'propellers' | 'board' | 'lead' | 'receiver' | 'video' | 'camera' | 'pack'

/** Ground plane to picture: x to the right, y ahead, in arm lengths. */
export const project = (x: number, y: number, z = 0): [number, number, number] => {
  const k = 1 / (1 + 0.13 * y)
  return [426 + x * 158 * k, 222 - y * 122 * k - z * 40 * k, k]
}

export const cornerOf = (quad: Drawn, corner: Corner) => quad.corners.find((c) => c.corner === corner)

export function places(quad: QuadView): Record<Corner, [number, number]> {
  const f = quad.meant.parts.frame
  const reach = Math.max(f.armFront, f.armSide, 1)
  const a = f.armFront / reach
  const s = f.armSide / reach
  if (quad.meant.sheet.craft.layout === 'plus') return { frontLeft: [0, 0.95], frontRight: [0.95, 0], rearLeft: [-0.95, 0], rearRight: [0, -0.95] }
  return { frontLeft: [-s, a], frontRight: [s, a], rearLeft: [-s, -a], rearRight: [s, -a] }
}

/** A rotor disc in the picture: centre and radii. */
export function disc(x: number, y: number, r = 96): { cx: number; cy: number; rx: number; ry: number } {
  const [cx, cy, k] = project(x, y)
  return { cx, cy, rx: r * k, ry: r * k * 0.56 }
}

/** An arrow along the disc's far edge, turning as seen from above. */
export function SweepArrow(props: {
  x: number
  y: number
  r: number
  clockwise: boolean
  colour: string
  width: number
  dashed?: boolean
  className?: string
}) {
  const { cx, cy, rx, ry } = disc(props.x, props.y, props.r)
  const at = (a: number): [number, number] => [cx + rx * Math.cos(a), cy + ry * Math.sin(a)]
  const [from, to] = props.clockwise ? [-2.75, -0.4] : [-0.4, -2.75]
  const s = at(from)
  const e = at(to)
  const before = at(to + (props.clockwise ? -0.02 : 0.02))
  const turn = (Math.atan2(e[1] - before[1], e[0] - before[0]) * 180) / Math.PI
  return (
    <g>
      <path
        d={`M${s}A${rx} ${ry} 0 0 ${props.clockwise ? 1 : 0} ${e}`}
        fill="none"
        stroke={props.colour}
        strokeWidth={props.width}
        strokeLinecap="round"
        strokeDasharray={props.dashed ? '4 5' : props.className ? '16 10' : undefined}
        className={props.className}
      />
      <path
        d="M9 0L-7 -7V7Z"
        fill={props.dashed ? 'var(--panel)' : props.colour}
        stroke={props.colour}
        strokeWidth="1.5"
        transform={`translate(${e}) rotate(${turn})`}
      />
    </g>
  )
}

export function Blades({ x, y, clockwise, faint }: { x: number; y: number; clockwise: boolean; faint?: boolean }) {
  const { cx, cy, rx, ry } = disc(x, y)
  const m = clockwise ? 1 : -1
  const pt = (r: number, a: number) => `${cx + rx * r * Math.cos(a)} ${cy + ry * r * Math.sin(a)}`
  return (
    <g fill="var(--soft)" opacity={faint ? 0.16 : 0.3}>
      {[0, 1, 2].map((k) => {
        const t = ((20 + k * 120 + x * 15) * Math.PI) / 180
        return <path key={k} d={`M${cx} ${cy}Q${pt(0.5, t + m * 0.2)} ${pt(0.97, t)}Q${pt(0.6, t - m * 0.1)} ${cx} ${cy}`} />
      })}
    </g>
  )
}

/** Arms and body with the parts in the middle; lit parts stand out. Everything else is put on top. */
export function QuadBody({ quad, lit = [], children }: { quad: QuadView; lit?: Part[]; children?: ReactNode }) {
  const at = places(quad)
  const on = (p: Part) => lit.includes(p)
  const fill = (p: Part) => (on(p) ? 'var(--act-bg)' : 'var(--panel)')
  const edge = (p: Part) => (on(p) ? 'var(--act)' : 'var(--line)')
  const wide = (p: Part) => (on(p) ? 2.4 : 1.5)
  const poly = (pts: [number, number][]) => `M${pts.map(([x, y]) => project(x, y).slice(0, 2)).join('L')}Z`
  const [leadX, leadY] = project(0, -0.46)
  const [camX, camY] = project(0, 0.52)
  const plus = quad.meant.sheet.craft.layout === 'plus'
  const [aheadX, aheadY] = project(0, plus ? 1.65 : 1.35)
  // In the plus layout the front rotor stands before the camera: the line ends above it.
  const lineEnd = plus ? disc(...at.frontLeft).cy - disc(...at.frontLeft).ry - 4 : camY - 16
  const antenna = project(-0.1, -0.42)
  const video = project(0.11, -0.42)
  return (
    <>
      {corners.map((c) => {
        const [x, y] = at[c]
        const [ax, ay] = project(x * 0.1, y * 0.16)
        const [bx, by] = project(x, y)
        return (
          <path
            key={c}
            d={`M${ax} ${ay}L${bx} ${by}`}
            stroke={on('frame') ? 'var(--act)' : 'var(--line)'}
            strokeWidth="15"
            strokeLinecap="round"
            opacity={on('frame') ? 0.5 : 1}
          />
        )
      })}
      <path
        d={poly([
          [-0.16, -0.42],
          [0.16, -0.42],
          [0.14, 0.46],
          [-0.14, 0.46],
        ])}
        fill="var(--panel)"
        stroke="var(--line)"
        strokeWidth="14"
        strokeLinejoin="round"
      />
      <path
        d={poly([
          [-0.13, -0.16],
          [0.13, -0.16],
          [0.12, 0.14],
          [-0.12, 0.14],
        ])}
        fill={fill('board')}
        stroke={edge('board')}
        strokeWidth={wide('board')}
      />
      <path
        d={poly([
          [-0.13, -0.38],
          [-0.02, -0.38],
          [-0.02, -0.24],
          [-0.13, -0.24],
        ])}
        fill={fill('receiver')}
        stroke={edge('receiver')}
        strokeWidth={wide('receiver')}
      />
      <path d={`M${antenna[0]} ${antenna[1]}l-26 30m26-30l-34 6`} stroke={on('receiver') ? 'var(--act)' : 'var(--soft)'} strokeWidth="2" fill="none" />
      {quad.meant.parts.video.fitted && (
        <>
          <path
            d={poly([
              [0.02, -0.38],
              [0.13, -0.38],
              [0.13, -0.24],
              [0.02, -0.24],
            ])}
            fill={fill('video')}
            stroke={edge('video')}
            strokeWidth={wide('video')}
          />
          <path d={`M${video[0]} ${video[1]}l14 -44`} stroke={on('video') ? 'var(--act)' : 'var(--soft)'} strokeWidth="2" />
          <circle
            cx={video[0] + 16}
            cy={video[1] - 50}
            r="7"
            fill={fill('video')}
            stroke={on('video') ? 'var(--act)' : 'var(--soft)'}
            strokeWidth={wide('video')}
          />
        </>
      )}
      <path
        d={`M${leadX - 5} ${leadY}c-4 30 -10 34 -4 52M${leadX + 5} ${leadY}c4 28 2 36 4 52`}
        fill="none"
        stroke={on('lead') ? 'var(--act)' : 'var(--soft)'}
        strokeWidth="4"
      />
      <ellipse cx={leadX + 24} cy={leadY + 8} rx="9" ry="12" fill={fill('lead')} stroke={edge('lead')} strokeWidth={wide('lead')} />
      <path
        d={poly([
          [-0.09, 0.18],
          [0.09, 0.18],
          [0.085, 0.42],
          [-0.085, 0.42],
        ])}
        fill={fill('pack')}
        stroke={edge('pack')}
        strokeWidth={wide('pack')}
      />
      <circle cx={camX} cy={camY} r="8" fill={on('camera') ? 'var(--act)' : 'var(--ink)'} />
      <text x={aheadX} y={aheadY - 6} textAnchor="middle" fontSize="13.5" style={{ fill: 'var(--soft)' }}>
        Front
      </text>
      <path d={`M${aheadX} ${aheadY + 4}V${lineEnd}`} stroke="var(--soft)" strokeWidth="1.5" strokeDasharray="3 5" />
      {children}
    </>
  )
}

/** Rotors that only stand there, the ones lit with the direction the layout wants. */
export function PlainRotors({ quad, lit }: { quad: Drawn; lit?: boolean }) {
  const at = places(quad)
  return (
    <>
      {corners.map((c) => {
        const [x, y] = at[c]
        const d = disc(x, y)
        const clockwise = cornerOf(quad, c)?.wants === 'clockwise'
        return (
          <g key={c}>
            <ellipse {...d} fill="var(--panel)" stroke={lit ? 'var(--act)' : 'var(--line)'} strokeWidth={lit ? 2 : 1.4} fillOpacity="0.75" />
            <Blades x={x} y={y} clockwise={clockwise} faint={!lit} />
            <ellipse cx={d.cx} cy={d.cy - 3} rx="11" ry="8" fill="var(--ink)" />
            {lit && <SweepArrow x={x} y={y} r={74} clockwise={clockwise} colour="var(--soft)" width={2} dashed />}
          </g>
        )
      })}
    </>
  )
}
