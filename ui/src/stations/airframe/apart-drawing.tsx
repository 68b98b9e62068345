import type { KeyboardEvent, PointerEvent } from 'react'
import type { QuadView, Schemas } from '../../wire/client'
import { corners, cornerWords } from '../drawing'
import type { Placed, Thing } from './apart'

type View = Schemas['ApartView']
type Gap = Schemas['Gap']

/** What a hand does to the things of the drawing. */
type Hands = {
  chosen: string
  hold: (name: string, high: boolean, per: number) => (e: PointerEvent<SVGElement>) => void
  moved: (e: PointerEvent) => void
  letGo: () => void
  keys: (name: string, high: boolean) => (e: KeyboardEvent) => void
  onChoose: (name: string) => void
}
type Props = { quad: QuadView; view: View; placed: Placed; hands: Hands }

const box = { w: 450, top: 326, side: 116 }

/** Millimetres for each pixel of the screen, of a drawing with so many of its units to a millimetre. */
const mmPer = (e: PointerEvent<SVGElement>, scale: number) => {
  const svg = e.currentTarget.ownerSVGElement
  const wide = svg?.getBoundingClientRect().width || box.w
  // Drawn as large as fits: the smaller of both ratios counts.
  const high = svg?.getBoundingClientRect().height || box.top
  const view = svg?.viewBox.baseVal
  return 1 / (scale * Math.min(wide / (view?.width || box.w), high / (view?.height || box.top)))
}

/** The scale and the middle of both drawings: one scale, so that a thing is as long from above as from the side. */
function scaleOf({ quad, view, placed }: Props) {
  const r = quad.meant.parts.propeller.diameter / 2
  const far = Math.max(30, ...view.spots.map(([a, b]) => Math.max(Math.abs(a), Math.abs(b)) + r))
  const things = Object.values(placed).map((t) => Math.max(Math.abs(t.ahead) + t.long / 2, Math.abs(t.right) + t.wide / 2))
  return { r, scale: (box.top - 24) / (2 * Math.max(far, ...things)) }
}

/** The layers of a thing: what is low is drawn first. */
const lowFirst = (placed: Placed) => Object.entries(placed).sort(([, a], [, b]) => a.above - b.above)

const says = (name: string, t: Thing) =>
  `The ${name}: ${Math.abs(t.ahead)} mm ${t.ahead < 0 ? 'behind' : 'ahead of'} the middle, ${Math.abs(t.right)} mm ${t.right < 0 ? 'left' : 'right'} of it, ${Math.abs(t.above)} mm ${t.above < 0 ? 'below' : 'above'} the motors`

function Box(props: { name: string; thing: Thing; x: number; y: number; w: number; h: number; scale: number; high: boolean; hands: Hands; dashed?: boolean }) {
  const { name, thing, hands, high } = props
  const on = hands.chosen === name
  const w = Math.max(5, props.w)
  const h = Math.max(5, props.h)
  return (
    // Moved by pointer and by arrow keys; what it does is told beside the drawing.
    // biome-ignore lint/a11y/useSemanticElements: a button cannot stand in a drawing
    <g
      role="button"
      tabIndex={0}
      aria-pressed={on}
      aria-label={says(name, thing)}
      className="cursor-move touch-none outline-none [&:focus-visible>rect]:stroke-ink [&:focus-visible>rect]:stroke-3"
      onFocus={() => hands.onChoose(name)}
      onKeyDown={hands.keys(name, high)}
      onPointerDown={(e) => hands.hold(name, high, mmPer(e, props.scale))(e)}
      onPointerMove={hands.moved}
      onPointerUp={hands.letGo}
      onPointerCancel={hands.letGo}
    >
      <rect
        x={props.x - w / 2}
        y={props.y - h / 2}
        width={w}
        height={h}
        rx="2"
        fill={on ? 'var(--act-bg)' : 'var(--panel)'}
        fillOpacity={on ? 0.95 : 0.82}
        stroke={on ? 'var(--act)' : 'var(--soft)'}
        strokeWidth={on ? 2.4 : 1.3}
        strokeDasharray={props.dashed ? '4 3' : undefined}
      />
      <title>{name}</title>
      {(w > 7.2 * name.length || on) && (
        <text
          x={props.x}
          y={h > 15 || !on ? props.y + 4 : props.y - h / 2 - 4}
          textAnchor="middle"
          fontSize="12.5"
          style={{ fill: on ? 'var(--act)' : 'var(--soft)' }}
        >
          {name}
        </text>
      )}
    </g>
  )
}

/** Every thing in its place, from above or, `high`, from the side. */
function Things(props: { placed: Placed; scale: number; high?: boolean; at: (t: Thing) => [number, number]; hands: Hands }) {
  const { scale, high = false, hands } = props
  return lowFirst(props.placed).map(([name, thing]) => {
    const [x, y] = props.at(thing)
    const [w, h] = high ? [thing.long, thing.high] : [thing.wide, thing.long]
    return <Box key={name} name={name} thing={thing} x={x} y={y} w={w * scale} h={h * scale} scale={scale} high={high} hands={hands} dashed={thing.protects} />
  })
}

/** A cross in a circle where the weight lies; a measured one is filled. */
function Centre({ x, y, measured }: { x: number; y: number; measured?: boolean }) {
  return (
    <g aria-hidden className="pointer-events-none">
      <circle cx={x} cy={y} r="8" fill="var(--panel)" stroke="var(--ink)" strokeWidth="1.6" strokeDasharray={measured ? undefined : '3 2'} />
      <path d={`M${x} ${y}v-8a8 8 0 0 1 8 8zM${x} ${y}v8a8 8 0 0 1 -8 -8z`} fill="var(--ink)" opacity={measured ? 1 : 0.45} />
    </g>
  )
}

const near = (g: Gap, least: number) => g.gap < 2.2 * least
const colour = (g: Gap, least: number) => (g.gap <= 0 ? 'var(--stop)' : g.gap < least ? 'var(--fix)' : 'var(--soft)')

/** From above, its front up: circles of the propellers, what sits on it, where it balances and what each motor carries. */
export function FromAbove(props: Props) {
  const { view, placed, hands } = props
  const { r, scale } = scaleOf(props)
  const cx = box.w / 2
  const cy = box.top / 2
  const at = (ahead: number, right: number): [number, number] => [cx + right * scale, cy - ahead * scale]
  const centre = view.measured ?? view.centre
  const t = view.tilted
  const close = view.gaps.filter((g) => near(g, view.least))
  const closest = [...close].sort((a, b) => a.gap - b.gap)[0]
  const tips = view.gaps.filter((g) => g.other).sort((a, b) => a.gap - b.gap)[0]
  return (
    // biome-ignore lint/a11y/useSemanticElements: it holds buttons, and is a drawing
    <svg viewBox={`0 0 ${box.w} ${box.top}`} className="min-h-0 w-full flex-[2.7]" role="group" aria-label={summary(view)}>
      {view.spots.map(([a, b], i) => {
        const [x, y] = at(a, b)
        return <path key={corners[i]} d={`M${cx} ${cy}L${x} ${y}`} stroke="var(--line)" strokeWidth={Math.max(5, 11 * scale)} strokeLinecap="round" />
      })}
      {view.spots.map(([a, b], i) => {
        const [x, y] = at(a, b)
        const hardest = t && i === t.hardest && (t.share[i] ?? 0) > 26
        const out = b === 0 ? 0 : Math.sign(b)
        return (
          <g key={corners[i]}>
            <circle cx={x} cy={y} r={r * scale} fill="none" stroke="var(--soft)" strokeWidth="1.2" />
            <circle cx={x} cy={y} r={Math.max(4, 14 * scale)} fill="var(--ink)" />
            {t && (
              <text
                x={x + out * 40}
                y={y - 6}
                textAnchor="middle"
                fontSize="15"
                fontWeight={hardest ? 700 : 500}
                style={{ fill: hardest ? 'var(--fix)' : 'var(--ink)' }}
              >
                {(t.share[i] ?? 0).toFixed(0)} %
                <tspan x={x + out * 40} dy="16" fontSize="12.5" fontWeight="400" style={{ fill: 'var(--soft)' }}>
                  {(t.current[i] ?? 0).toFixed(1)} A
                </tspan>
              </text>
            )}
          </g>
        )
      })}
      <text x={cx} y="12" textAnchor="middle" fontSize="12" style={{ fill: 'var(--soft)' }}>
        front
      </text>
      <Things placed={placed} scale={scale} at={(t) => at(t.ahead, t.right)} hands={hands} />
      {tips && !close.includes(tips) && <GapMark g={tips} least={view.least} at={at} />}
      {close.map((g) => (
        <GapMark
          key={g.corner + (g.thing ?? '') + (g.other ?? '')}
          g={g}
          least={view.least}
          at={at}
          quiet={g.gap >= view.least && g.thing !== hands.chosen && g !== closest}
        />
      ))}
      {centre && <Centre x={at(centre.ahead, centre.right)[0]} y={at(centre.ahead, centre.right)[1]} measured={Boolean(view.measured)} />}
    </svg>
  )
}

function GapMark({ g, least, at, quiet }: { g: Gap; least: number; at: (ahead: number, right: number) => [number, number]; quiet?: boolean }) {
  const [ax, ay] = at(g.from[0], g.from[1])
  const [bx, by] = at(g.to[0], g.to[1])
  const words = g.gap <= 0 ? `cuts ${(-g.gap).toFixed(0)} mm` : `${g.gap.toFixed(g.gap < 10 ? 1 : 0)} mm`
  return (
    <g className="pointer-events-none">
      <path d={`M${ax} ${ay}L${bx} ${by}`} stroke={colour(g, least)} strokeWidth="2.2" />
      <circle cx={ax} cy={ay} r="2.4" fill={colour(g, least)} />
      <circle cx={bx} cy={by} r="2.4" fill={colour(g, least)} />
      {!quiet && (
        <text
          x={(ax + bx) / 2 + (Math.abs(bx - ax) > Math.abs(by - ay) ? 0 : 5)}
          y={(ay + by) / 2 - 5}
          fontSize="12.5"
          textAnchor={Math.abs(bx - ax) > Math.abs(by - ay) ? 'middle' : 'start'}
          stroke="var(--paper)"
          strokeWidth="3"
          paintOrder="stroke"
          style={{ fill: colour(g, least) }}
        >
          {words}
        </text>
      )}
    </g>
  )
}

/** From its right side, its front to the right: how high things sit, and what the camera sees. */
export function FromTheSide(props: Props) {
  const { quad, view, placed, hands } = props
  const { r, scale } = scaleOf(props)
  const legs = quad.meant.parts.frame.legHeight
  const tops = Math.max(20, ...Object.values(placed).map((t) => t.above + t.high / 2))
  const low = Math.max(legs, 12, ...Object.values(placed).map((t) => t.high / 2 - t.above))
  const per = Math.min(scale, (box.side - 14) / (tops + low))
  const cx = box.w / 2
  const plane = 7 + tops * per
  const at = (ahead: number, above: number): [number, number] => [cx + ahead * per, plane - above * per]
  const [, ground] = at(0, -low)
  const centre = view.measured ?? view.centre
  const ahead = [...new Set(view.spots.map(([a]) => a))]
  const camera = placed.camera
  const cam = view.camera
  return (
    // biome-ignore lint/a11y/useSemanticElements: it holds buttons, and is a drawing
    <svg
      viewBox={`0 0 ${box.w} ${box.side}`}
      className="min-h-0 w-full flex-1"
      role="group"
      aria-label={`From its right side, its front to the right. ${cameraWords(view)}`}
    >
      {legs > 0 && <path d={`M8 ${ground}H${box.w - 8}`} stroke="var(--line)" strokeWidth="2" />}
      {ahead.map((a) => {
        const [x] = at(a, 0)
        return (
          <g key={a}>
            <path d={`M${x - r * per} ${plane}H${x + r * per}`} stroke="var(--soft)" strokeWidth="2.4" strokeLinecap="round" />
            <path d={`M${x} ${plane}V${plane + Math.max(3, Math.min(20, legs)) * per}`} stroke="var(--ink)" strokeWidth={Math.max(4, 18 * per)} />
            {legs > 0 && <path d={`M${x} ${plane}V${ground}`} stroke="var(--line)" strokeWidth="3" />}
          </g>
        )
      })}
      <path
        d={`M${at(-Math.max(...ahead), 0)[0]} ${at(0, -Math.min(22, legs || 22))[1]}H${at(Math.max(...ahead), 0)[0]}`}
        stroke="var(--line)"
        strokeWidth="4"
      />
      {camera && cam && <Looks from={at(camera.ahead + camera.long / 2, camera.above)} tilt={cam.tilt} view={cam.view} />}
      <Things placed={placed} scale={per} high at={(t) => at(t.ahead, t.above)} hands={hands} />
      {centre && <Centre x={at(centre.ahead, 0)[0]} y={plane} measured={Boolean(view.measured)} />}
      <text x={box.w - 8} y={plane - 6} textAnchor="end" fontSize="12" style={{ fill: 'var(--soft)' }}>
        front
      </text>
    </svg>
  )
}

/** What the camera sees from top to bottom, and where it looks. */
function Looks({ from, tilt, view }: { from: [number, number]; tilt: number; view: number }) {
  const far = 120
  const to = (angle: number): [number, number] => {
    const rad = (angle * Math.PI) / 180
    return [from[0] + far * Math.cos(rad), from[1] - far * Math.sin(rad)]
  }
  return (
    <g className="pointer-events-none">
      {view > 0 && <path d={`M${from}L${to(tilt + view / 2)}L${to(tilt - view / 2)}Z`} fill="var(--act)" fillOpacity="0.1" />}
      <path d={`M${from}L${to(tilt)}`} stroke="var(--act)" strokeDasharray="5 4" />
    </g>
  )
}

function summary(view: View) {
  const gaps = view.gaps
    .filter((g) => near(g, view.least))
    .map(
      (g) => `${g.thing ?? 'neighbouring tips'} ${g.gap.toFixed(1)} mm from the propeller ${cornerWords[g.corner as keyof typeof cornerWords].toLowerCase()}`,
    )
  const t = view.tilted
  const loads = t
    ? `Carried: ${corners.map((c, i) => `${cornerWords[c].toLowerCase()} ${(t.share[i] ?? 0).toFixed(0)} %`).join(', ')}.`
    : 'Nobody told where it balances.'
  return `From above, its front up. ${loads} ${gaps.length ? `Close: ${gaps.join('; ')}.` : ''}`
}

/** What the camera's tilt is good for, in words; nothing where none is told. */
export function cameraWords(view: View) {
  const c = view.camera
  if (!c) return ''
  const level = c.speed > 0 ? `The horizon lies level in the picture at ${c.speed.toFixed(0)} m/s (${(3.6 * c.speed).toFixed(0)} km/h) of level flight.` : ''
  const h = c.horizon
  if (!h) return `The camera looks up by ${c.tilt}°. ${level}`
  const where = h.hover <= -1 ? 'out of the picture, below it' : `${Math.round(50 * (1 + h.hover))} % of the way up the picture`
  const ground = h.nearest > 0 ? `two metres up the nearest ground it shows is ${h.nearest.toFixed(1)} m ahead` : 'it shows no ground at all'
  return `The camera looks up by ${c.tilt}°. ${level} In a hover the horizon is ${where}; ${ground}.`
}
