// Figures that the page draws itself, in the units that the pilot wants; what is said in words comes from the core like that.
import { usePilot } from './client'

const digits = (x: number, n: number) => Number(x.toPrecision(n)).toString()

/** Writes masses and lengths as the pilot wants them. */
export function useUnits() {
  const shows = usePilot().data?.shows
  return {
    mass: (grams: number) => (shows?.mass === 'oz' ? `${digits(grams / 28.349523125, 3)} oz` : `${Math.round(grams)} g`),
    length: (millimetres: number) => (shows?.length === 'in' ? `${digits(millimetres / 25.4, 3)} in` : `${digits(millimetres, 4)} mm`),
  }
}
