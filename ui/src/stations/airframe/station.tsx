import { lazy, Suspense } from 'react'
import { useSearchParams } from 'react-router'
import { stage } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import type { QuadAt } from '../../wire/figures'
import { useUnits } from '../../wire/units'
import { type Callout, CalloutMark, CalloutTable } from '../callout'
import { PlainRotors, places, QuadBody } from '../drawing'
import type { StationProps } from '../props'

const views = {
  apart: lazy(() => import('./apart').then((m) => ({ default: m.TakenApart }))),
  curves: lazy(() => import('./curves').then((m) => ({ default: m.OperatingCurves }))),
  lead: lazy(() => import('./lead').then((m) => ({ default: m.PowerLead }))),
  'what-if': lazy(() => import('./what-if').then((m) => ({ default: m.WhatIf }))),
  search: lazy(() => import('./search').then((m) => ({ default: m.PartSearch }))),
  parts: lazy(() => import('./parts').then((m) => ({ default: m.PartsList }))),
}
const shown = [
  { value: 'drawing', words: 'On the drawing' },
  { value: 'apart', words: 'Taken apart' },
  { value: 'curves', words: 'Curves' },
  { value: 'lead', words: 'Power lead' },
  { value: 'what-if', words: 'What if' },
  { value: 'search', words: 'Search' },
  { value: 'parts', words: 'Parts' },
] as const
type View = keyof typeof views

const n = (x: number, digits = 1) => x.toLocaleString('en-GB', { maximumFractionDigits: digits, useGrouping: false })

/** Words of a figure that somebody told. */
const told = (x: number, words: string, otherwise = 'not told') => (x ? words : otherwise)

/** The parts on the drawing with what they come to together. */
export function AirframeStation({ quad }: StationProps<QuadAt<'airframe'>>) {
  const a = quad.airframe
  const p = quad.meant.parts
  const rotors = places(quad)
  const units = useUnits()
  const estimated = (quad.line[0]?.estimates.length ?? 0) > 0
  const [query, setQuery] = useSearchParams()
  const callouts: Callout[] = [
    {
      at: rotors.frontLeft,
      side: 'left',
      row: 0,
      name: p.motor.name,
      lines: [
        `${n(p.motor.kv)} rpm/V, peak ${n(a.peakMotor)} A`,
        told(p.speedController.continuous, `speed controllers carry ${n(p.speedController.continuous)} A`, 'speed controllers not told'),
      ],
    },
    {
      at: rotors.frontRight,
      side: 'right',
      row: 0,
      name: p.propeller.name,
      lines: [units.length(p.propeller.diameter), `tips at Mach ${n(a.tipMach, 2)} at most`],
    },
    {
      at: [-0.06, 0.3],
      side: 'left',
      row: 2,
      name: `Pack ${a.pack}`,
      lines: [`full throttle asks ${n(a.peakPack, 0)} A`, `hovers ${n(a.minutes)} min to 80 %`],
    },
    {
      at: [0.12, -0.3],
      side: 'right',
      row: 2,
      name: 'Capacitor',
      lines: [told(p.capacitor.capacitance, `${n(p.capacitor.capacitance)} µF`, 'none told') + told(p.capacitor.rating, `, ${n(p.capacitor.rating)} V`, '')],
    },
    {
      at: [-0.14, -0.42],
      side: 'left',
      row: 3,
      name: units.mass(a.mass),
      lines: [a.weighed ? 'as weighed' : 'by parts: an estimate', `lifts ${n(a.ratio)} times its weight`],
    },
    {
      at: [0.14, 0],
      side: 'right',
      row: 3,
      name: `Hovers at ${n(a.hoverDuty, 0)} % duty`,
      lines: [`drawing ${n(a.hoverCurrent)} A${estimated ? ', by estimates' : ''}`],
    },
  ]
  const asked = query.get('at') ?? ''
  const at = asked in views ? (asked as View) : undefined
  const ways = (
    <div>
      <Segments items={[...shown]} value={at ?? 'drawing'} onChoose={(to) => setQuery(to === 'drawing' ? {} : { at: to }, { replace: true })} />
    </div>
  )
  if (at) {
    const Shown = views[at]
    return (
      <div className={stage}>
        {ways}
        <Suspense>
          <Shown quad={quad} />
        </Suspense>
      </div>
    )
  }
  return (
    <div className={stage}>
      <CalloutTable callouts={callouts} />
      {ways}
      <svg viewBox="0 0 852 500" role="img" aria-label={callouts.map((c) => `${c.name}: ${c.lines.join(', ')}`).join('. ')}>
        <QuadBody quad={quad} lit={['frame', 'motors', 'pack', 'lead']}>
          <PlainRotors quad={quad} lit />
          {a.known && callouts.map((c) => <CalloutMark key={c.name} c={c} />)}
          {!a.known && (
            <text x="426" y="480" textAnchor="middle" fontSize="16">
              Parts are missing: thrust, current and hover cannot be said. Say at Parts what is on it.
            </text>
          )}
        </QuadBody>
      </svg>
    </div>
  )
}
