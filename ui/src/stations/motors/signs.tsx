// The sign table as pictures: each mistake on this layout, and what the quad makes of every command.

import { Link } from 'react-router'
import { textLook } from '../../kit/button'
import { AsTable } from '../../shell/as-table'
import type { Schemas } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'

type Answer = Schemas['Answer']

const turns = { roll: 'right', pitch: 'nose up', yaw: 'clockwise' } as const

/** Where the corners stand in a small picture, ahead is up. */
export const spots = (plus: boolean) =>
  plus
    ? ([
        [0, -30],
        [30, 0],
        [-30, 0],
        [0, 30],
      ] as const)
    : ([
        [-24, -24],
        [24, -24],
        [-24, 24],
        [24, 24],
      ] as const)

export function Signs({ quad }: { quad: QuadAt<'motors'> }) {
  const plus = quad.meant.sheet.craft.layout === 'plus'
  const own = quad.answers
  return (
    <div className="min-h-0 overflow-y-auto pr-2 [&_h2]:text-[16px] [&_h3]:text-[14.5px] [&_li]:grid [&_li]:grid-cols-[112px_minmax(0,1fr)] [&_li]:gap-2.5 [&_li]:border-t [&_li]:border-line [&_li]:pt-1.5 [&_p]:text-[13.5px] [&_p]:leading-[1.35] [&_ul]:grid [&_ul]:grid-cols-1 [&_ul]:gap-x-4.5 [&_ul]:gap-y-2.5">
      <AsTable
        keyless
        caption="The sign table"
        head={['mistake', 'roll', 'pitch', 'yaw']}
        rows={quad.signs.map((s) => [s.title, ...s.answers.map((a) => a.words)])}
      />
      <section aria-label="This quad, as it was seen">
        <h2>This quad, as it was seen</h2>
        <div className="flex flex-wrap gap-x-3 gap-y-1">
          {own.map((a) => (
            <Answered key={a.command} a={a} />
          ))}
        </div>
        <p className="text-soft">
          Held down with its propellers off a quad proves none of this: the controller winds up and the motors run away from each other.{' '}
          <Link className={textLook} to={`/quads/${quad.id}/rehearsal`}>
            Watch it fly as it is
          </Link>
        </p>
      </section>
      <ul>
        {quad.signs.map((s) => (
          <li key={s.title}>
            <svg viewBox="-46 -46 92 92" width="112" height="112" role="img" aria-label={s.title}>
              <path d="M0 -44l-5 8h10z" fill="var(--faint)" />
              {spots(plus).map(([x, y], i) => {
                const c = s.corners?.[i]
                if (!c) return null
                return (
                  <g key={c.from} transform={`translate(${x} ${y})`}>
                    <path d={`M${-x} ${-y}L0 0`} stroke="var(--line)" strokeWidth="3" />
                    <circle
                      r="14"
                      fill={c.up ? 'var(--panel)' : 'var(--stop-bg)'}
                      stroke={c.wrong ? 'var(--stop)' : 'var(--soft)'}
                      strokeWidth={c.wrong ? 2 : 1.2}
                    />
                    <g transform={c.spin === 'clockwise' ? '' : 'scale(-1 1)'}>
                      <path d="M-8 -4A9 9 0 0 1 8 -4" fill="none" stroke={c.wrong ? 'var(--stop)' : 'var(--soft)'} strokeWidth="1.6" />
                      <path d="M10 -1l-5 -3 5 -4z" fill={c.wrong ? 'var(--stop)' : 'var(--soft)'} />
                    </g>
                    <path
                      d={c.up ? 'M0 7V0M0 -1l-3 4h6z' : 'M0 0v7M0 9l-3 -4h6z'}
                      stroke={c.up ? 'var(--soft)' : 'var(--stop)'}
                      fill={c.up ? 'var(--soft)' : 'var(--stop)'}
                      strokeWidth="1.4"
                    />
                  </g>
                )
              })}
            </svg>
            <div>
              <h3>{s.title}</h3>
              <p>{s.words}</p>
              <p className="grid grid-cols-3 gap-x-3 gap-y-1 pt-1 phone:grid-cols-1">
                {s.answers.map((a) => (
                  <Answered key={a.command} a={a} />
                ))}
              </p>
            </div>
          </li>
        ))}
      </ul>
    </div>
  )
}

/** One command and its answer: a bar for each axis about the middle, what was meant drawn dashed. */
function Answered({ a }: { a: Answer }) {
  const order = ['roll', 'pitch', 'yaw'] as const
  return (
    <span className="inline-flex items-center gap-1.5 text-[12.5px]">
      <svg viewBox="-40 -2 80 32" width="100" height="40" className="flex-none" role="img" aria-label={`A command of ${a.command} is ${a.words}`}>
        <path d="M0 -1V29" stroke="var(--line)" />
        {order.map((axis, i) => {
          const by = a.by[i] ?? 0
          const meant = axis === a.command
          return (
            <g key={axis} transform={`translate(0 ${4 + i * 10})`}>
              {meant && <path d="M0 0H34" stroke="var(--faint)" strokeWidth="6" strokeDasharray="2 3" />}
              <path d={`M0 0H${(34 * by).toFixed(1)}`} stroke={meant ? (by > 0.5 ? 'var(--ok)' : 'var(--stop)') : 'var(--fix)'} strokeWidth="6" />
            </g>
          )
        })}
      </svg>
      <span className={a.good ? 'text-soft' : 'text-stop'}>
        {a.command} {turns[a.command as keyof typeof turns]}: {a.words}
      </span>
    </span>
  )
}
