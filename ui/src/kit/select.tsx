import { getNonce } from 'get-nonce'
import { Check, ChevronDown } from 'lucide-react'
import { Select as Radix } from 'radix-ui'
import { useState } from 'react'
import { join } from './join'

export type Option = { value: string; words: string; off?: boolean }

type Props = {
  /** Its name for who does not see what stands beside it. */
  label: string
  options: Option[]
  /** What is chosen; without it the select keeps it by itself, from `start` on, and a form sends it under `name`. */
  value?: string
  start?: string
  name?: string
  onChoose?: (value: string) => void
  /** Shown while nothing is chosen. */
  empty?: string
  disabled?: boolean
  id?: string
  className?: string
}

// Nothing is a choice like any other here, which the primitive keeps for itself.
const mark = (value: string) => `=${value}`

/** One of several, listed when it is wanted. The list is drawn while it is open alone; the cut stands above it. */
export function Select({ label, options, value, start = '', name, onChoose, empty = '', disabled, id, className }: Props) {
  const [own, setOwn] = useState(start)
  const [open, setOpen] = useState(false)
  const now = value ?? own
  const chosen = options.find((o) => o.value === now)
  return (
    <>
      {name && <input type="hidden" name={name} value={now} />}
      <Radix.Root
        open={open}
        onOpenChange={setOpen}
        value={chosen ? mark(now) : ''}
        disabled={disabled}
        onValueChange={(v) => {
          if (!v) return
          setOwn(v.slice(1))
          onChoose?.(v.slice(1))
        }}
      >
        <Radix.Trigger
          id={id}
          aria-label={label}
          className={join(
            'inline-flex max-w-full items-center justify-between gap-2 rounded-md border border-faint bg-paper py-1.25 pr-2 pl-2.25 text-left text-ink disabled:opacity-50 pointer-coarse:min-h-10',
            className,
          )}
        >
          <span className={join('truncate', !chosen && 'text-soft')}>
            <Radix.Value placeholder={empty || '\u00a0'}>{chosen?.words || '\u00a0'}</Radix.Value>
          </span>
          <ChevronDown size={15} aria-hidden className="flex-none text-soft" />
        </Radix.Trigger>
        {open && (
          <Radix.Portal>
            <Radix.Content
              position="popper"
              sideOffset={3}
              // Escape is for this list, not for what it stands in; a press on the cut is no press beside it.
              onKeyDown={(e) => e.key === 'Escape' && e.stopPropagation()}
              onPointerDownOutside={(e) => (e.detail.originalEvent.target as Element | null)?.closest('[data-above]') && e.preventDefault()}
              className="z-40 max-h-[min(380px,var(--radix-select-content-available-height))] min-w-(--radix-select-trigger-width) overflow-hidden rounded-lg border border-line bg-panel text-ink shadow-[0_8px_24px_var(--shade)]"
            >
              <Radix.Viewport nonce={getNonce()} className="p-1">
                {options.map((o) => (
                  <Radix.Item
                    key={o.value}
                    value={mark(o.value)}
                    disabled={o.off}
                    data-value={o.value}
                    className="flex cursor-pointer items-center gap-2 rounded-md py-1 pr-3 pl-7 data-[disabled]:cursor-not-allowed data-[disabled]:text-faint data-[highlighted]:bg-act-bg data-[highlighted]:outline-none"
                  >
                    <Radix.ItemIndicator className="absolute left-2.5">
                      <Check size={14} aria-hidden />
                    </Radix.ItemIndicator>
                    <Radix.ItemText>{o.words || empty || 'nothing'}</Radix.ItemText>
                  </Radix.Item>
                ))}
              </Radix.Viewport>
            </Radix.Content>
          </Radix.Portal>
        )}
      </Radix.Root>
    </>
  )
}
