import { type ReactNode, useEffect, useRef } from 'react'

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
      className="drawer"
      aria-label={label}
      tabIndex={-1}
      onKeyDown={(e) => {
        if (e.key === 'Escape') onClose()
      }}
    >
      <div className="bar spread">
        <h2>{title}</h2>
        <button type="button" className="link" onClick={onClose}>
          Close
        </button>
      </div>
      {children}
    </section>
  )
}
