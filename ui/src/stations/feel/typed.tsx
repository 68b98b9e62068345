import { useState } from 'react'
import { figure } from '../senses/figure'

type Props = {
  label: string
  value: number
  unit?: string
  least: number
  most: number
  onType: (value: number) => void
  className?: string
  disabled?: boolean
  /** What 0 stands for, where it is no figure: shown in its place while nobody told one. */
  blank?: string
}

/** A figure that is typed: taken when the field is left or Enter is pressed, and said beside it where it cannot be. */
export function TypedFigure({ label, value, unit = '', least, most, onType, className = 'w-19!', disabled, blank }: Props) {
  const [text, setText] = useState<string | null>(null)
  const x = figure((text ?? '').replace(/\s*(°\/s|Hz|%|deg\/s|ms)$/, ''))
  const wrong = text !== null && text.trim() !== '' && (x === null || x < least || x > most)
  const take = () => {
    if (text === null) return
    if (blank && text.trim() === '' && value !== 0) onType(0)
    if (!wrong && x !== null && x !== value) onType(x)
    if (!wrong) setText(null)
  }
  return (
    <span className="inline-flex flex-wrap items-baseline gap-x-1">
      <input
        type="text"
        inputMode="decimal"
        aria-label={label}
        aria-invalid={wrong}
        disabled={disabled}
        className={`${className} py-0.5! text-right`}
        placeholder={blank}
        value={text ?? (blank && value === 0 ? '' : String(value))}
        onChange={(e) => setText(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => {
          if (e.key === 'Enter') take()
          if (e.key === 'Escape') setText(null)
        }}
      />
      {unit && <span className="text-[13px] text-soft">{unit}</span>}
      {wrong && (
        <span role="alert" className="text-[13px] text-stop">
          {least} to {most}
        </span>
      )}
    </span>
  )
}
