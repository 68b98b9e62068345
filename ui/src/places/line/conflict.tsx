// Two windows on one quad: the later act is not made; its pilot sees where both went apart and chooses.
import { lazy, Suspense, useSyncExternalStore } from 'react'
import { showError } from '../../shell/message'
import { type Change, type QuadView, type Refusal, reconcile } from '../../wire/client'
import type { Conflict } from './choice'

const Choice = lazy(() => import('./choice').then((m) => ({ default: m.Choice })))

let conflict: Conflict | null = null
const listeners = new Set<() => void>()
function show(c: Conflict | null) {
  conflict = c
  for (const l of listeners) l()
}

/** Handles an act's error: one that came too late leads to the choice, any other is told. */
export function onConflict(seen: QuadView, what: string, values: Change[]) {
  return (e: Error) => {
    if ((e as Refusal).code !== 'changed') return showError(e)
    reconcile(seen.id, seen.meant, values)
      .then((rows) => show({ id: seen.id, what, rows }))
      .catch(showError)
  }
}

export function Conflicts({ quad }: { quad: QuadView }) {
  const c = useSyncExternalStore(
    (l) => {
      listeners.add(l)
      return () => listeners.delete(l)
    },
    () => conflict,
  )
  return c && c.id === quad.id ? (
    <Suspense>
      <Choice conflict={c} quad={quad} onClose={() => show(null)} />
    </Suspense>
  ) : null
}
