// Which propeller goes where, with pictures of the edge that leads.
import { words } from '../../places/line/typed'
import { AsTable } from '../../shell/as-table'
import type { QuadAt } from '../../wire/figures'
import { Blades, type Corner, cornerWords, disc, places, QuadBody, SweepArrow } from '../drawing'

export function Propellers({ quad }: { quad: QuadAt<'motors'> }) {
  const at = places(quad)
  const both = quad.meant.sheet.motors.reversible
  return (
    <div className="min-h-0 overflow-y-auto pr-2 [&>svg]:max-h-74 [&>svg]:w-full">
      <AsTable
        keyless
        caption="Propellers"
        head={['corner', 'of the hand', 'noted as fitted']}
        rows={quad.corners.map((c) => [cornerWords[c.corner as Corner], hand(c.wants), c.hand ? hand(c.hand) : 'not noted'])}
      />
      <svg viewBox="0 34 852 414" role="img" aria-label={quad.corners.map((c) => `${cornerWords[c.corner as Corner]}: ${hand(c.wants)}`).join('. ')}>
        <QuadBody quad={quad} lit={['propellers']}>
          {quad.corners.map((c) => {
            const [x, y] = at[c.corner as Corner]
            const { cx, cy, rx, ry } = disc(x, y)
            const wrong = c.hand && c.wants && c.hand !== c.wants
            const right = x > 0 || (x === 0 && y > 0)
            return (
              <g key={c.corner}>
                <ellipse
                  cx={cx}
                  cy={cy}
                  rx={rx}
                  ry={ry}
                  fill={wrong ? 'var(--stop-bg)' : 'var(--panel)'}
                  stroke={wrong ? 'var(--stop)' : c.hand ? 'var(--ok)' : 'var(--soft)'}
                  strokeWidth="1.6"
                />
                {c.wants && <Blades x={x} y={y} clockwise={c.wants === 'clockwise'} />}
                {c.wants && <SweepArrow x={x} y={y} r={80} clockwise={c.wants === 'clockwise'} colour="var(--act)" width={3} />}
                <text x={right ? cx + rx + 12 : cx - rx - 12} y={cy - 6} textAnchor={right ? 'start' : 'end'} fontSize="17" fontWeight="600">
                  {cornerWords[c.corner as Corner]}
                </text>
                <text
                  x={right ? cx + rx + 12 : cx - rx - 12}
                  y={cy + 14}
                  textAnchor={right ? 'start' : 'end'}
                  fontSize="14"
                  style={{ fill: wrong ? 'var(--stop)' : 'var(--soft)' }}
                >
                  {wrong ? `noted ${hand(c.hand)}: it pushes down` : c.hand ? 'noted as wanted' : hand(c.wants)}
                </text>
              </g>
            )
          })}
        </QuadBody>
      </svg>
      <div className="grid grid-cols-[210px_210px_minmax(0,1fr)] items-center gap-4.5">
        <Hand clockwise />
        <Hand />
        <p>
          Lettering up. Hold it flat and look along the blade: one edge is high, the other low. <b>The high edge goes first.</b> Turned the other way it pushes
          down, with about half its thrust. {both ? 'With reversible thrust each does both; what is drawn is forward.' : ''} Pack out while you fit them, and
          fit them only at First flight; nut torque {quad.meant.parts.propeller.nutTorque} N·m.
        </p>
      </div>
    </div>
  )
}

const hand = (spin: string) => (spin ? `turning ${words(spin)}` : 'not planned yet')

/** One propeller from above, and its section as it comes towards you: the high edge leads. */
function Hand({ clockwise }: { clockwise?: boolean }) {
  return (
    <svg
      viewBox="0 0 210 122"
      width="210"
      height="122"
      role="img"
      aria-label={`A propeller that turns ${clockwise ? 'clockwise' : 'counter-clockwise'}: its ${clockwise ? 'left' : 'right'} blade's far edge is high`}
    >
      <g transform={clockwise ? '' : 'translate(210 0) scale(-1 1)'}>
        <path d="M100 44C70 30 34 30 14 42C34 58 70 54 100 50Z" fill="var(--act-bg)" stroke="var(--soft)" />
        <path d="M110 50C140 64 176 64 196 52C176 36 140 40 110 44Z" fill="var(--act-bg)" stroke="var(--soft)" />
        <path d="M100 44C70 30 34 30 14 42" fill="none" stroke="var(--act)" strokeWidth="4" />
        <path d="M110 50C140 64 176 64 196 52" fill="none" stroke="var(--act)" strokeWidth="4" />
        <circle cx="105" cy="47" r="9" fill="var(--ink)" />
        <path d="M62 18A52 34 0 0 1 148 18" fill="none" stroke="var(--soft)" strokeWidth="2" />
        <path d="M152 22l-10 -2 7 -8z" fill="var(--soft)" />
        <path d="M40 88L92 104" stroke="var(--soft)" strokeWidth="6" strokeLinecap="round" />
        <path d="M40 88L54 92" stroke="var(--act)" strokeWidth="6" strokeLinecap="round" />
        <path d="M30 96H10M10 96l7 -4M10 96l7 4" stroke="var(--act)" strokeWidth="2" fill="none" />
      </g>
      <text x={clockwise ? 105 : 105} y="88" fontSize="12.5" style={{ fill: 'var(--soft)' }} textAnchor="middle" />
      <text x="105" y="119" fontSize="12.5" textAnchor="middle">
        {clockwise ? 'clockwise' : 'counter-clockwise'}, high edge first
      </text>
    </svg>
  )
}
