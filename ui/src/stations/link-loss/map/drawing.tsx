import { type KeyboardEvent, type PointerEvent, type ReactNode, useRef, useState } from 'react'
import type { Offset, SiteMap } from '../../../wire/sites'
import { Bearings, Ground, Hatches, Line, Named, Names } from './ground'
import { path, type View } from './view'

/** What is being drawn: corners so far, and whether they will be closed. */
export type Drawing = { what: string; corners: Offset[]; closed: boolean }

type Props = {
  map: SiteMap
  view: View
  drawing: Drawing | null
  chosen: string
  line: number
  under?: ReactNode
  over?: ReactNode
  from?: number
  wind?: number
  onCorner: (p: Offset) => void
  onFinish: () => void
  onBack: () => void
  onLeave: () => void
  onChoose: (key: string) => void
  onMove: (key: string, corner: number, to: Offset) => void
}

const words = (p: Offset) => `${Math.abs(p.east)} m ${p.east < 0 ? 'west' : 'east'}, ${Math.abs(p.north)} m ${p.north < 0 ? 'south' : 'north'} of home`

/** The map as a drawing: looked at, drawn on by pointer or by keys, its corners moved. */
export function MapDrawing(props: Props) {
  const { map, view, drawing, chosen } = props
  const svg = useRef<SVGSVGElement>(null)
  const [cross, setCross] = useState<Offset>({ east: 0, north: 0 })
  const [focused, setFocused] = useState(false)
  const [moving, setMoving] = useState<{ key: string; corner: number; to: Offset } | null>(null)
  const placeOf = (e: PointerEvent): Offset => {
    const box = svg.current?.getBoundingClientRect()
    if (!box) return cross
    return view.from(((e.clientX - box.left) / box.width) * view.wide, ((e.clientY - box.top) / box.height) * view.high)
  }
  const keys = (e: KeyboardEvent) => {
    const step = e.shiftKey ? 1 : 5
    const by: Record<string, [number, number]> = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }
    const move = by[e.key]
    if (move) setCross({ east: cross.east + move[0], north: cross.north + move[1] })
    else if (e.key === ' ' && drawing) props.onCorner(cross)
    else if (e.key === 'Enter' && drawing) props.onFinish()
    else if (e.key === 'Backspace' && drawing) props.onBack()
    else if (e.key === 'Escape' && drawing) props.onLeave()
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  const corners = cornersOf(map, chosen)
  const shown = moving && moving.key === chosen ? corners.map((p, i) => (i === moving.corner ? moving.to : p)) : corners
  const [cx, cy] = view.at(cross)
  return (
    // The map is worked on as one thing; its keys are told beside it.
    <div
      role="application"
      aria-label={`The map. The cross is ${words(cross)}`}
      aria-describedby="map-keys"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it takes keys
      tabIndex={0}
      onKeyDown={keys}
      onFocus={() => setFocused(true)}
      onBlur={() => setFocused(false)}
    >
      <svg
        ref={svg}
        viewBox={`0 0 ${view.wide} ${view.high}`}
        className={`block w-full rounded-md border border-line bg-panel ${drawing ? 'cursor-crosshair' : ''}`}
        role="img"
        aria-label={`From above, north up: ${map.areas.map((a) => a.name || a.kind).join(', ') || 'nothing is drawn yet'}`}
        onPointerDown={(e) => {
          if (drawing && e.button === 0) {
            const p = placeOf(e)
            setCross(p)
            props.onCorner(p)
          }
        }}
        onPointerMove={(e) => moving && setMoving({ ...moving, to: placeOf(e) })}
        onPointerUp={() => {
          if (moving) props.onMove(moving.key, moving.corner, moving.to)
          setMoving(null)
        }}
        onDoubleClick={() => drawing && props.onFinish()}
      >
        <Hatches />
        <Ground map={map} view={view} chosen={chosen} />
        {props.under}
        {map.lines.map((l, i) =>
          i === props.line ? null : <path key={l.name} d={path(l.points, view, false)} fill="none" stroke="var(--faint)" strokeDasharray="2 4" />,
        )}
        {props.over ?? (map.lines[props.line] && <Line points={map.lines[props.line]?.points ?? []} view={view} />)}
        {shown.length > 0 && <path d={path(shown, view, chosen.startsWith('area'))} fill="none" stroke="var(--act)" strokeWidth="2" />}
        {shown.map((p, i) => {
          const [x, y] = view.at(p)
          return (
            <rect
              // biome-ignore lint/suspicious/noArrayIndexKey: corners are their order
              key={i}
              x={x - 5}
              y={y - 5}
              width="10"
              height="10"
              fill="var(--panel)"
              stroke="var(--act)"
              strokeWidth="2"
              className="cursor-move touch-none"
              onPointerDown={(e) => {
                if (drawing) return
                e.currentTarget.setPointerCapture(e.pointerId)
                setMoving({ key: chosen, corner: i, to: p })
              }}
            />
          )
        })}
        {drawing && (
          <g>
            <path
              d={path(drawing.corners, view, drawing.closed && drawing.corners.length > 2)}
              fill="var(--act)"
              fillOpacity={drawing.closed ? 0.12 : 0}
              stroke="var(--act)"
              strokeWidth="2"
            />
            {drawing.corners.map((p, i) => {
              const [x, y] = view.at(p)
              // biome-ignore lint/suspicious/noArrayIndexKey: corners are their order
              return <circle key={i} cx={x} cy={y} r="4" fill="var(--act)" />
            })}
          </g>
        )}
        {focused && (
          <g>
            <path d={`M${cx - 12} ${cy}h8m8 0h8M${cx} ${cy - 12}v8m0 8v8`} stroke="var(--act)" strokeWidth="2" />
            <Named x={cx} y={cy - 18} words={`${cross.east} ${cross.north}`} />
          </g>
        )}
        <Names map={map} view={view} />
        <Bearings view={view} from={props.from} wind={props.wind} />
      </svg>
    </div>
  )
}

/** The corners of what is chosen. */
export function cornersOf(map: SiteMap, key: string): Offset[] {
  const i = Number(key.slice(4))
  if (key.startsWith('area')) return map.areas[i]?.corners ?? []
  if (key.startsWith('line')) return map.lines[i]?.points ?? []
  return key && map.safe[i] ? [map.safe[i].at] : []
}
