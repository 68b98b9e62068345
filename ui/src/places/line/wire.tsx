import { useEffect, useRef } from 'react'
import { NavLink } from 'react-router'
import { Bird, tone } from '../../shell/birds'
import type { Perch } from '../../wire/client'

const x0 = 62
const dx = 89
const sag = (x: number) => {
  const t = ((((x - 17.5) % 445) + 445) % 445) / 445
  return 40 + 30 * t * (1 - t)
}
const path = (from: number, to: number) => {
  let d = `M${from} ${sag(from)}`
  for (let x = from + 4; x <= to; x += 4) d += `L${x} ${sag(x)}`
  return d
}

/** The line as a wire with fourteen perches: progress, navigation and summary in one. */
export function Wire({ id, line, here }: { id: number; line: Perch[]; here: string }) {
  const nav = useRef<HTMLElement>(null)
  // On a phone the wire is wider than the screen: the station at hand comes into sight.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the station that matters
  useEffect(() => {
    const n = nav.current
    const at = n?.querySelector('[aria-current=step]')?.getBoundingClientRect()
    if (n && at) n.scrollLeft += at.left - (n.clientWidth - at.width) / 2
  }, [here])
  return (
    <nav
      ref={nav}
      className="relative border-b border-line bg-linear-to-b from-panel to-paper print:hidden phone:overflow-x-auto [&_a:focus-visible]:outline-none [&_svg]:block [&_svg]:h-31 [&_svg]:w-full phone:[&_svg]:w-320"
      aria-label="Stations"
    >
      <svg viewBox="0 0 1280 124" preserveAspectRatio="xMidYMid meet">
        <title>The line of stations</title>
        <path d={path(0, 1280)} fill="none" stroke="var(--wire)" strokeWidth="2" />
        {[17.5, 462.5, 907.5].map((x) => (
          <path key={x} d={`M${x} 26V80`} stroke="var(--wire)" strokeWidth="5" opacity=".35" />
        ))}
        {line.map((p, i) => (
          <Stop key={p.id} p={p} x={x0 + i * dx} id={id} here={p.id === here} />
        ))}
      </svg>
    </nav>
  )
}

function Stop({ p, x, id, here }: { p: Perch; x: number; id: number; here: boolean }) {
  const y = sag(x)
  return (
    <NavLink to={`/quads/${id}/${p.id}`} aria-label={`${p.number}. ${p.name}: ${p.word}`} aria-current={here ? 'step' : undefined}>
      <rect
        className="[a:focus-visible_&]:stroke-act [a:focus-visible_&]:stroke-3"
        x={x - 44}
        y="3"
        width="88"
        height="119"
        rx="8"
        fill={here ? 'var(--panel)' : 'transparent'}
        stroke={here ? 'var(--line)' : 'none'}
      />
      {here && (
        <>
          <path d={path(x - 44, x + 44)} fill="none" stroke="var(--wire)" strokeWidth="2" />
          <rect x={x - 44} y="120" width="88" height="4" fill="var(--act)" />
        </>
      )}
      <g transform={`translate(${x} ${y})`}>
        <Bird state={p.state} />
      </g>
      <text x={x} y="96" textAnchor="middle" fontSize="14.5" fontWeight={here ? 700 : 600}>
        {p.name}
      </text>
      <text x={x} y="113" textAnchor="middle" fontSize="12.5" fontWeight="600" style={{ fill: tone[p.state] }}>
        {p.word}
      </text>
    </NavLink>
  )
}
