import type { ReactNode, Ref } from 'react'

export type Scale = { low: number; high: number; log?: boolean; marks: number[]; words: string; shown?: (x: number) => string }
export type Box = { w: number; h: number; left: number; right: number; top: number; bottom: number }

export const usualBox: Box = { w: 500, h: 290, left: 44, right: 14, top: 12, bottom: 38 }

const share = (s: Scale, x: number) => (s.log ? Math.log(x / s.low) / Math.log(s.high / s.low) : (x - s.low) / (s.high - s.low))

/** Where a value lies in a picture, and what lies at a place of it. */
export function placesIn(box: Box, across: Scale, up: Scale) {
  const wide = box.w - box.left - box.right
  const high = box.h - box.top - box.bottom
  return {
    x: (v: number) => box.left + share(across, v) * wide,
    y: (v: number) => box.top + (1 - share(up, v)) * high,
    at: (svg: SVGSVGElement, e: { clientX: number; clientY: number }) => {
      const r = svg.getBoundingClientRect()
      const px = ((e.clientX - r.left) / r.width) * box.w
      const py = ((e.clientY - r.top) / r.height) * box.h
      return { across: across.low + ((px - box.left) / wide) * (across.high - across.low), up: up.low + (1 - (py - box.top) / high) * (up.high - up.low) }
    },
  }
}

/** A line through values at even steps across, or at places of its own. */
export function through(places: { x: (v: number) => number; y: (v: number) => number }, across: number[], values: number[]) {
  return values.map((v, i) => `${i ? 'L' : 'M'}${places.x(across[i] ?? 0).toFixed(1)} ${places.y(v).toFixed(1)}`).join('')
}

type Props = {
  box?: Box
  across: Scale
  up: Scale
  label: string
  children: ReactNode
  svg?: Ref<SVGSVGElement>
  /** Things in it can be drawn. */
  group?: boolean
}

/** The paper of a plot: hairlines, figures at them, what is drawn across and up. */
export function Plot({ box = usualBox, across, up, label, children, svg, group }: Props) {
  const places = placesIn(box, across, up)
  return (
    <svg ref={svg} viewBox={`0 0 ${box.w} ${box.h}`} className="w-full touch-none select-none" role={group ? 'group' : 'img'} aria-label={label}>
      {up.marks.map((v) => (
        <g key={v}>
          <path d={`M${box.left} ${places.y(v)}H${box.w - box.right}`} stroke="var(--line)" />
          <text x={box.left - 6} y={places.y(v) + 4} textAnchor="end" fontSize="12" style={{ fill: 'var(--soft)' }}>
            {up.shown?.(v) ?? v}
          </text>
        </g>
      ))}
      {across.marks.map((v) => (
        <g key={v}>
          <path d={`M${places.x(v)} ${box.top}V${box.h - box.bottom}`} stroke="var(--line)" strokeDasharray="2 5" />
          <text x={places.x(v)} y={box.h - box.bottom + 15} textAnchor="middle" fontSize="12" style={{ fill: 'var(--soft)' }}>
            {across.shown?.(v) ?? v}
          </text>
        </g>
      ))}
      <text x={box.w - box.right} y={box.h - 4} textAnchor="end" fontSize="12" style={{ fill: 'var(--soft)' }}>
        {across.words}; {up.words}
      </text>
      {children}
    </svg>
  )
}

/** Round marks from nothing up to a figure, about as many as wanted. */
export function marksTo(most: number, about = 5): number[] {
  const rough = most / about
  const ten = 10 ** Math.floor(Math.log10(Math.max(rough, 1e-9)))
  const step = [1, 2, 2.5, 5, 10].map((m) => m * ten).find((s) => s >= rough) ?? ten
  return Array.from({ length: Math.floor(most / step + 1e-6) + 1 }, (_, i) => Number((i * step).toPrecision(6)))
}
