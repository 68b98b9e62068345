import type { Schemas } from '../../wire/client'

export type Pad = Schemas['Pad']
export type Device = Schemas['DeviceView']
export type Spot = { x: number; y: number; side: 'left' | 'right' | 'top' | 'bottom' }

export const width = 852
export const height = 400
const board = { left: 316, right: 536, top: 52, bottom: 330 }
export const boardBox = { x: board.left, y: board.top, width: board.right - board.left, height: board.bottom - board.top }

/** Where each pad lies at the board's edge: ports down its two sides, the plug on top, buses and rails below. */
export function padSpots(pads: Pad[]): Map<string, Spot> {
  const out = new Map<string, Spot>()
  const serial = pads.filter((p) => ['receive', 'send', 'both'].includes(p.kind))
  const ports = [...new Set(serial.map((p) => p.port))]
  const half = new Set(ports.slice(0, Math.ceil(ports.length / 2)))
  for (const [side, x] of [
    ['left', board.left],
    ['right', board.right],
  ] as const) {
    const here = serial.filter((p) => half.has(p.port) === (side === 'left'))
    here.forEach((p, i) => {
      out.set(p.name, { x, y: board.top + ((i + 1) * (board.bottom - board.top)) / (here.length + 1), side })
    })
  }
  for (const [i, p] of pads.filter((p) => p.kind === 'usb').entries())
    out.set(p.name, { x: (board.left + board.right) / 2 + i * 50, y: board.top, side: 'top' })
  const below = pads.filter((p) => ['data', 'clock', 'rail', 'ground'].includes(p.kind))
  below.forEach((p, i) => {
    out.set(p.name, { x: board.left + ((i + 1) * (board.right - board.left)) / (below.length + 1), y: board.bottom, side: 'bottom' })
  })
  return out
}

export type Pin = { signal: Schemas['Joint']['signal']; words: string }

/** The ends of wires that a device has. */
export function pinsOf(d: Device): Pin[] {
  const out: Pin[] = []
  if (d.bus) out.push({ signal: 'data', words: 'bus' })
  else {
    if (d.talks || d.oneWire) out.push({ signal: 'output', words: d.oneWire ? 'both ways' : 'out' })
    if (d.listens && !d.oneWire) out.push({ signal: 'input', words: 'in' })
  }
  if (d.most > 0 || d.wire.rail) out.push({ signal: 'supply', words: 'supply' })
  return out
}

export type Box = { device: Device; side: 'left' | 'right'; x: number; y: number; height: number }

/** Devices beside the board, each on the side of its port, those without one where there is room. */
export function boxes(devices: Device[], spots: Map<string, Spot>): Box[] {
  const sides: { left: Device[]; right: Device[] } = { left: [], right: [] }
  const at = (d: Device) => spots.get(d.wire.out || `R${d.wire.port}`) ?? spots.get(d.wire.in || `T${d.wire.port}`) ?? spots.get(d.wire.port)
  for (const d of devices.filter((d) => at(d))) sides[at(d)?.side === 'right' ? 'right' : 'left'].push(d)
  for (const d of devices.filter((d) => !at(d))) sides[sides.left.length <= sides.right.length ? 'left' : 'right'].push(d)
  const out: Box[] = []
  for (const side of ['left', 'right'] as const) {
    sides[side].sort((a, b) => (at(a)?.y ?? 999) - (at(b)?.y ?? 999))
    const room = (height - 20) / Math.max(1, sides[side].length)
    sides[side].forEach((device, i) => {
      const h = Math.min(104, 34 + 22 * pinsOf(device).length)
      out.push({ device, side, x: side === 'left' ? 8 : width - 168, y: 10 + i * room + (room - h) / 2, height: h })
    })
  }
  return out
}

export const pinSpot = (b: Box, i: number): Spot => ({
  x: b.side === 'left' ? b.x + 160 : b.x,
  y: b.y + 44 + 22 * i,
  side: b.side === 'left' ? 'right' : 'left',
})

export function curve(a: Spot, b: Spot): string {
  const reach = Math.max(36, Math.abs(a.x - b.x) * 0.45)
  const out = a.side === 'right' ? reach : -reach
  const into = b.side === 'left' ? [-reach * 0.6, 0] : b.side === 'right' ? [reach * 0.6, 0] : b.side === 'top' ? [0, -40] : [0, 46]
  return `M${a.x} ${a.y}C${a.x + out} ${a.y} ${b.x + (into[0] ?? 0)} ${b.y + (into[1] ?? 0)} ${b.x} ${b.y}`
}

const lane = 9 // px between two wires that go around the board side by side
const bend = 9

/** The way of a wire around the board to a pad on its lower edge; n is how many wires go there outside of it. */
export function around(a: Spot, b: Spot, n: number): string {
  const right = a.side === 'left' // it comes from a device at the right
  const way = right ? -1 : 1
  const x = right ? board.right + 24 + lane * n : board.left - 24 - lane * n
  const y = board.bottom + 22 + lane * n
  return [
    `M${a.x} ${a.y}H${x - way * bend}`,
    `Q${x} ${a.y} ${x} ${a.y + bend}`,
    `V${y - bend}Q${x} ${y} ${x + way * bend} ${y}`,
    `H${b.x - way * bend}Q${b.x} ${y} ${b.x} ${y - bend}`,
    `V${b.y}`,
  ].join('')
}

/** Where a device's wire goes when its end is put on a pad: a plug goes along whole, unless it is put on the wrong pad. */
export function dropped(d: Device, signal: Pin['signal'], pad: Pad): Omit<Schemas['MoveBody'], 'version'> | null {
  const w = { device: d.name, port: d.wire.port, out: d.wire.out ?? '', in: d.wire.in ?? '', bus: d.wire.bus ?? '', rail: d.wire.rail ?? '' }
  if (signal === 'supply') return pad.kind === 'rail' ? { ...w, rail: pad.rail } : null
  if (signal === 'data') return pad.bus ? { ...w, bus: pad.bus } : null
  if (!pad.port || pad.kind === 'usb') return null
  const right = pad.kind === 'both' || (signal === 'output' ? (d.oneWire ? true : pad.kind === 'receive') : pad.kind === 'send')
  if (right) return { ...w, port: pad.port, out: '', in: '' }
  // The wrong pad of a port: there the two wires are exchanged.
  return { ...w, port: pad.port, out: `T${pad.port}`, in: d.listens ? `R${pad.port}` : '' }
}
