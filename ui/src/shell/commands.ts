// The one registry of what can be done by a key: the key list, the palette and the listener all read it.
// A place registers its commands while it is shown; see docs/page.md.
import { useEffect, useRef, useSyncExternalStore } from 'react'

export type Command = {
  /** What it does, as a short imperative; the palette finds it by this. */
  words: string
  /** KeyboardEvent.key, without modifiers. Letters are lower case. Without one the palette alone has it. */
  key?: string
  /** How the key is written where it is shown. */
  shown?: string
  run: () => void
  /** Where it belongs, for the lists: "Everywhere", "On the line", the name of a station. */
  place: string
  /** Kept out of the key list: one of many of a kind. */
  aside?: boolean
  /** Other words that a pilot may look for it by. */
  also?: string
}

type Source = () => Command[]

let sources: Source[] = []
const listeners = new Set<() => void>()
let version = 0

function changed() {
  version++
  for (const l of listeners) l()
}

/** Registers a place's commands while the calling component is shown. The newest place wins a key. */
export function useCommands(list: Command[]) {
  const newest = useRef(list)
  newest.current = list
  useEffect(() => {
    const source = () => newest.current
    sources = [...sources, source]
    changed()
    return () => {
      sources = sources.filter((s) => s !== source)
      changed()
    }
  }, [])
}

/** Every command that stands now, the newest place first. */
export const standing = (): Command[] => [...sources].reverse().flatMap((s) => s())

/** Every command that stands now, kept up to date. */
export function useStanding(): Command[] {
  useSyncExternalStore(
    (l) => {
      listeners.add(l)
      return () => listeners.delete(l)
    },
    () => version,
  )
  return standing()
}

// A field of a dialog that has closed may keep the focus for a moment; it is no field any more.
const inField = (e: KeyboardEvent) =>
  e.target instanceof Element &&
  e.target.closest('input, textarea, select, [role=combobox], [role=listbox], [contenteditable]') !== null &&
  e.target.closest('[role=dialog][data-state=closed]') === null
const inDialog = () => document.querySelector('[role=dialog][data-state=open]') !== null

/**
 * Listens before anything else on the page. The cut comes first, whatever is open or has focus; then the
 * palette; then the registry, unless a field or a dialog has the keyboard.
 */
export function listen(cut: () => void, palette: () => void): () => void {
  const onKey = (e: KeyboardEvent) => {
    if (e.key === 'F9') {
      e.preventDefault()
      e.stopImmediatePropagation()
      cut()
      return
    }
    if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'k') {
      e.preventDefault()
      palette()
      return
    }
    if (inField(e) || inDialog() || e.ctrlKey || e.metaKey || e.altKey || e.repeat) return
    const hit = standing().find((c) => c.key === e.key)
    if (!hit) return
    e.preventDefault()
    hit.run()
  }
  window.addEventListener('keydown', onKey, { capture: true })
  return () => window.removeEventListener('keydown', onKey, { capture: true })
}
