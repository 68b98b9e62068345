import { useRef } from 'react'
import { upper } from '../../kit/text'
import type { Schemas } from '../../wire/client'
import { marksTo, Plot, placesIn, through, usualBox } from './plot'
import type { Axis, Drawn } from './stick'

const box = { ...usualBox, h: 310, bottom: 62 }
const handleWords = { centre: 'How it begins', shape: 'Half way out', peak: 'Full stick' } as const
const dashes: Record<Axis, string> = { roll: '', pitch: '7 4', yaw: '2 4' }

type Props = {
  view: Schemas['CurvesOf']
  axis: Axis
  frozen: boolean
  /** A handle is drawn to another rotation, until it is let go of. */
  onDraw: (to: Drawn) => void
  onLetGo: () => void
  /** A handle is moved by a key, from where it is or from where the keys before have already sent it. */
  onStep: (from: Drawn, by: number) => void
}

/** The curve of one axis over the thumb's way from the centre to the stop, to be bent by three handles; the other two beside it, thin. */
export function Curves({ view: v, axis, frozen, onDraw, onLetGo, onStep }: Props) {
  const svg = useRef<SVGSVGElement>(null)
  const top = Math.max(100, v.most) * 1.12
  const across = { low: 0, high: 100, marks: [20, 40, 60, 80, 100], words: 'the thumb’s way from the centre, %' }
  const up = { low: 0, high: top, marks: marksTo(top), words: '°/s' }
  const places = placesIn(box, across, up)
  const ways = (n: number) => Array.from({ length: n }, (_, i) => (i / (n - 1)) * 100)
  const one = v.axes.find((a) => a.axis === axis)
  return (
    <Plot box={box} across={across} up={up} svg={svg} group label={`Curve of ${axis}: ${one?.points.at(-1)?.toFixed(0)} °/s at full stick`}>
      {v.axes
        .filter((a) => a.axis !== axis)
        .map((a) => (
          <g key={a.axis}>
            <path d={through(places, ways(a.points.length), a.points)} fill="none" stroke="var(--faint)" strokeWidth="1.2" strokeDasharray={dashes[a.axis]} />
          </g>
        ))}
      {one && one.ghost.length > 0 && (
        <path d={through(places, ways(one.ghost.length), one.ghost)} fill="none" stroke="var(--soft)" strokeWidth="2" strokeDasharray="6 5" />
      )}
      {one && <path d={through(places, ways(one.points.length), one.points)} fill="none" stroke="var(--act)" strokeWidth="3" />}
      {one?.handles.map((h) => (
        <g key={h.handle}>
          <Thumb x={places.x(h.stick * 100)} lean={h.stick} />
          {!frozen && (
            <g
              role="slider"
              tabIndex={0}
              aria-label={`${upper(axis)}: ${handleWords[h.handle].toLowerCase()}, °/s`}
              aria-valuenow={Math.round(h.rate)}
              aria-valuemin={0}
              aria-valuemax={2000}
              aria-orientation="vertical"
              className="cursor-ns-resize outline-none [&:focus-visible>circle]:stroke-[4]"
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId)
              }}
              onPointerMove={(e) => {
                if (e.buttons === 0 || !svg.current) return
                const at = places.at(svg.current, e)
                onDraw({ axis, handle: h.handle, rate: Math.round(at.up) })
              }}
              onPointerUp={onLetGo}
              onPointerCancel={onLetGo}
              onKeyDown={(e) => {
                const by = { ArrowUp: 5, ArrowRight: 5, ArrowDown: -5, ArrowLeft: -5, PageUp: 50, PageDown: -50 }[e.key]
                if (by === undefined) return
                e.preventDefault()
                onStep({ axis, handle: h.handle, rate: Math.round(h.rate) }, by)
              }}
            >
              <circle cx={places.x(h.stick * 100)} cy={places.y(h.rate)} r="18" fill="transparent" />
              <circle cx={places.x(h.stick * 100)} cy={places.y(h.rate)} r="8" fill="var(--panel)" stroke="var(--act)" strokeWidth="2.5" />
            </g>
          )}
          <text
            x={places.x(h.stick * 100) + (h.handle === 'peak' ? -14 : 14)}
            y={places.y(h.rate) + (h.handle === 'peak' ? -12 : 18)}
            textAnchor={h.handle === 'peak' ? 'end' : 'start'}
            fontSize="13.5"
            fontWeight="600"
            stroke="var(--panel)"
            strokeWidth="3"
            paintOrder="stroke"
            style={{ fill: 'var(--ink)' }}
          >
            {h.rate.toFixed(0)} °/s
          </text>
        </g>
      ))}
      {v.axes.map((a, i) => (
        <g key={a.axis} transform={`translate(${box.left + 12} ${box.top + 14 + i * 17})`}>
          <path
            d="M0 -4h26"
            stroke={a.axis === axis ? 'var(--act)' : 'var(--faint)'}
            strokeWidth={a.axis === axis ? 3 : 1.2}
            strokeDasharray={a.axis === axis ? '' : dashes[a.axis]}
          />
          <text x="33" fontSize="13" style={{ fill: a.axis === axis ? 'var(--ink)' : 'var(--soft)' }}>
            {upper(a.axis)}
          </text>
        </g>
      ))}
    </Plot>
  )
}

/** A stick seen from the side, leaning as far as its place on the way. */
function Thumb({ x, lean }: { x: number; lean: number }) {
  return (
    <g transform={`translate(${Math.min(x, box.w - 22)} ${box.h - 22})`}>
      <path d="M-7 0a7 7 0 0 1 14 0z" fill="var(--sunk)" stroke="var(--soft)" />
      <path d="M0 -2V-16" stroke="var(--ink)" strokeWidth="2.2" strokeLinecap="round" transform={`rotate(${lean * 34})`} />
    </g>
  )
}
