/** What a wish for other parts is told on. */
export type Axis = 'hoverDuty' | 'minutes' | 'ratio' | 'mass'
export const axes: { key: Axis; words: string; goal: string; unit: string; less: boolean }[] = [
  { key: 'hoverDuty', words: 'Hover, duty', goal: 'hovers at, at most, %', unit: '%', less: true },
  { key: 'minutes', words: 'Minutes', goal: 'hovers for, at least, min', unit: 'min', less: false },
  { key: 'ratio', words: 'Lifts its weight', goal: 'lifts its weight, times, at least', unit: '×', less: false },
  { key: 'mass', words: 'Weight', goal: 'weighs, at most, g', unit: 'g', less: true },
]
export type Goals = Record<Axis, number>
