import type { Schemas } from '../../wire/client'

export type Entry = Schemas['MappingEntry']

export const pathsOf = (e: Entry): string[] => [...(e.path ? [e.path] : []), ...(e.paths ?? []), ...(e.fields ?? []).map((f) => f.path).filter(Boolean)]

export function asEntry(g: Schemas['Guess']): Entry {
  return {
    kind: g.kind as Entry['kind'],
    setting: g.setting,
    path: g.path || undefined,
    factor: g.factor || undefined,
    offset: g.offset || undefined,
    per: g.per || undefined,
    words: g.words && Object.keys(g.words).length ? g.words : undefined,
    fields: g.fields?.length
      ? g.fields.map((f) => ({ path: f.path, factor: f.factor || undefined, offset: f.offset || undefined, per: f.per || undefined }))
      : undefined,
  }
}

/** What is measured on a board to give a setting, and how it is called. */
export const measured = [
  ['level', 'level'],
  ['gyro', 'the gyro at rest'],
  ['compass', 'the compass'],
  ['volts', 'the voltage scale'],
  ['current', 'the current scale'],
] as const
