import { type KeyboardEvent, type PointerEvent, useRef } from 'react'
import type { Schemas } from '../../wire/client'
import { type Axis, axes, type Goals } from './axes'

type Found = Schemas['Found']
type Props = { found: Schemas['Choices']; across: Axis; up: Axis; goals: Goals; onGoal: (axis: Axis, goal: number) => void; onOpen: (f: Found) => void }

const box = { w: 470, h: 300, left: 52, right: 14, top: 12, bottom: 40 }

/** A scale from a little under the least to a little over the most, with round marks. */
function scaleOf(list: Found[], axis: Axis, goal: number) {
  const all = list.map((f) => f[axis])
  const least = Math.min(...all, goal || Number.POSITIVE_INFINITY)
  const most = Math.max(...all, goal)
  const room = 0.06 * (most - least || 1)
  const low = Math.max(0, least - room)
  const high = most + room
  const raw = (high - low) / 5
  const by = 10 ** Math.floor(Math.log10(raw))
  const step = [1, 2, 5, 10].map((m) => m * by).find((s) => s >= raw) ?? by
  const marks = Array.from({ length: 8 }, (_, i) => Number(((Math.ceil(low / step) + i) * step).toPrecision(6))).filter((m) => m <= high)
  return { low, high, marks, step }
}

/** All that could be on it as dots, those that none beats as rings; goals are lines, drawn by pointer or moved by keys. */
export function Front({ found, across, up, goals, onGoal, onOpen }: Props) {
  const svg = useRef<SVGSVGElement>(null)
  const held = useRef<Axis | null>(null)
  const list = [...found.others, ...found.front, ...(found.is ? [found.is] : [])]
  if (list.length === 0) return null
  const sx = scaleOf(list, across, goals[across])
  const sy = scaleOf(list, up, goals[up])
  const inner = { w: box.w - box.left - box.right, h: box.h - box.top - box.bottom }
  const x = (f: number) => box.left + ((f - sx.low) / (sx.high - sx.low)) * inner.w
  const y = (f: number) => box.h - box.bottom - ((f - sy.low) / (sy.high - sy.low)) * inner.h
  const [ax, ay] = [axes.find((a) => a.key === across), axes.find((a) => a.key === up)]
  const fine = (axis: Axis, value: number) => (axis === 'mass' ? Math.round(value) : Math.round(10 * value) / 10)
  const at = (e: PointerEvent) => {
    const b = svg.current?.getBoundingClientRect()
    if (!b) return { px: 0, py: 0 }
    return { px: ((e.clientX - b.left) / b.width) * box.w, py: ((e.clientY - b.top) / b.height) * box.h }
  }
  const pull = (e: PointerEvent) => {
    if (!held.current) return
    const { px, py } = at(e)
    if (held.current === across) onGoal(across, fine(across, sx.low + ((px - box.left) / inner.w) * (sx.high - sx.low)))
    else onGoal(up, fine(up, sy.low + ((box.h - box.bottom - py) / inner.h) * (sy.high - sy.low)))
  }
  const keys = (axis: Axis, step: number) => (e: KeyboardEvent) => {
    const way = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[e.key]
    if (!way) return
    e.preventDefault()
    e.stopPropagation()
    const scale = axis === across ? sx : sy
    onGoal(axis, fine(axis, (goals[axis] || (scale.low + scale.high) / 2) + (way * step) / 5))
  }
  const wished = Object.values(goals).some((g) => g > 0)
  const meets = found.front.filter((f) => f.meets).length
  return (
    // biome-ignore lint/a11y/useSemanticElements: it holds buttons, and is a drawing
    <svg
      ref={svg}
      viewBox={`0 0 ${box.w} ${box.h}`}
      className="w-full touch-none"
      role="group"
      aria-label={`${ay?.words} over ${ax?.words}: ${found.fronts} that none beats, ${meets} of the ones told meet the wish`}
      onPointerMove={pull}
      onPointerUp={() => {
        held.current = null
      }}
    >
      {sy.marks.map((m) => (
        <g key={m}>
          <path d={`M${box.left} ${y(m)}H${box.w - box.right}`} stroke="var(--line)" />
          <text x={box.left - 14} y={y(m) + 4} textAnchor="end" fontSize="12" style={{ fill: 'var(--soft)' }}>
            {m}
          </text>
        </g>
      ))}
      {sx.marks.map((m) => (
        <text key={m} x={x(m)} y={box.h - box.bottom + 16} textAnchor="middle" fontSize="12" style={{ fill: 'var(--soft)' }}>
          {m}
        </text>
      ))}
      <text x={box.w - box.right} y={box.h - 6} textAnchor="end" fontSize="12.5" style={{ fill: 'var(--soft)' }}>
        {ax?.words}, {ax?.unit}
      </text>
      <text x={box.left + 4} y={box.top + 10} fontSize="12.5" style={{ fill: 'var(--soft)' }}>
        {ay?.words}, {ay?.unit}
      </text>
      <Goal axis={across} value={goals[across]} upright at={x} inner={inner} less={Boolean(ax?.less)} />
      <Goal axis={up} value={goals[up]} at={y} inner={inner} less={Boolean(ay?.less)} />
      {found.others.map((f) => (
        <circle key={f.motor + f.propeller + f.pack} cx={x(f[across])} cy={y(f[up])} r="2" fill="var(--faint)" opacity="0.5" />
      ))}
      {found.front.map((f) => (
        // biome-ignore lint/a11y/useSemanticElements: a button cannot stand in a drawing
        <g
          key={f.motor + f.propeller + f.pack}
          role="button"
          tabIndex={-1}
          aria-label={`Try ${f.motor}, ${f.propeller}, ${f.pack}`}
          className="cursor-pointer"
          onClick={() => onOpen(f)}
          onKeyDown={(e) => e.key === 'Enter' && onOpen(f)}
        >
          <title>{`${f.motor}, ${f.propeller}, ${f.pack}`}</title>
          <circle cx={x(f[across])} cy={y(f[up])} r="9" fill="transparent" />
          <circle
            cx={x(f[across])}
            cy={y(f[up])}
            r="4.5"
            fill={wished && f.meets ? 'var(--ok)' : 'var(--panel)'}
            stroke={wished && f.meets ? 'var(--ok)' : 'var(--act)'}
            strokeWidth="2"
          />
        </g>
      ))}
      {found.is && (
        <g className="pointer-events-none">
          <path d={`M${x(found.is[across]) - 7} ${y(found.is[up])}h14m-7 -7v14`} stroke="var(--ink)" strokeWidth="2.4" />
          <text x={x(found.is[across]) + 9} y={y(found.is[up]) - 6} fontSize="12.5" fontWeight="600" stroke="var(--paper)" strokeWidth="3" paintOrder="stroke">
            now
          </text>
        </g>
      )}
      {(
        [
          [across, ax?.words, sx],
          [up, ay?.words, sy],
        ] as const
      ).map(([axis, words, s]) => {
        const upright = axis === across
        const value = goals[axis]
        const from = value || (upright ? s.high : s.low)
        const [hx, hy] = upright ? [x(Math.min(from, s.high)), box.h - box.bottom] : [box.left, y(Math.min(from, s.high))]
        return (
          <g
            key={axis}
            role="slider"
            tabIndex={0}
            aria-label={`Goal: ${words}`}
            aria-valuemin={Math.round(s.low)}
            aria-valuemax={Math.round(s.high)}
            aria-valuenow={value || Math.round(from)}
            aria-valuetext={value ? `${value}` : 'no goal'}
            className={`${upright ? 'cursor-ew-resize' : 'cursor-ns-resize'} outline-none [&:focus-visible>path]:stroke-ink [&:focus-visible>path]:stroke-3`}
            onKeyDown={keys(axis, s.step)}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId)
              held.current = axis
            }}
          >
            <circle cx={hx} cy={hy} r="14" fill="transparent" />
            <path
              d={upright ? `M${hx} ${hy - 9}l7 9v8h-14v-8z` : `M${hx + 9} ${hy}l-9 7h-8v-14h8z`}
              fill={value ? 'var(--act)' : 'var(--panel)'}
              stroke="var(--act)"
              strokeWidth="1.6"
            />
          </g>
        )
      })}
    </svg>
  )
}

/** The line of a goal, and the side that does not meet it shaded. */
function Goal({
  value,
  upright,
  at,
  inner,
  less,
}: {
  axis: Axis
  value: number
  upright?: boolean
  at: (f: number) => number
  inner: { w: number; h: number }
  less: boolean
}) {
  if (!value) return null
  const p = at(value)
  const [left, right, top, bottom] = [box.left, box.left + inner.w, box.top, box.top + inner.h]
  // Upright a goal of at most leaves what is right of it, lying down what is above.
  const shade = upright
    ? less
      ? { x: p, y: top, width: Math.max(0, right - p), height: inner.h }
      : { x: left, y: top, width: Math.max(0, p - left), height: inner.h }
    : less
      ? { x: left, y: top, width: inner.w, height: Math.max(0, p - top) }
      : { x: left, y: p, width: inner.w, height: Math.max(0, bottom - p) }
  return (
    <g className="pointer-events-none">
      <rect {...shade} fill="var(--soft)" fillOpacity="0.12" />
      <path d={upright ? `M${p} ${top}V${bottom}` : `M${left} ${p}H${right}`} stroke="var(--act)" strokeWidth="1.8" strokeDasharray="7 4" />
    </g>
  )
}
