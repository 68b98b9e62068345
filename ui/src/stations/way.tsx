import { join } from '../kit/join'
import { ink, type Tone } from '../kit/tones'

type Step<P extends string> = { at: P; here: P; go: (p: P) => void; name: string; words: string; tone?: Tone }

const place =
  'flex flex-col items-center rounded-t-lg border-b-3 border-transparent px-1.5 pt-1 pb-1.5 text-[14px] leading-[1.25] enabled:hover:bg-act-bg aria-pressed:border-act'

// Its strokes are those of the drawing; where what is below needs the room, the place keeps its words alone.
const drawn =
  'fill-none stroke-wire stroke-2 group-data-[at=carry]:hidden group-data-[at=gear]:hidden group-data-[at=reach]:hidden group-data-[at=saved]:hidden'

/** A place of a station's drawn way; it opens what is done there. */
export function Stone<P extends string>({ at, here, go, name, words, tone = 'soft', art }: Step<P> & { art: React.ReactNode }) {
  return (
    <button type="button" className={place} aria-pressed={at === here} onClick={() => go(at)}>
      <svg width="84" height="72" viewBox="0 0 84 72" aria-hidden="true" className={drawn}>
        {art}
      </svg>
      <b>{name}</b>
      <span className={ink[tone]}>{words}</span>
    </button>
  )
}

/** A crossing between two places. */
export function Crossing<P extends string>({ at, here, go, name, words, tone = 'soft', back, off }: Step<P> & { back?: boolean; off?: boolean }) {
  return (
    <button type="button" className={join(place, 'min-w-24 justify-center')} aria-pressed={at === here} disabled={off} onClick={() => go(at)}>
      <b className={off ? 'text-faint' : 'text-act'}>{name}</b>
      <svg width="88" height="14" viewBox="0 0 88 14" aria-hidden="true" className={ink[tone]}>
        <path d={back ? 'M4 7h82M4 7l9-5M4 7l9 5' : 'M2 7h82M84 7l-9-5M84 7l-9 5'} fill="none" stroke="currentColor" strokeWidth="2" />
      </svg>
      <span className={ink[tone]}>{words}</span>
    </button>
  )
}
