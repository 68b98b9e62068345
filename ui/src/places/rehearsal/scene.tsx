// One flown run from the side, from above, and as traces over time, all at one moment.
import { memo } from 'react'
import type { Schemas } from '../../wire/client'

export type Run = Schemas['FlightRun']
export type Frame = Schemas['FlightFrame']
export type Vec = [number, number, number]

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

export const tones = ['var(--act)', 'var(--fix)', 'var(--note)', 'var(--ok)']
export const names = ['front left', 'front right', 'rear left', 'rear right']

/** A round step for the lines of a scale that shows so much. */
function stepFor(shown: number) {
  const base = 10 ** Math.floor(Math.log10(shown / 2))
  return [1, 2, 5, 10].map((m) => m * base).find((s) => shown / s <= 4) ?? shown
}

/** The way flown, from one side: what is ahead is to the right. The picture holds all of it. */
export function Side({ f, path, all, width, height }: { f: Frame; path: Frame[]; all: Frame[]; width: number; height: number }) {
  const norths = all.map((p) => p.place[0] ?? 0)
  const [west, most] = [Math.min(-0.8, ...norths), Math.max(0.8, ...norths)]
  const top = Math.max(1.2, ...all.map((p) => p.place[2] ?? 0)) * 1.1
  const scale = Math.min((width - 34) / (most - west), (height - 26) / top)
  const at = (n: number, h: number): [number, number] => [30 + (n - west) * scale, height - 14 - h * scale]
  const step = stepFor(height / scale)
  const [north = 0, , up = 0] = f.place
  const [x, y] = at(north, up)
  const [an, , ad] = rotate(f.attitude, [1, 0, 0])
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role="img"
      aria-label={`From the left side: ${up.toFixed(1)} m up, ${north.toFixed(1)} m ahead`}
    >
      <path d={`M0 ${at(0, 0)[1]}H${width}`} stroke="var(--wire)" strokeWidth="1.5" />
      {Array.from({ length: 6 }, (_, i) => i * step)
        .filter((h) => h > 0 && at(0, h)[1] > 14)
        .map((h) => (
          <g key={h}>
            <path d={`M0 ${at(0, h)[1]}H${width}`} stroke="var(--line)" />
            <text x="2" y={at(0, h)[1] - 2} fontSize="11.5" style={{ fill: 'var(--soft)' }}>
              {h < 1 ? h.toFixed(1) : h} m
            </text>
          </g>
        ))}
      <path
        d={`M${path
          .filter((_, i) => i % 4 === 0)
          .map((p) => at(p.place[0] ?? 0, p.place[2] ?? 0).join(' '))
          .join('L')}`}
        fill="none"
        stroke="var(--act)"
        strokeWidth="1.4"
      />
      <path d={`M${x - 12 * an} ${y - 12 * ad}L${x + 12 * an} ${y + 12 * ad}`} stroke="var(--ink)" strokeWidth="4" strokeLinecap="round" />
      <circle cx={x + 12 * an} cy={y + 12 * ad} r="3" fill="var(--act)" />
      <text x={width - 4} y="13" textAnchor="end" fontSize="11.5" style={{ fill: 'var(--soft)' }}>
        from the left side
      </text>
    </svg>
  )
}

/** The way flown, from above: north, where the nose points at first, is up. The picture holds all of it. */
export function Above({ f, places, path, all, width, height }: { f: Frame; places: number[][]; path: Frame[]; all: Frame[]; width: number; height: number }) {
  const norths = [0, ...all.map((p) => p.place[0] ?? 0)]
  const easts = [0, ...all.map((p) => p.place[1] ?? 0)]
  const [n0, n1, e0, e1] = [Math.min(...norths), Math.max(...norths), Math.min(...easts), Math.max(...easts)]
  const scale = Math.min(width / Math.max(2.2, (e1 - e0) * 1.25), height / Math.max(2.2, (n1 - n0) * 1.25))
  const [mn, me] = [(n0 + n1) / 2, (e0 + e1) / 2]
  const at = (n: number, e: number): [number, number] => [width / 2 + (e - me) * scale, height / 2 - (n - mn) * scale]
  const step = stepFor(Math.min(width, height) / scale)
  const lines = Array.from({ length: 41 }, (_, i) => (i - 20) * step)
  const [north = 0, east = 0] = f.place
  const grow = Math.max(1, 12 / (0.1 * scale))
  const [mx, my] = at(north, east)
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role="img"
      aria-label={`From above: ${Math.hypot(north, east).toFixed(1)} m from the start`}
    >
      <path
        d={lines.map((g) => `M${at(0, Math.round(me / step) * step + g)[0]} 0V${height}M0 ${at(Math.round(mn / step) * step + g, 0)[1]}H${width}`).join('')}
        stroke="var(--line)"
      />
      <circle cx={at(0, 0)[0]} cy={at(0, 0)[1]} r="4" fill="none" stroke="var(--soft)" strokeWidth="1.5" />
      <path
        d={`M${path
          .filter((_, i) => i % 4 === 0)
          .map((p) => at(p.place[0] ?? 0, p.place[1] ?? 0).join(' '))
          .join('L')}`}
        fill="none"
        stroke="var(--act)"
        strokeWidth="1.4"
      />
      {places.map(([a = 0, r = 0], i) => {
        const [n, e] = rotate(f.attitude, [a * grow, r * grow, 0])
        const [x, y] = [mx + e * scale, my - n * scale]
        return (
          <g key={names[i]}>
            <path d={`M${mx} ${my}L${x} ${y}`} stroke="var(--soft)" strokeWidth="2.5" />
            <circle cx={x} cy={y} r="5" fill="var(--panel)" stroke={tones[i]} strokeWidth="2.5" />
          </g>
        )
      })}
      <text x={width - 4} y="13" textAnchor="end" fontSize="11.5" style={{ fill: 'var(--soft)' }}>
        from above, squares of {step < 1 ? step.toFixed(1) : step} m
      </text>
    </svg>
  )
}

interface Trace {
  label: string
  unit: string
  of: (f: Frame) => number[]
  names: string[]
  low: number
  high: number
}

/** What is drawn over time, on scales that hold both runs, so that one can be laid beside the other. */
export function tracesOf(runs: Run[]): Trace[] {
  const all = runs.flatMap((r) => r.frames)
  const top = Math.max(1.5, ...all.map((f) => f.place[2] ?? 0))
  const lean = Math.max(...all.map((f) => Math.max(Math.abs(f.roll), Math.abs(f.pitch)))) > 50 ? 180 : 45
  const back = Math.min(0, ...all.flatMap((f) => f.duty)) < 0
  const duty = Math.max(...all.flatMap((f) => f.duty.map(Math.abs))) > 0.62 ? 100 : 60
  return [
    { label: 'Height', unit: 'm', of: (f) => [f.place[2] ?? 0], names: ['height'], low: 0, high: Math.ceil(top) },
    { label: 'Roll, pitch', unit: '°', of: (f) => [f.roll, f.pitch], names: ['roll', 'pitch'], low: -lean, high: lean },
    { label: 'Motors', unit: '%', of: (f) => f.duty.map((d) => d * 100), names, low: back ? -duty : 0, high: duty },
  ]
}

const plotHeight = 44
const plotLeft = 84
const plotAt = (time: number, width: number, end: number) => plotLeft + ((width - plotLeft - 4) * time) / end

/** Height, attitude and motors over time; the hair is the present moment, the mark where it goes wrong. */
export function Traces({ run, traces, t, width, end }: { run: Run; traces: Trace[]; t: number; width: number; end: number }) {
  const height = traces.length * (plotHeight + 5)
  const x = plotAt(Math.min(t, end), width, end)
  return (
    <svg viewBox={`0 0 ${width} ${height + 4}`} width={width} height={height + 4} role="img" aria-label="Height, roll and pitch, and motors over time">
      <Plots run={run} traces={traces} width={width} end={end} />
      {!run.good && run.summary.moment > 0 && (
        <path d={`M${plotAt(run.summary.moment, width, end)} 2V${height}`} stroke="var(--stop)" strokeDasharray="3 3" strokeWidth="1.5" />
      )}
      <path d={`M${x} 2V${height}`} stroke="var(--ink)" />
    </svg>
  )
}

/** The curves themselves stand still: they are drawn once, not with every moment of the replay. */
const Plots = memo(function Plots({ run, traces, width, end }: { run: Run; traces: Trace[]; width: number; end: number }) {
  const every = run.frames.filter((_, j) => j % 3 === 0)
  return (
    <>
      {traces.map((tr, k) => {
        const y0 = k * (plotHeight + 5) + 2
        const py = (v: number) => y0 + plotHeight - (plotHeight * (Math.min(tr.high, Math.max(tr.low, v)) - tr.low)) / (tr.high - tr.low)
        return (
          <g key={tr.label}>
            <rect x={plotLeft} y={y0} width={width - plotLeft - 4} height={plotHeight} fill="var(--panel)" stroke="var(--line)" />
            <text x="0" y={y0 + 14} fontSize="12.5" fontWeight="600">
              {tr.label}
            </text>
            <text x="0" y={y0 + 29} fontSize="11.5" style={{ fill: 'var(--soft)' }}>
              {tr.low === -tr.high ? `±${tr.high}` : `${tr.low} to ${tr.high}`} {tr.unit}
            </text>
            {tr.names.map((n, i) => (
              <path
                key={n}
                d={every
                  .map((f, j) => {
                    const v = tr.of(f)[i] ?? 0
                    const before = every[j - 1]
                    // An angle that passes 180° comes back from the other side: a new stroke, not a line across.
                    const on = before && Math.abs(v - (tr.of(before)[i] ?? 0)) < 120
                    return `${on ? 'L' : 'M'}${plotAt(f.time, width, end).toFixed(1)} ${py(v).toFixed(1)}`
                  })
                  .join('')}
                fill="none"
                stroke={tones[i]}
                strokeWidth="1.5"
                strokeDasharray={i % 2 ? '5 2' : undefined}
              />
            ))}
          </g>
        )
      })}
    </>
  )
})
