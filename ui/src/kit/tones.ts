/** What a word or a mark is about: what must not be, what should not, what is worth knowing, what is well, what can be done, and the rest. */
export type Tone = 'stop' | 'fix' | 'note' | 'ok' | 'act' | 'soft'

/** The colour of each, as ink. */
export const ink: Record<Tone, string> = {
  stop: 'text-stop',
  fix: 'text-fix',
  note: 'text-note',
  ok: 'text-ok',
  act: 'text-act',
  soft: 'text-soft',
}
