// Read by the compiler alone: a place that is misspelt is refused, and one with a name in it is not.
import type { Path } from './path'

export const right: Path[] = ['sheet.motors.idle', 'sheet.motors.outputs.B.reversed', 'readings.sticks.switches.left shoulder']
export const wrong: Path[] = [
  // @ts-expect-error
  'sheet.motors.idel',
  // @ts-expect-error
  'sheet.motors.outputs.B.revresed',
  // @ts-expect-error
  'readings.sticks.switch.left shoulder',
]
