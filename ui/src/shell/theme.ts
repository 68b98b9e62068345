import { useSyncExternalStore } from 'react'

/** Day for the bench, dusk for the field at evening. */
export type Theme = 'day' | 'dusk'

const key = 'vivid-perch-theme'
const evening = window.matchMedia('(prefers-color-scheme: dark)')
const listeners = new Set<() => void>()

// Storage may be refused; the choice then lasts as long as the page.
let picked: Theme | null = null

function chosen(): Theme | null {
  try {
    const kept = localStorage.getItem(key)
    if (kept === 'day' || kept === 'dusk') return kept
  } catch {}
  return picked
}

function theme(): Theme {
  return chosen() ?? (evening.matches ? 'dusk' : 'day')
}

function show() {
  document.documentElement.dataset.theme = theme()
  for (const l of listeners) l()
}

/** Puts on the pilot's theme, or the system's until the pilot has chosen, and follows either. Call once, before the page is drawn. */
export function startTheme() {
  show()
  evening.addEventListener('change', show)
  window.addEventListener('storage', show)
}

/** Changes to the other theme and remembers it on this machine. */
export function turnTheme() {
  picked = theme() === 'day' ? 'dusk' : 'day'
  try {
    localStorage.setItem(key, picked)
  } catch {}
  show()
}

/** The theme now shown. */
export function useTheme(): Theme {
  return useSyncExternalStore((l) => {
    listeners.add(l)
    return () => listeners.delete(l)
  }, theme)
}
