// What is tried at this station and not yet taken: it stays while other stations are looked at.
import { useState } from 'react'
import type { Change, QuadView, Schemas } from '../../wire/client'
import { asNamed, type Path } from '../../wire/path'

const kept = new Map<number, Change[]>()

export type Tried = {
  list: Change[]
  /** Puts some values on top of what is tried. */
  put: (values: Change[]) => void
  clear: () => void
  /** A figure as it is tried, or as it is set. */
  of: (path: Path) => number
  /** A word as it is tried, or as it is set. */
  word: (path: Path) => string
}

/** Edits that the core proposes, as values to be tried. */
export const asChanges = (edits: Schemas['CheckEdit'][]): Change[] => edits.map((e) => ({ path: asNamed(e.path), value: JSON.parse(e.value) as unknown }))

export function useTried(quad: QuadView): Tried {
  const [list, setList] = useState<Change[]>(() => kept.get(quad.id) ?? [])
  const set = (next: Change[]) => {
    kept.set(quad.id, next)
    setList(next)
  }
  const found = (path: Path) => list.find((c) => c.path === path)?.value ?? leaf(quad, path)
  return {
    list,
    put: (values) => set(merged(quad, kept.get(quad.id) ?? list, values)),
    clear: () => set([]),
    of: (path) => Number(found(path) ?? 0),
    word: (path) => String(found(path) ?? ''),
  }
}

/** What stands at a place of what is meant. */
function leaf(quad: QuadView, path: string): unknown {
  let at: unknown = quad.meant
  for (const part of path.split('.')) at = (at as Record<string, unknown> | undefined)?.[part]
  return at
}

// What is put back to how it is set is tried no more.
function merged(quad: QuadView, was: Change[], values: Change[]): Change[] {
  const out = new Map(was.map((c) => [c.path, c]))
  for (const v of values) {
    const is = leaf(quad, v.path)
    if (v.value === (is ?? (typeof v.value === 'number' ? 0 : ''))) out.delete(v.path)
    else out.set(v.path, v)
  }
  return [...out.values()]
}
