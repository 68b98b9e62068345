/** Widest quad that is drawn: as wide as the drawing, mm. */
const widest = 560

/** A quad of some size from above, and its pack cell by cell, to scale; in dashes what was not said yet. */
export function Shape({ diameter, cells }: { diameter: number; cells: number }) {
  const known = diameter > 0
  const d = ((known ? diameter : 127) / widest) * 250
  const arm = d * 0.62
  const n = cells || 4
  const stacked = Array.from({ length: n }, (_, i) => i)
  const scaleOf = (mm: number) => (mm / widest) * 250
  const says = `${known ? `Propellers of ${Math.round(diameter)} mm` : 'Its size is not said'}; ${cells ? `${cells} cells` : 'its cells are not said'}`
  return (
    <svg
      viewBox="-125 -112 250 256"
      className="w-full max-w-75 pb-2 [&_text]:fill-soft"
      role="img"
      aria-label={says}
      fill="none"
      stroke="var(--ink)"
      fontSize="12"
    >
      <g strokeDasharray={known ? undefined : '4 4'} stroke={known ? 'var(--ink)' : 'var(--faint)'}>
        <path d={`M${-arm} ${-arm}L${arm} ${arm}M${arm} ${-arm}L${-arm} ${arm}`} strokeWidth={known ? 3 : 1.3} />
        {[-1, 1].flatMap((x) =>
          [-1, 1].map((y) => (
            <g key={`${x} ${y}`} transform={`translate(${x * arm} ${y * arm})`}>
              <circle r={d / 2} strokeWidth="1.2" />
              <circle r="2.4" fill="var(--paper)" />
            </g>
          )),
        )}
        <path d="M0 -9l5 8h-10z" strokeWidth="1" />
      </g>
      <path
        d={stacked.map((i) => `M-34 ${112 - 3 * n + 6 * i}h68v5h-68z`).join('')}
        fill="var(--sunk)"
        strokeWidth="1.1"
        strokeDasharray={cells ? undefined : '4 4'}
        stroke={cells ? 'var(--ink)' : 'var(--faint)'}
      />
      <path d={`M${-scaleOf(50)} -104h${scaleOf(100)}`} strokeWidth="1" />
      <text x="0" y="-93" textAnchor="middle" stroke="none">
        100 mm
      </text>
    </svg>
  )
}
