import type { Schemas } from '../../wire/client'

export const lanes = ['receiver', 'controller', 'motors'] as const

/** How a stage is drawn: what is dangerous, what is over, what follows the failsafe delay, and what comes before it. */
export function toneOf(s: Schemas['Stage']) {
  const over = s.sentence === 'stop' || s.sentence.startsWith('falls')
  return { over, tone: s.dangerous ? 'var(--stop)' : over ? 'var(--faint)' : s.from > 0 ? 'var(--act)' : 'var(--fix)' }
}

const [left, wide, shown] = [76, 300, 3.2]
const x = (t: number) => left + (Math.min(t, shown) * (wide - left)) / shown

/** The same time axis, small, beside a place: what receiver, controller and motors each do from the moment the radio is gone. */
export function StagesBeside({ stages }: { stages: Schemas['Stage'][] }) {
  return (
    <section aria-label="From the loss on" className="mt-2 border-t border-line pt-2">
      <svg viewBox={`0 0 ${wide + 8} 74`} className="block w-full max-w-110" aria-hidden>
        <path d={`M${x(0)} 4V60`} stroke="var(--ink)" strokeWidth="1.5" />
        {[1, 2, 3].map((t) => (
          <text key={t} x={x(t)} y="72" textAnchor="middle" fontSize="10.5" style={{ fill: 'var(--soft)' }}>
            {t} s
          </text>
        ))}
        {lanes.map((lane, i) => (
          <g key={lane}>
            <text x="0" y={16 + i * 20} fontSize="12" style={{ fill: 'var(--ink)' }}>
              {lane}
            </text>
            {stages
              .filter((s) => s.part === lane)
              .map((s) => {
                const { over, tone } = toneOf(s)
                return (
                  <path
                    key={s.sentence}
                    d={`M${x(s.from)} ${12 + i * 20}H${x(s.to > 0 ? s.to : shown)}`}
                    stroke={tone}
                    strokeWidth={over ? 2 : 8}
                    strokeDasharray={s.dangerous ? '6 3' : undefined}
                  />
                )
              })}
          </g>
        ))}
      </svg>
      <ol className="mt-1 text-[13.5px]">
        {lanes.map((lane) => (
          <li key={lane} className="border-t border-line py-0.5">
            <b>{lane}</b>{' '}
            {stages
              .filter((s) => s.part === lane)
              .map((s) => `${s.from > 0 ? `after ${s.from} s ` : ''}${s.sentence}`)
              .join('; ')}
          </li>
        ))}
      </ol>
    </section>
  )
}
