import { useState } from 'react'
import { Button } from '../../kit/button'
import { showError } from '../../shell/message'
import type { Schemas } from '../../wire/client'
import { lookAtRadio } from './source'

const words = { sound: '', dead: 'dead, or nothing is on it', spinning: 'moves by itself: left out of captures', '': '' }
const x = (us: number) => ((Math.min(Math.max(us, 900), 2100) - 900) / 1200) * 150

/** Which channels of the radio at this computer are sound: a look with the hands off, and one while everything is moved. */
export function RadioLook() {
  const [phase, setPhase] = useState<'' | 'rest' | 'move'>('')
  const [seen, setSeen] = useState<Schemas['Health'][]>([])
  const look = async () => {
    try {
      setSeen(await lookAtRadio(setPhase))
    } catch (e) {
      showError(e)
    } finally {
      setPhase('')
    }
  }
  return (
    <section aria-label="The radio at this computer" className="flex flex-wrap items-center gap-2.5">
      <Button small disabled={Boolean(phase)} onClick={() => void look()}>
        {phase === 'rest' ? 'Hands off…' : phase === 'move' ? 'Move everything…' : 'Look at its channels'}
      </Button>
      {seen.length > 0 && (
        <ul className="columns-2 [&_li]:flex [&_li]:items-center [&_li]:gap-2 [&_li]:text-[13px] [&_li]:text-soft [&_li[data-state=dead]]:text-fix [&_li[data-state=spinning]]:text-stop">
          {seen.map((h) => (
            <li key={h.channel} data-state={h.state}>
              <b>{h.channel}</b>
              <svg width="150" height="10" viewBox="0 0 150 10" aria-hidden="true">
                <path d="M0 5H150" stroke="var(--line)" />
                <path d={`M${x(h.low)} 5H${Math.max(x(h.high), x(h.low) + 2)}`} stroke="currentColor" strokeWidth="5" />
              </svg>
              <span>{words[h.state]}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
