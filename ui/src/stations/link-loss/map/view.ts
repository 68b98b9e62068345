import type { Schemas } from '../../../wire/client'
import type { Offset, SiteMap } from '../../../wire/sites'

export type Kind = Schemas['Area']['kind']

/** Kinds of areas as they are called on the page. */
export const kinds: Record<Kind, string> = { people: 'People', water: 'Water', roof: 'Roof', obstacle: 'Obstacle', soft: 'Soft ground' }
export const stands = (kind: Kind) => kind === 'roof' || kind === 'obstacle'

/** The part of the ground that is drawn, and how: metres from home to points of the picture. */
export type View = { wide: number; high: number; scale: number; at: (p: Offset) => readonly [number, number]; from: (x: number, y: number) => Offset }

/** A view of everything on a map and of what else is to be seen, with room around it. */
export function viewOf(map: SiteMap, more: Offset[], wide: number, high: number): View {
  const all: Offset[] = [
    { east: -30, north: -30 },
    { east: 30, north: 30 },
    ...map.areas.flatMap((a) => a.corners),
    ...map.safe.map((s) => s.at),
    ...map.lines.flatMap((l) => l.points),
    ...more,
  ]
  const west = Math.min(...all.map((p) => p.east))
  const east = Math.max(...all.map((p) => p.east))
  const south = Math.min(...all.map((p) => p.north))
  const north = Math.max(...all.map((p) => p.north))
  const scale = Math.min((wide - 44) / (east - west), (high - 44) / (north - south))
  const [x0, y0] = [wide / 2 - ((east + west) / 2) * scale, high / 2 + ((north + south) / 2) * scale]
  return {
    wide,
    high,
    scale,
    at: (p) => [x0 + p.east * scale, y0 - p.north * scale],
    from: (x, y) => ({ east: Math.round((x - x0) / scale), north: Math.round((y0 - y) / scale) }),
  }
}

/** A ring or a line as a path. */
export const path = (points: Offset[], view: View, closed: boolean) =>
  points
    .map(
      (p, i) =>
        `${i ? 'L' : 'M'}${view
          .at(p)
          .map((x) => x.toFixed(1))
          .join(' ')}`,
    )
    .join('') + (closed ? 'Z' : '')

/** A length that is easy to read and about as long as asked, m. */
export const round = (about: number) => [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000].find((s) => s >= about) ?? 5000

/** Corners as they are typed: east and north, one after the other. Nothing where it cannot be read. */
export function typedCorners(text: string): Offset[] | null {
  const numbers = text
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((x) => Number(x.replace(',', '.')))
  if (numbers.length % 2 || numbers.some((n) => !Number.isFinite(n))) return null
  return numbers.flatMap((n, i) => (i % 2 ? [] : [{ east: n, north: numbers[i + 1] ?? 0 }]))
}

export const cornersTyped = (points: Offset[]) => points.map((p) => `${p.east} ${p.north}`).join('; ')

/** The middle of some corners, for a name. */
export const middle = (points: Offset[]): Offset => ({
  east: points.reduce((s, p) => s + p.east, 0) / points.length,
  north: points.reduce((s, p) => s + p.north, 0) / points.length,
})
