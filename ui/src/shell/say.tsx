// One sentence at the foot of the page: what was refused, and why.
import { useEffect, useSyncExternalStore } from 'react'
import { useLocation } from 'react-router'
import { useLive } from '../wire/live'

let sentence = ''
const listeners = new Set<() => void>()
let timer = 0

export function tell(text: string) {
  sentence = text
  window.clearTimeout(timer)
  if (text) timer = window.setTimeout(() => tell(''), 12_000)
  for (const l of listeners) l()
}

export const tellError = (e: unknown) => tell(e instanceof Error ? e.message : String(e))

export function Say() {
  const { pathname } = useLocation()
  // What was refused at one place has nothing to say at the next, and must not lie over what is there.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the place that matters
  useEffect(() => tell(''), [pathname])
  const text = useSyncExternalStore(
    (l) => {
      listeners.add(l)
      return () => listeners.delete(l)
    },
    () => sentence,
  )
  const refused = useLive((s) => s.refused?.says ?? '')
  const n = useLive((s) => s.refused?.n ?? 0)
  return (
    <div aria-live="assertive">
      {(text || (refused && n !== dismissed)) && (
        <div
          className="fixed bottom-20 left-6 z-30 flex max-w-140 items-baseline gap-4 rounded-lg bg-ink px-4 py-2.5 text-panel phone:right-3.5 phone:bottom-3.5 phone:left-3.5 [&_button]:font-semibold [&_button]:underline"
          role="alert"
        >
          <span>{text || refused}</span>
          <button
            type="button"
            onClick={() => {
              dismissed = n
              tell('')
            }}
          >
            Dismiss
          </button>
        </div>
      )}
    </div>
  )
}

let dismissed = 0
