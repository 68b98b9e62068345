import type { QuadAt } from '../../wire/figures'
import type { Ohm } from '../../wire/firstpower'

const box = { w: 440, h: 190, left: 52, right: 12, top: 12, bottom: 32 }

/** What an ohmmeter shows over ten seconds: the climb of a sound lead with this capacitor, what is watched now, and what was noted. */
export function LeadDrawn({ view: v, watched }: { view: QuadAt<'first-power'>['power']; watched: Ohm[] }) {
  const most =
    1.15 * Math.max(1000, ...v.good.map((o) => o.ohms), ...v.taken.map((o) => Math.min(o.ohms, 100_000)), ...watched.map((o) => Math.min(o.ohms, 100_000)))
  const x = (t: number) => box.left + (t / 10) * (box.w - box.left - box.right)
  const y = (ohms: number) => box.h - box.bottom - (Math.min(ohms, most) / most) * (box.h - box.top - box.bottom)
  const step = [500, 1000, 2000, 5000, 10_000, 20_000].find((s) => most / s <= 5) ?? 50_000
  const told = v.taken.map((o) => `${o.ohms.toFixed(0)} Ω after ${o.time} s`).join(', ')
  return (
    <svg viewBox={`0 0 ${box.w} ${box.h}`} className="w-full" role="img" aria-label={`Ohms over ten seconds. ${told || 'Nothing is measured yet'}`}>
      {Array.from({ length: Math.floor(most / step) + 1 }, (_, i) => i * step).map((m) => (
        <g key={m}>
          <path d={`M${box.left} ${y(m)}H${box.w - box.right}`} stroke="var(--line)" />
          <text x={box.left - 6} y={y(m) + 4} textAnchor="end" fontSize="12" style={{ fill: 'var(--soft)' }}>
            {m === 0 ? '0' : `${m / 1000} kΩ`}
          </text>
        </g>
      ))}
      {[0, 2, 4, 6, 8, 10].map((t) => (
        <text key={t} x={x(t)} y={box.h - box.bottom + 16} textAnchor="middle" fontSize="12" style={{ fill: 'var(--soft)' }}>
          {t}
        </text>
      ))}
      <text x={box.w - box.right} y={box.h - 3} textAnchor="end" fontSize="12" style={{ fill: 'var(--soft)' }}>
        s after the probes are on
      </text>
      <rect
        x={box.left}
        y={y(v.short) - 3}
        width={box.w - box.left - box.right}
        height={box.h - box.bottom - y(v.short) + 3}
        fill="var(--stop)"
        fillOpacity="0.28"
      />
      {v.good.length > 0 && (
        <>
          <path d={`M${v.good.map((o) => `${x(o.time)} ${y(o.ohms)}`).join('L')}`} fill="none" stroke="var(--ok)" strokeWidth="2" strokeDasharray="7 4" />
          <text
            x={x(5.4)}
            y={Math.min(y(v.good[Math.floor(v.good.length * 0.62)]?.ohms ?? 0) + 34, y(v.short) - 8)}
            fontSize="12.5"
            style={{ fill: 'var(--ok)' }}
          >
            a sound one, {v.capacitance.toFixed(0)} µF
          </text>
        </>
      )}
      {watched.length > 1 && (
        <path d={`M${watched.map((o) => `${x(o.time).toFixed(1)} ${y(o.ohms).toFixed(1)}`).join('L')}`} fill="none" stroke="var(--ink)" strokeWidth="2" />
      )}
      {v.taken.map((o) => (
        <g key={o.time}>
          <circle cx={x(o.time)} cy={y(o.ohms)} r="5.5" fill="var(--panel)" stroke="var(--act)" strokeWidth="2.4" />
          <text
            x={x(o.time) + (o.time > 5 ? -9 : 9)}
            y={y(o.ohms) - (o.time > 5 ? 7 : 16)}
            textAnchor={o.time > 5 ? 'end' : 'start'}
            fontSize="13"
            fontWeight="600"
          >
            {o.ohms >= 1000 ? `${(o.ohms / 1000).toPrecision(2)} kΩ` : `${o.ohms.toFixed(0)} Ω`}
          </text>
        </g>
      ))}
    </svg>
  )
}
