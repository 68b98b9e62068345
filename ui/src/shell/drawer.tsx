import { Dialog } from 'radix-ui'
import { type ReactNode, useRef } from 'react'
import { TextButton } from '../kit/button'

/** A sheet that slides over the ledger: it takes the keyboard, Escape closes it, the rest of the page stays alive. */
export function Drawer({ label, title, onClose, children }: { label: string; title: string; onClose: () => void; children: ReactNode }) {
  const ref = useRef<HTMLElement>(null)
  return (
    <Dialog.Root open modal={false} onOpenChange={(open) => !open && onClose()}>
      <Dialog.Content
        asChild
        role="region"
        aria-label={label}
        aria-labelledby={undefined}
        aria-describedby={undefined}
        onInteractOutside={(e) => e.preventDefault()}
        onOpenAutoFocus={(e) => {
          e.preventDefault()
          ref.current?.focus()
        }}
      >
        <section
          ref={ref}
          className="absolute top-0 right-0 bottom-0 z-5 flex w-98 flex-col gap-2.5 overflow-y-auto border-l border-line bg-panel px-4.5 py-3 shadow-[-12px_0_24px_var(--shade)] focus-visible:outline-none phone:fixed phone:inset-[auto_0_0] phone:max-h-[82vh] phone:w-auto phone:border-t phone:border-l-0"
          tabIndex={-1}
        >
          <div className="flex flex-wrap items-center gap-2.5 justify-between">
            <Dialog.Title className="text-[18px]">{title}</Dialog.Title>
            <Dialog.Close asChild>
              <TextButton>Close</TextButton>
            </Dialog.Close>
          </div>
          {children}
        </section>
      </Dialog.Content>
    </Dialog.Root>
  )
}
