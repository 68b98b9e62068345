import type { QuadAt } from '../../wire/figures'

const box = { w: 470, h: 176, left: 46, right: 10, top: 14, bottom: 40 }

/** The current in the lead as a staircase: what each device adds, what was measured, and where all of it is too much. */
export function Stairs({ view: v, measured, wrong }: { view: QuadAt<'first-power'>['power']; measured: number[]; wrong: number }) {
  const last = v.steps.at(-1)?.sum ?? 0
  const most = 1.08 * Math.max(last * v.stop, v.idle ?? 0, ...measured, 0.05)
  const wide = (box.w - box.left - box.right) / Math.max(1, v.steps.length)
  const x = (i: number) => box.left + i * wide
  const y = (amps: number) => box.h - box.bottom - (Math.min(amps, most) / most) * (box.h - box.top - box.bottom)
  const path = v.steps.map((s, i) => `${i ? 'L' : 'M'}${x(i)} ${y(s.sum)}H${x(i + 1)}`).join('')
  const says = v.steps.map((s) => `${s.device} ${s.adds.toFixed(2)} A`).join(', ')
  return (
    <svg
      viewBox={`0 0 ${box.w} ${box.h}`}
      className="w-full"
      role="img"
      aria-label={`Expected in the lead: ${says}; in all ${last.toFixed(2)} A${v.idle ? `, measured ${v.idle.toFixed(2)} A` : ''}`}
    >
      <rect
        x={box.left}
        y={y(last * v.stop)}
        width={box.w - box.left - box.right}
        height={y(last * v.fix) - y(last * v.stop)}
        fill="var(--fix)"
        fillOpacity="0.1"
      />
      <rect
        x={box.left}
        y={box.top}
        width={box.w - box.left - box.right}
        height={Math.max(0, y(last * v.stop) - box.top)}
        fill="var(--stop)"
        fillOpacity="0.14"
      />
      {[0, last, last * v.fix, last * v.stop].map((a) => (
        <text key={a} x={box.left - 5} y={y(a) + 4} textAnchor="end" fontSize="11.5" style={{ fill: 'var(--soft)' }}>
          {a.toFixed(2)}
        </text>
      ))}
      <path d={`M${box.left} ${y(0)}H${box.w - box.right}`} stroke="var(--wire)" />
      <path d={path} fill="none" stroke="var(--act)" strokeWidth="2.4" />
      {v.steps.map((s, i) => (
        <g key={s.device}>
          <rect x={x(i) + 1} y={y(s.sum)} width={wide - 2} height={y(s.sum - s.adds) - y(s.sum)} fill="var(--act)" fillOpacity="0.18" />
          <text
            x={x(i) + wide / 2}
            y={box.h - box.bottom + (i % 2 ? 30 : 15)}
            textAnchor="middle"
            fontSize="11.5"
            style={{ fill: i === wrong ? 'var(--fix)' : 'var(--soft)' }}
          >
            {s.device}
          </text>
        </g>
      ))}
      {measured.map((a, i) => (
        <circle
          key={v.steps[i]?.device ?? ''}
          cx={x(i) + wide / 2}
          cy={y(a)}
          r="5"
          fill={i === wrong ? 'var(--fix)' : 'var(--panel)'}
          stroke={i === wrong ? 'var(--fix)' : 'var(--ink)'}
          strokeWidth="2"
        />
      ))}
      {v.idle !== undefined && (
        <g>
          <path d={`M${box.left} ${y(v.idle)}H${box.w - box.right}`} stroke="var(--ink)" strokeDasharray="6 4" />
          <text x={box.left + 6} y={y(v.idle) - 5} fontSize="12.5" fontWeight="600" stroke="var(--paper)" strokeWidth="3" paintOrder="stroke">
            measured, all on: {v.idle.toFixed(2)} A
          </text>
        </g>
      )}
    </svg>
  )
}
