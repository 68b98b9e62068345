import type { ComponentType } from 'react'
import { Button } from '../kit/button'
import { type FiguresOf, type QuadAt, useFigures } from '../wire/figures'
import type { StationProps } from './props'

/** An instrument with the figures that it draws. */
export function figured<F extends FiguresOf>(of: F, Instrument: ComponentType<StationProps<QuadAt<F>>>): ComponentType<StationProps> {
  return function Figured({ quad, perch }: StationProps) {
    const got = useFigures(quad, of)
    if (got.quad) return <Instrument quad={got.quad} perch={perch} />
    if (!got.error) return <p aria-busy="true">Working it out…</p>
    return (
      <div>
        <p role="alert">{got.error.message}</p>
        <Button onClick={got.again}>Try again</Button>
      </div>
    )
  }
}
