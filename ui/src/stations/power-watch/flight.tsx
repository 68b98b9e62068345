import { useRef } from 'react'
import type { Schemas } from '../../wire/client'
import type { AlarmView } from '../../wire/powerwatch'
import { clock } from './clock'

const box = { w: 560, h: 256, left: 44, right: 12, top: 12, bottom: 38 }

type Props = { view: AlarmView; replayed?: Schemas['Replayed']; perCell: number; land: number; onPerCell: (volts: number) => void }

/** Volts of a cell over a flight, the threshold to be drawn up and down over it, and where the alarm would have sounded. */
export function FlightDrawn({ view: v, replayed, perCell, land, onPerCell }: Props) {
  const svg = useRef<SVGSVGElement>(null)
  const volts = v.flight.map((s) => s.volts / v.cells)
  const high = Math.max(4.25, ...volts)
  const low = Math.min(3, ...volts)
  const x = (t: number) => box.left + (t / v.lasts) * (box.w - box.left - box.right)
  const y = (u: number) => box.top + ((high - u) / (high - low)) * (box.h - box.top - box.bottom)
  const move = (e: React.PointerEvent) => {
    const r = svg.current?.getBoundingClientRect()
    if (!r) return
    const at = ((e.clientY - r.top) / r.height) * box.h
    const u = high - ((at - box.top) / (box.h - box.top - box.bottom)) * (high - low)
    onPerCell(Math.round(Math.max(3.2, Math.min(3.9, u)) * 50) / 50)
  }
  const rings = replayed?.rings ?? []
  const steps = Array.from({ length: Math.floor((high - low) / 0.2) + 1 }, (_, i) => Math.ceil(low * 5) / 5 + i * 0.2).filter((u) => u <= high)
  const minutes = Array.from({ length: Math.floor(v.lasts / 60) + 1 }, (_, i) => i)
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${box.w} ${box.h}`}
      className="w-full touch-none select-none"
      role="img"
      aria-label={`A cell over ${clock(v.lasts)} of flight; the alarm sounds ${rings.length} times`}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        move(e)
      }}
      onPointerMove={(e) => e.buttons > 0 && move(e)}
    >
      {steps.map((u) => (
        <g key={u.toFixed(1)}>
          <path d={`M${box.left} ${y(u)}H${box.w - box.right}`} stroke="var(--line)" />
          <text x={box.left - 6} y={y(u) + 4} textAnchor="end" fontSize="12" style={{ fill: 'var(--soft)' }}>
            {u.toFixed(1)}
          </text>
        </g>
      ))}
      {minutes.map((m) => (
        <text key={m} x={x(60 * m)} y={box.h - box.bottom + 16} textAnchor="middle" fontSize="12" style={{ fill: 'var(--soft)' }}>
          {m}
        </text>
      ))}
      <text x={box.w - box.right} y={box.h - 4} textAnchor="end" fontSize="12" style={{ fill: 'var(--soft)' }}>
        minutes of flight; V a cell
      </text>
      <path
        d={`M${v.flight.map((s, i) => `${x(s.time).toFixed(1)} ${y(volts[i] ?? 0).toFixed(1)}`).join('L')}`}
        fill="none"
        stroke="var(--wire)"
        strokeWidth="1.3"
      />
      {land > low && (
        <>
          <path d={`M${box.left} ${y(land)}H${box.w - box.right}`} stroke="var(--stop)" strokeWidth="1.5" strokeDasharray="3 4" />
          <text x={box.left + 6} y={y(land) - 5} fontSize="12.5" style={{ fill: 'var(--stop)' }}>
            land, {land.toFixed(2)} V
          </text>
        </>
      )}
      {!v.ended && <path d={`M${x(v.downBy)} ${box.top}V${box.h - box.bottom}`} stroke="var(--stop)" strokeWidth="1.5" />}
      <path d={`M${box.left} ${y(perCell)}H${box.w - box.right}`} stroke="var(--act)" strokeWidth="2" className="cursor-ns-resize" />
      <text
        x={box.left + 6}
        y={y(perCell) - 6}
        fontSize="13"
        fontWeight="600"
        stroke="var(--paper)"
        strokeWidth="3"
        paintOrder="stroke"
        style={{ fill: 'var(--act)' }}
      >
        warns below {perCell.toFixed(2)} V
      </text>
      {rings.map((r) => (
        <g key={r.at}>
          <circle
            cx={x(r.at)}
            cy={y(perCell)}
            r="6"
            fill={r.false ? 'var(--paper)' : 'var(--act)'}
            stroke={r.false ? 'var(--fix)' : 'var(--act)'}
            strokeWidth="2.2"
          />
          {r.false && <path d={`M${x(r.at) - 4} ${y(perCell) - 4}l8 8m0 -8l-8 8`} stroke="var(--fix)" strokeWidth="1.6" />}
        </g>
      ))}
    </svg>
  )
}
