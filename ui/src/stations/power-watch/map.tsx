import { useRef } from 'react'
import type { Schemas } from '../../wire/client'

const box = { w: 330, h: 190, left: 40, right: 8, top: 8, bottom: 30 }

type At = { perCell: number; delay: number }
type Props = { map: Schemas['AlarmMap']; leave: number; at: At; advised?: At; onMove: (at: At) => void }

/** Every alarm on this flight: how much it leaves by its shade, false ones by a cross, those that leave too little or say nothing left bare. A point on it is dragged. */
export function AlarmMapDrawn({ map: m, leave, at, advised, onMove }: Props) {
  const svg = useRef<SVGSVGElement>(null)
  const wide = (box.w - box.left - box.right) / m.delays.length
  const high = (box.h - box.top - box.bottom) / m.thresholds.length
  const lowest = m.thresholds[0] ?? 0
  const step = (m.thresholds[1] ?? 1) - lowest
  const pace = (m.delays[1] ?? 1) - (m.delays[0] ?? 0)
  const x = (delay: number) => box.left + (delay / pace + 0.5) * wide
  const y = (volts: number) => box.h - box.bottom - ((volts - lowest) / step + 0.5) * high
  const most = Math.max(leave, ...m.seconds.flat())
  const move = (e: React.PointerEvent) => {
    const r = svg.current?.getBoundingClientRect()
    if (!r) return
    const i = Math.floor((box.h - box.bottom - ((e.clientY - r.top) / r.height) * box.h) / high)
    const j = Math.floor((((e.clientX - r.left) / r.width) * box.w - box.left) / wide)
    const perCell = m.thresholds[Math.max(0, Math.min(m.thresholds.length - 1, i))]
    const delay = m.delays[Math.max(0, Math.min(m.delays.length - 1, j))]
    if (perCell !== undefined && delay !== undefined) onMove({ perCell, delay })
  }
  const row = Math.round((at.perCell - lowest) / step)
  const column = Math.round(at.delay / pace)
  const left = m.seconds[row]?.[column] ?? -1
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${box.w} ${box.h}`}
      className="w-full cursor-crosshair touch-none select-none"
      role="img"
      aria-label={`Every threshold and delay on this flight. Where the alarm is: ${m.false[row]?.[column] ?? 0} false, ${left < 0 ? 'never a true one' : `${left.toFixed(0)} s left`}`}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        move(e)
      }}
      onPointerMove={(e) => e.buttons > 0 && move(e)}
    >
      <rect x={box.left} y={box.top} width={box.w - box.left - box.right} height={box.h - box.top - box.bottom} fill="var(--sunk)" />
      {m.thresholds.map((v, i) =>
        m.delays.map((d, j) => {
          const s = m.seconds[i]?.[j] ?? -1
          const falses = m.false[i]?.[j] ?? 0
          const cx = box.left + j * wide
          const cy = box.h - box.bottom - (i + 1) * high
          return (
            <g key={`${v} ${d}`}>
              {s >= leave && (
                <rect
                  x={cx}
                  y={cy}
                  width={wide + 0.3}
                  height={high + 0.3}
                  fill="var(--act)"
                  fillOpacity={0.75 - 0.6 * ((s - leave) / Math.max(1, most - leave))}
                />
              )}
              {s >= 0 && s < leave && <rect x={cx} y={cy} width={wide + 0.3} height={high + 0.3} fill="var(--fix)" fillOpacity="0.28" />}
              {falses > 0 && <path d={`M${cx + 2} ${cy + 1}L${cx + wide - 2} ${cy + high - 1}`} stroke="var(--fix)" strokeWidth="1.1" />}
            </g>
          )
        }),
      )}
      {[3.2, 3.4, 3.6, 3.8].map((v) => (
        <text key={v} x={box.left - 5} y={y(v) + 4} textAnchor="end" fontSize="11.5" style={{ fill: 'var(--soft)' }}>
          {v.toFixed(1)}
        </text>
      ))}
      {[0, 2, 4, 6, 8, 10].map((d) => (
        <text key={d} x={x(d)} y={box.h - box.bottom + 14} textAnchor="middle" fontSize="11.5" style={{ fill: 'var(--soft)' }}>
          {d}
        </text>
      ))}
      <text x={box.w - box.right} y={box.h - 2} textAnchor="end" fontSize="11.5" style={{ fill: 'var(--soft)' }}>
        threshold, V a cell, over delay, s
      </text>
      {advised && <circle cx={x(advised.delay)} cy={y(advised.perCell)} r="7" fill="none" stroke="var(--ok)" strokeWidth="2.2" strokeDasharray="3 2" />}
      <circle cx={x(at.delay)} cy={y(at.perCell)} r="5.5" fill="var(--panel)" stroke="var(--ink)" strokeWidth="2.4" />
    </svg>
  )
}
