import { Check } from 'lucide-react'
import { Checkbox } from 'radix-ui'
import { type ReactNode, useId } from 'react'
import { join } from './join'

type Props = { checked: boolean; onChange: (checked: boolean) => void; disabled?: boolean; className?: string; children: ReactNode }

/** Yes or no, with its words beside it. */
export function Tick({ checked, onChange, disabled, className, children }: Props) {
  const id = useId()
  return (
    <span className={join('inline-flex items-center gap-2', className)}>
      <Checkbox.Root
        id={id}
        checked={checked}
        disabled={disabled}
        onCheckedChange={(c) => onChange(c === true)}
        className="grid size-[17px] flex-none place-items-center rounded-[4px] border border-faint bg-paper disabled:opacity-45 data-[state=checked]:border-act data-[state=checked]:bg-act data-[state=checked]:text-panel"
      >
        <Checkbox.Indicator>
          <Check size={13} strokeWidth={3} aria-hidden />
        </Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id}>{children}</label>
    </span>
  )
}
