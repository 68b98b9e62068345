import { Toggle } from 'radix-ui'
import type { ReactNode } from 'react'
import { join } from './join'

type Item<T extends string> = { value: T; words: ReactNode; label?: string }
type Props<T extends string> = {
  items: Item<T>[]
  /** What is chosen now; nothing where nothing is. */
  value: T | ''
  onChoose: (value: T) => void
  disabled?: boolean
  small?: boolean
  label?: string
}

/** A few things of which one is chosen, side by side: each a button that is pressed or not. */
export function Segments<T extends string>({ items, value, onChoose, disabled, small, label }: Props<T>) {
  const Box = label ? 'fieldset' : 'span'
  return (
    <Box aria-label={label} className="inline-flex max-w-full self-start bg-panel overflow-hidden rounded-lg border border-line phone:flex-wrap">
      {items.map((i) => (
        <Toggle.Root
          key={i.value}
          pressed={i.value === value}
          onPressedChange={() => onChoose(i.value)}
          disabled={disabled}
          aria-label={i.label}
          className={join(
            'bg-panel px-3 py-1 text-soft phone:min-h-9 disabled:opacity-45 data-[state=on]:bg-ink data-[state=on]:text-panel',
            small && 'px-[7px] py-0.5 text-[12.5px]',
          )}
        >
          {i.words}
        </Toggle.Root>
      ))}
    </Box>
  )
}
