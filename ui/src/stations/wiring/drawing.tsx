import { forwardRef, useEffect, useRef, useState } from 'react'
import { join } from '../../kit/join'
import type { Schemas } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { useLive } from '../../wire/live'
import { useUnits } from '../../wire/units'
import { around, boardBox, boxes, curve, type Device, dropped, height, type Pad, padSpots, pinSpot, pinsOf, type Spot, width } from './place'

type Held = { device: Device; signal: Schemas['Joint']['signal'] }

/**
 * The board with its pads, the devices around it, and every wire. A wire's end is taken up at its device, by pointer or with
 * Enter, and put on a pad.
 */
const pad = '[&_rect]:fill-panel [&_rect]:stroke-wire [&_rect]:stroke-[1.5]'
const padFree = '[&_rect]:cursor-pointer [&_rect]:fill-act-bg [&_rect]:stroke-act [&_rect]:stroke-[2.5]'

export const Drawing = forwardRef<SVGSVGElement, { quad: QuadAt<'wiring'>; onMove: (m: Omit<Schemas['MoveBody'], 'version'>) => void }>(function Drawing(
  { quad, onMove },
  ref,
) {
  const { pads, devices, leads, compasses } = quad.wiring
  const units = useUnits()
  const spots = padSpots(pads)
  const placed = boxes(devices, spots)
  const live = useLive((s) => JSON.stringify(s.live?.answers ?? null))
  const answers = JSON.parse(live) as Record<string, boolean> | null
  const powered = useLive((s) => (s.live?.pack ? 'pack' : s.live?.usb ? 'usb' : ''))
  const [held, setHeld] = useState<Held | null>(null)
  const [end, setEnd] = useState<{ x: number; y: number } | null>(null)
  const from = useRef<SVGGElement | null>(null)
  const first = useRef<SVGGElement | null>(null)
  const functions = quad.meant.sheet.wiring.ports ?? {}
  const fits = (pad: Pad) => Boolean(held && dropped(held.device, held.signal, pad))
  const put = (pad: Pad) => {
    const move = held && dropped(held.device, held.signal, pad)
    setHeld(null)
    setEnd(null)
    from.current?.focus()
    if (move) onMove(move)
  }
  const leave = () => {
    setHeld(null)
    setEnd(null)
    from.current?.focus()
  }
  useEffect(() => {
    if (held && !end) first.current?.focus()
  }, [held, end])
  const near = pads.filter(fits)
  const step = (pad: Pad, by: number) => {
    const next = near[(near.findIndex((p) => p.name === pad.name) + by + near.length) % near.length]
    if (next) document.querySelector<SVGGElement>(`[data-pad="${next.name}"]`)?.focus()
  }
  const at = (e: React.PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    const scale = Math.min(box.width / width, box.height / height)
    return { x: (e.clientX - box.left - (box.width - width * scale) / 2) / scale, y: (e.clientY - box.top - (box.height - height * scale) / 2) / scale }
  }
  const pinAt = (name: string, signal: string): Spot | undefined => {
    const b = placed.find((p) => p.device.name === name)
    const i = b ? pinsOf(b.device).findIndex((p) => p.signal === signal) : -1
    return b && i >= 0 ? pinSpot(b, i) : undefined
  }
  const endOf = (l: Schemas['Joint']) => pinAt(l.device, l.signal === 'clock' ? 'data' : l.signal)
  const heldSpot = held && pinAt(held.device.name, held.signal)
  // Wires to the lower edge go around the board, those from the lowest pins closest to it.
  const lanes = new Map(
    (['left', 'right'] as const).flatMap((side) =>
      leads
        .filter((l) => l.signal !== 'ground' && spots.get(l.pad)?.side === 'bottom' && endOf(l)?.side === side)
        .sort((p, q) => (endOf(q)?.y ?? 0) - (endOf(p)?.y ?? 0))
        .map((l, i) => [l, i] as const),
    ),
  )
  const wire = (l: Schemas['Joint']) => {
    const a = endOf(l)
    const b = spots.get(l.pad)
    if (!a || !b || l.signal === 'ground') return null
    const pad = pads.find((p) => p.name === l.pad)
    const wrong = (l.signal === 'output' && pad?.kind === 'send') || (l.signal === 'input' && pad?.kind === 'receive')
    const moving = held?.device.name === l.device && end
    return (
      <path
        key={`${l.device} ${l.signal}`}
        d={b.side === 'bottom' ? around(a, b, lanes.get(l) ?? 0) : curve(a, b)}
        fill="none"
        stroke={wrong ? 'var(--stop)' : l.signal === 'supply' ? 'var(--faint)' : 'var(--act)'}
        strokeWidth={l.signal === 'supply' ? 1.5 : 2.5}
        strokeDasharray={l.signal === 'supply' ? '2 4' : l.signal === 'input' ? '9 4' : undefined}
        opacity={moving ? 0.3 : 1}
      />
    )
  }
  return (
    <svg
      ref={ref}
      viewBox={`0 0 ${width} ${height}`}
      className="h-[min(400px,46vh)] touch-none [&_g:focus-visible]:outline-none"
      aria-label="The board, its devices and their wires"
      onPointerMove={(e) => held && end && setEnd(at(e))}
      onPointerUp={(e) => {
        if (!held || !end) return
        const over = document.elementFromPoint(e.clientX, e.clientY)?.closest('[data-pad]')?.getAttribute('data-pad')
        const pad = pads.find((p) => p.name === over)
        if (pad) put(pad)
        else leave()
      }}
      onKeyDown={(e) => e.key === 'Escape' && held && leave()}
    >
      {leads.map((l) => l.signal === 'supply' && wire(l))}
      <rect {...boardBox} rx="12" fill="var(--panel)" stroke="var(--wire)" strokeWidth="2" />
      <text x={boardBox.x} y={boardBox.y - 14} fontSize="15" fontWeight="600">
        {quad.meant.parts.board.name}
      </text>
      <text x={boardBox.x + boardBox.width} y={boardBox.y - 14} textAnchor="end" fontSize="13" style={{ fill: 'var(--soft)' }}>
        {quad.meant.parts.board.target}
      </text>
      {leads.map((l) => l.signal !== 'supply' && wire(l))}
      {pads.map((p) => {
        const s = spots.get(p.name)
        if (!s) return null
        const told = p.port ? functions[p.port]?.function : ''
        const inside = s.side === 'left' ? 'start' : s.side === 'right' ? 'end' : 'middle'
        const target = fits(p)
        return (
          // biome-ignore lint/a11y/useSemanticElements: a pad of the drawing cannot be a button element
          <g
            key={p.name}
            ref={target && near[0]?.name === p.name ? first : undefined}
            data-pad={p.name}
            role="button"
            tabIndex={target ? 0 : -1}
            aria-disabled={!target}
            aria-label={`pad ${p.name}${told && told !== 'nothing' ? `, port ${p.port} for the ${told}` : ''}`}
            className={join('focus-visible:[&_rect]:stroke-act focus-visible:[&_rect]:stroke-5', target ? padFree : pad)}
            onClick={() => target && !end && put(p)}
            onKeyDown={(e) => {
              if (!target) return
              if (e.key === 'Enter' || e.key === ' ') {
                e.preventDefault()
                put(p)
              }
              if (e.key === 'ArrowDown' || e.key === 'ArrowRight') step(p, 1)
              if (e.key === 'ArrowUp' || e.key === 'ArrowLeft') step(p, -1)
            }}
          >
            <rect x={s.x - 7} y={s.y - 7} width="14" height="14" rx={p.kind === 'ground' || p.kind === 'rail' ? 7 : 2} />
            <text
              x={s.x + (s.side === 'left' ? 13 : s.side === 'right' ? -13 : 0)}
              y={s.y + (s.side === 'bottom' ? -13 : s.side === 'top' ? 22 : 4.5)}
              textAnchor={inside}
              fontSize="13"
              fontWeight="600"
            >
              {p.name}
            </text>
            {(p.kind === 'receive' || p.kind === 'both') && (
              <text
                x={s.x + (s.side === 'left' ? 42 : -42)}
                y={s.y + 4.5}
                textAnchor={inside}
                fontSize="13"
                style={{ fill: told === 'nothing' ? 'var(--faint)' : 'var(--act)' }}
              >
                {told || 'nothing'}
              </text>
            )}
          </g>
        )
      })}
      {placed.map((b) => {
        const seen = powered && answers && b.device.name in answers ? (answers[b.device.name] ? 'yes' : 'no') : b.device.answers
        const compass = compasses.find((c) => c.device === b.device.name)
        return (
          <g key={b.device.name}>
            <rect
              x={b.x}
              y={b.y}
              width="160"
              height={b.height}
              rx="8"
              fill="var(--panel)"
              stroke={seen === 'no' ? 'var(--stop)' : 'var(--line)'}
              strokeWidth="1.5"
            />
            <text x={b.x + 12} y={b.y + 21} fontSize="15" fontWeight="600">
              {b.device.name}
            </text>
            {seen !== 'unknown' && (
              <text
                x={b.side === 'left' ? b.x + 12 : b.x + 148}
                y={b.y + b.height - 12}
                textAnchor={b.side === 'left' ? 'start' : 'end'}
                fontSize="12.5"
                style={{ fill: seen === 'yes' ? 'var(--ok)' : 'var(--stop)' }}
              >
                {seen === 'yes' ? '● answers' : '○ silent'}
              </text>
            )}
            {compass && (
              <text
                x={b.x + 80}
                y={b.y + b.height + 15}
                textAnchor="middle"
                fontSize="12.5"
                style={{ fill: compass.field > compass.site / 10 ? 'var(--fix)' : 'var(--soft)' }}
              >
                {compass.field.toFixed(1)} of {compass.site} µT at {units.length(compass.apart)}
              </text>
            )}
            {pinsOf(b.device).map((pin, i) => {
              const s = pinSpot(b, i)
              const lead = leads.find((l) => l.device === b.device.name && l.signal === pin.signal)
              const mine = held?.device.name === b.device.name && held.signal === pin.signal
              return (
                // biome-ignore lint/a11y/useSemanticElements: the end of a wire in a drawing cannot be a button element
                <g
                  key={pin.signal}
                  role="button"
                  tabIndex={0}
                  aria-pressed={mine}
                  aria-label={`${b.device.name}, ${pin.words}, ${lead ? `on ${lead.pad}` : 'not soldered'}`}
                  className="cursor-grab [&_circle]:fill-panel [&_circle]:stroke-act [&_circle]:stroke-2 hover:[&_circle]:fill-act focus-visible:[&_circle]:stroke-5 aria-pressed:[&_circle]:fill-act"
                  onPointerDown={(e) => {
                    e.preventDefault()
                    from.current = e.currentTarget
                    setHeld({ device: b.device, signal: pin.signal })
                    setEnd({ x: s.x, y: s.y })
                  }}
                  onKeyDown={(e) => {
                    if (e.key !== 'Enter' && e.key !== ' ') return
                    e.preventDefault()
                    from.current = e.currentTarget
                    setHeld({ device: b.device, signal: pin.signal })
                  }}
                >
                  <circle cx={s.x} cy={s.y} r="8" />
                  <text x={s.x + (b.side === 'left' ? -15 : 15)} y={s.y + 4.5} textAnchor={b.side === 'left' ? 'end' : 'start'} fontSize="13">
                    {pin.words}
                    {lead ? ` ${lead.pad}` : ', nowhere'}
                  </text>
                </g>
              )
            })}
          </g>
        )
      })}
      {held && end && heldSpot && (
        <path d={`M${heldSpot.x} ${heldSpot.y}L${end.x} ${end.y}`} stroke="var(--act)" strokeWidth="3" strokeDasharray="3 5" fill="none" pointerEvents="none" />
      )}
    </svg>
  )
})
