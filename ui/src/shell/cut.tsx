import { createPortal } from 'react-dom'
import { Button } from '../kit/button'
import { bench } from '../wire/client'
import { say } from '../wire/live'

/** Cuts the bench power: over the socket first, which is quickest, and by a request, should it be gone. */
export function cutPower() {
  say({ kind: 'cut' })
  void bench.cut().catch(() => undefined)
}

/**
 * The cut, in a layer of its own above all others. A dialog makes the rest of the page inert; what is named live is left out of that, and the
 * layer takes presses whatever the page does.
 */
export function Cut() {
  return createPortal(
    <div
      data-above
      aria-live="off"
      className="pointer-events-auto fixed top-2 right-5 z-50 phone:top-0 phone:right-0 phone:flex phone:h-[47px] phone:items-center phone:border-l phone:border-line phone:bg-paper phone:px-2.5 print:hidden"
    >
      <Button className="border-stop bg-stop px-3 py-1.5 text-[14px] text-panel hover:border-ink hover:bg-ink" onClick={cutPower}>
        Cut power <kbd className="phone:hidden">F9</kbd>
      </Button>
    </div>,
    document.body,
  )
}
