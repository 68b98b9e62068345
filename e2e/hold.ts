// Holding a control down, as a pilot does whose machine may be busy.
import type { Locator } from '@playwright/test'
import { expect } from './program.ts'

/** A hold that a busy machine breaks is begun anew; what it is for may take several. */
export const patient = { timeout: 150_000 }

type Watched = Element & { ended?: Promise<void> }

/** Has a control tell when a hold on it has ended, however short it was; one that does not begin within two seconds has ended too. */
function watch(el: Watched) {
  el.ended = new Promise((resolve) => {
    let began = false
    const look = () => {
      const held = el.getAttribute('data-held') === 'true'
      if (began && !held) end()
      began ||= held
    }
    const end = () => {
      observer.disconnect()
      clearTimeout(late)
      resolve()
    }
    const observer = new MutationObserver(look)
    observer.observe(el, { attributes: true, attributeFilter: ['data-held'] })
    const late = setTimeout(() => began || end(), 2000)
  })
}

/**
 * Holds a control until something is so, then lets go. A renewal that comes too late for the device ends the hold, and the page asks to
 * hold again: so the hand does.
 */
export async function holdBy(hand: { down: () => Promise<void>; up: () => Promise<void> }, control: Locator, until: () => Promise<void>) {
  let waiting = true
  const done = until().finally(() => {
    waiting = false
  })
  const again = async () => {
    while (waiting) {
      // What it needs may have gone with the hold, as the radio that it switched off, and comes back.
      await Promise.race([done, expect(control).toBeEnabled(patient)])
      if (!waiting) return
      await control.evaluate(watch)
      await hand.down()
      await Promise.race([done, control.evaluate((el: Watched) => el.ended).catch(() => undefined)])
      await hand.up()
    }
  }
  await Promise.all([done, again()])
}
