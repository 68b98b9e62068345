// One sentence at the foot of the page: what was refused, and why.
import { lazy, Suspense, useEffect, useSyncExternalStore } from 'react'
import { useLocation } from 'react-router'
import { TextButton } from '../kit/button'
import { useLive } from '../wire/live'

/** What stands where the better one cannot be loaded, because the program is gone: the sentence has to be heard all the same. */
function Plain({ says, onGone }: { says: string; onGone: () => void }) {
  if (!says) return null
  return (
    <section aria-label="What was refused" aria-live="assertive" className="fixed bottom-20 left-6 z-30">
      <ul>
        <li className="flex items-baseline gap-4 rounded-lg bg-ink px-4 py-2.5 text-panel">
          <span>{says}</span>
          <TextButton className="text-panel underline" onClick={onGone}>
            Dismiss
          </TextButton>
        </li>
      </ul>
    </section>
  )
}

// Loaded soon after the page: hardly anything is refused before.
const toast = () => import('../kit/toast').then((m) => ({ default: m.Sentence }))
const Sentence = lazy(() => toast().catch(() => ({ default: Plain })))
export const loadMessage = () => toast().catch(() => undefined)

let sentence = ''
const listeners = new Set<() => void>()

export function show(text: string) {
  sentence = text
  for (const l of listeners) l()
}

export const showError = (e: unknown) => show(e instanceof Error ? e.message : String(e))

export function Message() {
  const { pathname } = useLocation()
  // What was refused at one place has nothing to say at the next, and must not lie over what is there.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the place that matters
  useEffect(() => show(''), [pathname])
  const text = useSyncExternalStore(
    (l) => {
      listeners.add(l)
      return () => listeners.delete(l)
    },
    () => sentence,
  )
  const refused = useLive((s) => s.refused?.says ?? '')
  const n = useLive((s) => s.refused?.n ?? 0)
  const says = text || (refused && n !== dismissed ? refused : '')
  const gone = () => {
    dismissed = n
    show('')
  }
  if (says) said = true
  return <Suspense fallback={<Plain says={says} onGone={gone} />}>{said && <Sentence says={says} onGone={gone} />}</Suspense>
}

let dismissed = 0
let said = false
