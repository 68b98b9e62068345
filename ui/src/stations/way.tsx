type Step<P extends string> = { at: P; here: P; go: (p: P) => void; name: string; words: string; tone?: string }

/** A place of a station's drawn way; it opens what is done there. */
export function Stone<P extends string>({ at, here, go, name, words, tone, art }: Step<P> & { art: React.ReactNode }) {
  return (
    <button type="button" className="stone" aria-pressed={at === here} onClick={() => go(at)}>
      <svg width="84" height="72" viewBox="0 0 84 72" aria-hidden="true">
        {art}
      </svg>
      <b>{name}</b>
      <span className={tone ? `tone-${tone}` : 'tone-soft'}>{words}</span>
    </button>
  )
}

/** A crossing between two places. */
export function Crossing<P extends string>({ at, here, go, name, words, tone, back, off }: Step<P> & { back?: boolean; off?: boolean }) {
  return (
    <button type="button" className="way" aria-pressed={at === here} disabled={off} onClick={() => go(at)}>
      <b>{name}</b>
      <svg width="88" height="14" viewBox="0 0 88 14" aria-hidden="true" className={tone ? `tone-${tone}` : 'tone-soft'}>
        <path d={back ? 'M4 7h82M4 7l9-5M4 7l9 5' : 'M2 7h82M84 7l-9-5M84 7l-9 5'} fill="none" stroke="currentColor" strokeWidth="2" />
      </svg>
      <span className={tone ? `tone-${tone}` : 'tone-soft'}>{words}</span>
    </button>
  )
}
