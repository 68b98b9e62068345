// One flown run: from behind, from above, and as traces over time, all at one moment.
import { memo } from 'react'
import type { Schemas } from '../wire/client'

export type Run = Schemas['FlightRun']
export type Frame = Schemas['FlightFrame']
type Vec = [number, number, number]

/** Rotates a body vector (ahead, right, down) into the world (north, east, down). */
export function rotate(q: number[], v: Vec): Vec {
  const [w = 1, x = 0, y = 0, z = 0] = q
  const [a, b, c] = v
  const tx = 2 * (y * c - z * b)
  const ty = 2 * (z * a - x * c)
  const tz = 2 * (x * b - y * a)
  return [a + w * tx + y * tz - z * ty, b + w * ty + z * tx - x * tz, c + w * tz + x * ty - y * tx]
}

export const frameAt = (run: Run, t: number): Frame | undefined => run.frames[Math.min(run.frames.length - 1, Math.max(0, Math.round(t * 50)))]

const magnified = 2.2

const tones = ['var(--act)', 'var(--fix)', 'var(--note)', 'var(--ok)']
const names = ['front left', 'front right', 'rear left', 'rear right']

/** From behind: the pilot's own view, with the ground. The picture follows the quad sideways. */
export function Behind({ f, places, width, height, path }: { f: Frame; places: number[][]; width: number; height: number; path: Frame[] }) {
  const scale = height / 2.6
  const [, east = 0, up = 0] = f.place
  const cx = width / 2
  const ground = height - 26
  const top = Math.max(0, up - 1.7)
  const at = (e: number, h: number): [number, number] => [cx + (e - east) * scale, ground - (h - top) * scale - 10]
  const points = places.map(([a = 0, r = 0]) => rotate(f.attitude, [a, r, -0.02]))
  // The quad is drawn larger than the room it is in; what would then reach into the ground is lifted out of it.
  const rotor = rotate(f.attitude, [0, 0.13, 0])
  const lowest = Math.max(...points.map(([, , d]) => d * magnified)) + Math.abs(rotor[2]) * 1.1
  const drawn = up + 0.03 + Math.max(0, lowest - up - 0.03)
  const middle = at(east, drawn)
  const trail = path.filter((_, i) => i % 5 === 0).map((p) => at(p.place[1] ?? 0, (p.place[2] ?? 0) + 0.03).join(' '))
  return (
    <svg width={width} height={height} role="img" aria-label={`From behind: ${up.toFixed(2)} m up, leaning ${f.tilt.toFixed(0)} degrees`}>
      {top < 0.6 && <path d={`M0 ${at(0, 0)[1] + 2}H${width}`} stroke="var(--wire)" strokeWidth="2" />}
      {[0, 0.5, 1, 1.5, 2].map((h) => (
        <g key={h}>
          <path d={`M0 ${at(0, h)[1]}h8`} stroke="var(--soft)" />
          <text x="12" y={at(0, h)[1] - 3} fontSize="12" style={{ fill: 'var(--soft)' }}>
            {h} m
          </text>
        </g>
      ))}
      {trail.length > 1 && <path d={`M${trail.join('L')}`} fill="none" stroke="var(--faint)" strokeWidth="1.5" strokeDasharray="2 4" />}
      {points.map(([, e, d], i) => {
        const [x, y] = at(east + e * magnified, drawn - d * magnified)
        const spread = (f.rotors[i] ?? 0) > 300
        return (
          <g key={names[i]}>
            <path d={`M${middle[0]} ${middle[1]}L${x} ${y}`} stroke="var(--soft)" strokeWidth="5" strokeLinecap="round" />
            <path
              d={`M${x - rotor[1] * scale * 1.1} ${y - rotor[2] * scale * 1.1}L${x + rotor[1] * scale * 1.1} ${y + rotor[2] * scale * 1.1}`}
              stroke={tones[i]}
              strokeWidth={spread ? 5 : 2}
              strokeLinecap="round"
              opacity="0.85"
            />
          </g>
        )
      })}
      <circle cx={middle[0]} cy={middle[1]} r="9" fill="var(--ink)" />
    </svg>
  )
}

/** From above: north is up, one metre to a square. */
export function Above({ f, places, width, height, path }: { f: Frame; places: number[][]; width: number; height: number; path: Frame[] }) {
  const far = Math.max(1.2, ...path.map((p) => Math.hypot(p.place[0] ?? 0, p.place[1] ?? 0)))
  const scale = Math.min(width, height) / 2 / (far * 1.15)
  const at = (n: number, e: number): [number, number] => [width / 2 + e * scale, height / 2 - n * scale]
  const [north = 0, east = 0] = f.place
  const grow = Math.max(1, 0.16 / (0.1 * (scale / 60)))
  const grid = Array.from({ length: Math.floor(far * 1.15) * 2 + 1 }, (_, i) => i - Math.floor(far * 1.15))
  return (
    <svg width={width} height={height} role="img" aria-label={`From above: ${Math.hypot(north, east).toFixed(1)} m from the start`}>
      {far < 12 && grid.map((g) => <path key={g} d={`M${at(0, g)[0]} 0V${height}M0 ${at(g, 0)[1]}H${width}`} stroke="var(--line)" />)}
      <circle cx={width / 2} cy={height / 2} r="4" fill="none" stroke="var(--soft)" strokeWidth="1.5" />
      <path
        d={`M${path
          .filter((_, i) => i % 5 === 0)
          .map((p) => at(p.place[0] ?? 0, p.place[1] ?? 0).join(' '))
          .join('L')}`}
        fill="none"
        stroke="var(--act)"
        strokeWidth="1.5"
      />
      {places.map(([a = 0, r = 0], i) => {
        const [n, e] = rotate(f.attitude, [a * grow, r * grow, 0])
        const [x, y] = at(north + n, east + e)
        const [mx, my] = at(north, east)
        return (
          <g key={names[i]}>
            <path d={`M${mx} ${my}L${x} ${y}`} stroke="var(--soft)" strokeWidth="3" />
            <circle cx={x} cy={y} r="6" fill="var(--panel)" stroke={tones[i]} strokeWidth="3" />
          </g>
        )
      })}
      <text x="8" y="16" fontSize="12" style={{ fill: 'var(--soft)' }}>
        north up, 1 m squares
      </text>
    </svg>
  )
}

type Trace = { label: string; unit: string; of: (f: Frame) => number[]; names: string[]; low: number; high: number }
const traces: Trace[] = [
  { label: 'Height', unit: 'm', of: (f) => [f.place[2] ?? 0], names: ['height'], low: 0, high: 2 },
  { label: 'Roll, pitch', unit: 'deg', of: (f) => [f.roll, f.pitch], names: ['roll', 'pitch'], low: -45, high: 45 },
  { label: 'Motors', unit: '%', of: (f) => f.duty.map((d) => d * 100), names, low: 0, high: 60 },
]

const plotHeight = 58
const plotLeft = 86
const plotAt = (time: number, width: number, end: number) => plotLeft + ((width - plotLeft - 8) * time) / end

/** Height, attitude and motors over time; the hair is the present moment. */
export function Traces({ run, t, width, end }: { run: Run; t: number; width: number; end: number }) {
  const height = traces.length * (plotHeight + 6)
  const x = plotAt(Math.min(t, end), width, end)
  return (
    <svg width={width} height={height + 14} role="img" aria-label="Height, roll and pitch, and motors over time">
      <Plots run={run} width={width} end={end} />
      <path d={`M${x} 4V${height}`} stroke="var(--ink)" />
    </svg>
  )
}

/** The curves themselves stand still: they are drawn once, not with every moment of the replay. */
const Plots = memo(function Plots({ run, width, end }: { run: Run; width: number; end: number }) {
  const every = run.frames.filter((_, j) => j % 3 === 0)
  return (
    <>
      {traces.map((tr, k) => {
        const y0 = k * (plotHeight + 6) + 4
        const py = (v: number) => y0 + plotHeight - (plotHeight * (Math.min(tr.high, Math.max(tr.low, v)) - tr.low)) / (tr.high - tr.low)
        return (
          <g key={tr.label}>
            <rect x={plotLeft} y={y0} width={width - plotLeft - 8} height={plotHeight} fill="var(--panel)" stroke="var(--line)" />
            <text x="0" y={y0 + 14} fontSize="12.5" fontWeight="600">
              {tr.label}
            </text>
            <text x="0" y={y0 + 30} fontSize="12" style={{ fill: 'var(--soft)' }}>
              {tr.low} to {tr.high} {tr.unit}
            </text>
            {tr.names.map((n, i) => (
              <path
                key={n}
                d={every
                  .map((f, j) => {
                    const v = tr.of(f)[i] ?? 0
                    const before = every[j - 1]
                    // An angle that passes 180 deg comes back from the other side: a new stroke, not a line across.
                    const on = before && Math.abs(v - (tr.of(before)[i] ?? 0)) < 120
                    return `${on ? 'L' : 'M'}${plotAt(f.time, width, end).toFixed(1)} ${py(v).toFixed(1)}`
                  })
                  .join('')}
                fill="none"
                stroke={tones[i]}
                strokeWidth="1.6"
                strokeDasharray={i % 2 ? '5 2' : undefined}
              />
            ))}
          </g>
        )
      })}
    </>
  )
})
