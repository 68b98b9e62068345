import { join } from '../../kit/join'
import type { Schemas } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { type Carry, meaningKey } from './carry'
import { Meaning } from './meaning'
import { type Source, useNearest } from './source'

type ColumnOf = Schemas['Column']
type CellOf = Schemas['Cell']

// What is planned only is neither sure nor unsure.
const planned = 'var(--faint)'
const tone = { sure: 'var(--ok)', near: 'var(--fix)', edge: 'var(--stop)' }
const edgeOf = { sure: 'border-l-line', near: 'border-l-fix', edge: 'border-l-stop' }

/** What arrives for a cell, in words. */
export const pulseOf = (c: CellOf, captured: boolean) =>
  `${Math.round(c.low)}${Math.round(c.low) === Math.round(c.high) ? '' : ` to ${Math.round(c.high)}`} µs${captured ? '' : ', planned'}`

/** The nearer of the two ways to where something changes. */
export const nearestOf = (c: CellOf) => (c.nearer === 'below' ? c.below : c.above)

/** One switch as it lies under the finger, its highest position on top. */
export function Column({ quad, column, carry, source }: { quad: QuadAt<'sticks'>; column: ColumnOf; carry: Carry; source: Source }) {
  const here = useNearest(source, column)
  const rows = column.cells.map((cell, i) => ({ cell, below: column.marks[i] ?? [] }))
  const top = column.marks[column.cells.length] ?? []
  return (
    <section aria-label={column.name}>
      <b>{column.name}</b>
      <p className="text-[14px] text-soft">
        channel {column.channel}
        {column.springs && ', springs back'}
        {!column.captured && ', as planned: not captured'}
      </p>
      {column.shared.length > 0 && (
        <p className="text-[14px] text-fix">
          {column.switch ? `${column.shared.join(' and ')} too` : `by ${column.shared.join(' and ')}`}: a position is no single pulse
        </p>
      )}
      <div className="mt-1.5">
        <Between marks={top} end />
        {[...rows].reverse().map(({ cell, below }, i) => (
          <div key={cell.position}>
            <div className="grid grid-cols-[26px_minmax(0,1fr)]">
              <Stop here={cell.position === here} first={i === 0} last={i === rows.length - 1} captured={column.captured} />
              <CellBox quad={quad} column={column} cell={cell} here={cell.position === here} carry={carry} />
            </div>
            <Between marks={below} end={i === rows.length - 1} />
          </div>
        ))}
      </div>
      {column.more && <p className="text-[14px] text-soft">and more of them</p>}
    </section>
  )
}

/** The slot of the lever where a position lies. */
function Stop({ here, first, last, captured }: { here: boolean; first: boolean; last: boolean; captured: boolean }) {
  return (
    <span className="relative" aria-hidden="true">
      <span className={join('absolute left-[9px] w-1.25 bg-line', first ? 'top-1/2' : 'top-0', last ? 'bottom-1/2' : 'bottom-0')} />
      <span
        className={join(
          'absolute top-1/2 left-[3px] size-4.5 -translate-y-1/2 rounded-full border-[3px]',
          here ? 'border-ink bg-ink' : 'border-line bg-panel',
          !captured && 'border-dashed',
        )}
      />
    </span>
  )
}

function CellBox({ quad, column, cell, here, carry }: { quad: QuadAt<'sticks'>; column: ColumnOf; cell: CellOf; here: boolean; carry: Carry }) {
  const spot = { switch: column.switch, position: cell.position }
  const open = column.switch !== '' && column.shared.length === 0
  const on = cell.held.filter((h) => h.on !== 'no')
  const where = [cell.rest ? 'at power-up' : '', cell.lost ? 'without a radio' : ''].filter(Boolean).join(', ')
  return (
    <section
      aria-label={`${column.name} at ${cell.position}`}
      data-switch={open ? column.switch : undefined}
      data-position={open ? cell.position : undefined}
      className={join(
        'rounded-[7px] border border-l-4 border-line bg-panel px-2.5 pt-0.75 pb-1.5 text-[14px]',
        edgeOf[cell.hold],
        !column.captured && 'border-dashed',
        here && 'border-y-ink border-r-ink',
        open && carry.carried !== '' && 'border-act',
        open && carry.over(spot) && 'bg-act-bg outline-2 outline-act',
      )}
    >
      <p className="flex flex-wrap justify-between gap-x-2">
        <span>
          <b className="text-[15px]">{cell.position}</b>
          {where && <span className="ml-1.5 text-[13px] text-soft">{where}</span>}
          {here && <span className="sr-only">, here now</span>}
        </span>
        <span className="whitespace-nowrap">{pulseOf(cell, column.captured)}</span>
      </p>
      <div className="flex min-h-7 flex-wrap items-center gap-1.5">
        {on.map((h) => (
          <Meaning key={meaningKey(h.function, spot)} quad={quad} id={h.function} at={spot} carry={carry} byTurns={h.on === 'byTurns'} />
        ))}
        {on.length === 0 && <span className="text-soft">{cell.words || 'nothing looks at it'}</span>}
      </div>
      <Gauge cell={cell} captured={column.captured} />
    </section>
  )
}

const far = 300 // µs that fill a side of the gauge

/** How far what arrives may move each way before something changes; the nearer side is drawn strong. */
function Gauge({ cell, captured }: { cell: CellOf; captured: boolean }) {
  if (!cell.below && !cell.above) return null
  const color = captured ? tone[cell.hold] : planned
  const strong = (which: 'below' | 'above') => (cell.nearer === which ? { color: captured ? color : 'var(--ink)' } : undefined)
  const side = (way: Schemas['ToEdge'] | undefined, which: 'below' | 'above') => {
    const near = cell.nearer === which
    const right = which === 'below'
    return (
      <span className="relative h-4" title={way ? `${Math.round(way.us)} µs ${which}: ${way.words}` : `nothing changes ${which}`}>
        <span
          className={join('absolute top-1/2 -translate-y-1/2', right ? 'right-0' : 'left-0', way ? '' : 'w-full border-t-2 border-dotted border-line')}
          style={
            way && {
              width: `${Math.max(3, Math.min(100, (100 * way.us) / far))}%`,
              height: near ? 6 : 2,
              background: near ? color : 'var(--faint)',
              [right ? 'borderLeft' : 'borderRight']: way.us < far ? '2.5px solid var(--ink)' : undefined,
            }
          }
        />
      </span>
    )
  }
  const figure = (way?: Schemas['ToEdge']) => (way ? Math.round(way.us) : '')
  const nearest = nearestOf(cell)
  return (
    <>
      <div
        role="img"
        aria-label={`below: ${cell.below ? `${cell.below.words} in ${Math.round(cell.below.us)} µs` : 'nothing changes'}; above: ${
          cell.above ? `${cell.above.words} in ${Math.round(cell.above.us)} µs` : 'nothing changes'
        }`}
        className="grid grid-cols-[2.2em_1fr_9px_1fr_2.2em] items-center text-[13px]"
      >
        <span className={cell.nearer === 'below' ? 'font-semibold' : 'text-soft'} style={strong('below')}>
          {figure(cell.below)}
        </span>
        {side(cell.below, 'below')}
        <span className="size-[9px] rounded-full bg-ink" />
        {side(cell.above, 'above')}
        <span className={join('text-right', cell.nearer === 'above' ? 'font-semibold' : 'text-soft')} style={strong('above')}>
          {figure(cell.above)}
        </span>
      </div>
      {cell.hold !== 'sure' && nearest && (
        <p style={{ color: captured ? color : undefined }}>
          {Math.round(nearest.us)} µs {cell.nearer}, {nearest.words}
        </p>
      )}
    </>
  )
}

const line = 18 // px of a mark's words

/** What lies between two positions: edges, stretches without a meaning, both modes at once, and what no position reaches. */
function Between({ marks, end }: { marks: Schemas['MapMark'][]; end?: boolean }) {
  if (end && marks.length === 0) return null
  const height = Math.max(18, marks.length * line + 8)
  const y = (share: number) => 3 + (1 - share) * (height - 6)
  return (
    <div className="grid grid-cols-[26px_minmax(0,1fr)]">
      <svg width="26" height={height} aria-hidden="true">
        {!end && <path d={`M11.5 0V${height}`} stroke="var(--line)" strokeWidth="5" />}
        {marks.map((m) =>
          m.kind === 'gap' ? (
            <path key={m.words} d={`M11.5 ${y(m.from)}V${y(m.to)}`} stroke="var(--paper)" strokeWidth="2" strokeDasharray="3 3" />
          ) : m.kind === 'overlap' ? (
            <path key={m.words} d={`M11.5 ${y(m.from)}V${y(m.to)}`} stroke="var(--fix)" strokeWidth="9" />
          ) : m.kind === 'missed' ? (
            <rect
              key={m.words}
              x="6"
              y={y((m.from + m.to) / 2) - 5}
              width="10"
              height="10"
              transform={`rotate(45 11 ${y((m.from + m.to) / 2)})`}
              fill="var(--paper)"
              stroke="var(--stop)"
              strokeWidth="2"
            />
          ) : (
            <path key={m.words} d={`M4 ${y(m.from)}H20`} stroke="var(--ink)" strokeWidth="2" />
          ),
        )}
      </svg>
      <ul className="flex flex-col justify-center pl-1 text-[13px] leading-[18px] text-soft">
        {[...marks].reverse().map((m) => (
          <li key={m.words} className={m.kind === 'overlap' ? 'text-fix' : m.kind === 'missed' ? 'text-stop' : undefined}>
            {m.words}
          </li>
        ))}
      </ul>
    </div>
  )
}
