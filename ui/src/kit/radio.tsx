import { RadioGroup } from 'radix-ui'
import { type ReactNode, useId } from 'react'
import { join } from './join'

type Props = { label: string; value: string; onChoose: (value: string) => void; className?: string; children: ReactNode }

/** A few ways of which one is taken. */
export function Choices({ label, value, onChoose, className, children }: Props) {
  return (
    <RadioGroup.Root aria-label={label} value={value} onValueChange={onChoose} className={className}>
      {children}
    </RadioGroup.Root>
  )
}

/** One of the ways; label says more than its words where they alone would not tell. */
export function Choice({ value, label, className, children }: { value: string; label?: string; className?: string; children: ReactNode }) {
  const id = useId()
  return (
    <span className={join('inline-flex items-baseline gap-2', className)}>
      <RadioGroup.Item
        id={id}
        value={value}
        aria-label={label}
        className="grid size-[17px] flex-none translate-y-[3px] place-items-center rounded-full border border-faint bg-paper data-[state=checked]:border-act"
      >
        <RadioGroup.Indicator className="size-[9px] rounded-full bg-act" />
      </RadioGroup.Item>
      <label htmlFor={id}>{children}</label>
    </span>
  )
}
