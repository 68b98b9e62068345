import { Fragment } from 'react'
import { AsTable } from '../shell/as-table'
import { project } from './drawing'

/** A figure on the drawing: a line from the part to the margin, a name and what is known. */
export type Callout = { at: [number, number]; side: 'left' | 'right'; row: number; name: string; lines: string[] }

const rowY = [24, 92, 205, 434]

export function CalloutMark({ c }: { c: Callout }) {
  const [px, py] = project(...c.at)
  const right = c.side === 'right'
  const x = right ? 842 : 10
  const y = rowY[c.row] ?? 60
  const anchor = right ? 'end' : 'start'
  const elbow = right ? 660 : 192
  return (
    <g className="phone:hidden">
      <path d={`M${px} ${py}L${elbow} ${y + 8}H${x}`} fill="none" stroke="var(--act)" strokeWidth="1.2" opacity="0.7" />
      <circle cx={px} cy={py} r="3.5" fill="var(--act)" />
      <text x={x} y={y} textAnchor={anchor} fontSize="16" fontWeight="600">
        {c.name}
      </text>
      {c.lines.map((l, i) => (
        <text key={l} x={x} y={y + 27 + i * 19} textAnchor={anchor} fontSize="14.5" style={{ fill: l.includes('not yet') ? 'var(--faint)' : 'var(--soft)' }}>
          {l}
        </text>
      ))}
    </g>
  )
}

/** The callouts of a drawing as a table. */
export function CalloutTable({ callouts }: { callouts: Callout[] }) {
  return (
    <>
      <AsTable caption="What the drawing says" head={['part', 'what is known']} rows={callouts.map((c) => [c.name, c.lines.join(', ')])} />
      {/* On a phone it stands below the drawing, where a callout could not be read. */}
      <dl className="hidden phone:order-last phone:block [&_dd]:border-b [&_dd]:border-line [&_dd]:pb-1 [&_dd]:text-soft [&_dt]:pt-1.5 [&_dt]:font-semibold">
        {callouts.map((c) => (
          <Fragment key={c.name}>
            <dt>{c.name}</dt>
            <dd>{c.lines.join(', ')}</dd>
          </Fragment>
        ))}
      </dl>
    </>
  )
}
