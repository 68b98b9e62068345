import type { Schemas } from '../../wire/client'

type Pack = Schemas['PackView']

const width = 300
const height = 84
const left = 42
const foot = 16

/** The resistance of a pack as it was measured over time, above the band in which such packs begin. */
export function Trend({ pack }: { pack: Pack }) {
  const points = pack.health.filter((h) => h.resistance && !h.withdrawn).toReversed()
  const fresh = pack.fresh
  const first = points[0]
  const last = points.at(-1)
  if (!first || !last) {
    return <p className="text-[14px] text-soft">Nothing was measured of it yet: how it ages is drawn here, from the first figure on.</p>
  }
  const highest = Math.max(...points.map((h) => h.resistance ?? 0), fresh?.high ?? 0) * 1.1
  const from = Date.parse(first.at)
  const span = Math.max(Date.parse(last.at) - from, 1)
  const x = (at: string) => left + (points.length === 1 ? 0.5 : (Date.parse(at) - from) / span) * (width - left - 8)
  const y = (r: number) => 6 + (1 - r / highest) * (height - foot - 6)
  const day = (at: string) => new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: '2-digit' })
  const says = points.map((h) => `${day(h.at)} ${h.resistance} mΩ`).join(', ')
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className="w-full max-w-90 [&_text]:fill-soft"
      role="img"
      aria-label={`Internal resistance of ${pack.name}: ${says}${fresh ? `; ${fresh.low.toFixed(0)} to ${fresh.high.toFixed(0)} mΩ when new` : ''}`}
      fontSize="11"
    >
      {fresh && (
        <>
          <rect x={left} y={y(fresh.high)} width={width - left} height={y(fresh.low) - y(fresh.high)} fill="var(--sunk)" />
          <text x={width - 4} y={y(fresh.low) - 3} textAnchor="end">
            new: {fresh.low.toFixed(0)} to {fresh.high.toFixed(0)} mΩ
          </text>
        </>
      )}
      <path d={`M${left} 4V${height - foot}H${width}`} fill="none" stroke="var(--line)" />
      <text x={left - 4} y={y(last.resistance ?? 0) + 4} textAnchor="end" className="fill-ink!">
        {last.resistance} mΩ
      </text>
      <path d={`M${points.map((h) => `${x(h.at)} ${y(h.resistance ?? 0)}`).join('L')}`} fill="none" stroke="var(--ink)" strokeWidth="1.3" />
      {points.map((h) => (
        <circle key={h.id} cx={x(h.at)} cy={y(h.resistance ?? 0)} r="3" fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.3" />
      ))}
      <text x={left} y={height - 4}>
        {day(first.at)}
      </text>
      {points.length > 1 && (
        <text x={width - 4} y={height - 4} textAnchor="end">
          {day(last.at)}
        </text>
      )}
    </svg>
  )
}
