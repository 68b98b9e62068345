import { type ReactNode, useEffect, useRef } from 'react'
import { TextButton } from '../kit/button'

/** Moves the keyboard to what has opened, and back where it was when it closes. */
function useFocusInside<T extends HTMLElement>() {
  const ref = useRef<T>(null)
  useEffect(() => {
    const before = document.activeElement
    ref.current?.focus()
    return () => {
      if (before instanceof HTMLElement && before.isConnected) before.focus()
    }
  }, [])
  return ref
}

/** A sheet that slides over the ledger: it takes the keyboard, Escape closes it, the rest of the page stays alive. */
export function Drawer({ label, title, onClose, children }: { label: string; title: string; onClose: () => void; children: ReactNode }) {
  const ref = useFocusInside<HTMLElement>()
  return (
    <section
      ref={ref}
      className="absolute top-0 right-0 bottom-0 z-5 flex w-98 flex-col gap-2.5 overflow-y-auto border-l border-line bg-panel px-4.5 py-3 shadow-[-12px_0_24px_var(--shade)] focus-visible:outline-none phone:fixed phone:inset-[auto_0_0] phone:max-h-[82vh] phone:w-auto phone:border-t phone:border-l-0"
      aria-label={label}
      tabIndex={-1}
      onKeyDown={(e) => {
        if (e.key === 'Escape') onClose()
      }}
    >
      <div className="flex flex-wrap items-center gap-2.5 justify-between">
        <h2 className="text-[18px]">{title}</h2>
        <TextButton onClick={onClose}>Close</TextButton>
      </div>
      {children}
    </section>
  )
}
