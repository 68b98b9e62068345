// Figures that the page draws itself, in the units that the pilot wants; what is said in words comes from the core like that.
import { usePilot } from './client'

const digits = (x: number, n: number) => Number(x.toPrecision(n)).toString()

/** Writes masses and lengths as the pilot wants them. */
export function useUnits() {
  const { mass = { unit: 'g', per: 1 }, length = { unit: 'mm', per: 1 } } = usePilot().data ?? {}
  return {
    mass: (grams: number) => `${mass.per === 1 ? Math.round(grams) : digits(grams / mass.per, 3)} ${mass.unit}`,
    length: (millimetres: number) => `${digits(millimetres / length.per, length.per === 1 ? 4 : 3)} ${length.unit}`,
  }
}
