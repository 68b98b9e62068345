import { Dialog as Radix } from 'radix-ui'
import type { ReactNode } from 'react'
import { join } from './join'

type Props = {
  title: string
  onClose: () => void
  className?: string
  /** Its title is heard, not shown. */
  bare?: boolean
  children: ReactNode
}

/**
 * A dialog over the page, open for as long as it is drawn: it takes the keyboard and gives it back, Escape and a press beside it close it.
 * The cut stands above it; see shell/cut.tsx.
 */
export function Dialog({ title, onClose, className, bare, children }: Props) {
  return (
    <Radix.Root open onOpenChange={(open) => open || onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-30 bg-veil" />
        <Radix.Content
          aria-describedby={undefined}
          // What stands above is no place beside it.
          onInteractOutside={(e) => (e.detail.originalEvent.target as Element | null)?.closest('[data-above]') && e.preventDefault()}
          className={join(
            'fixed top-1/2 left-1/2 z-30 max-h-[85vh] max-w-[94vw] -translate-1/2 overflow-y-auto rounded-[10px] border border-line bg-panel px-6 py-5 text-ink',
            className,
          )}
        >
          <Radix.Title className={bare ? 'sr-only' : 'font-head text-[17px] font-semibold'}>{title}</Radix.Title>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}

/** Closes the dialog that it stands in. */
export const DialogClose = Radix.Close
