// Holding a control down, as a pilot does whose machine may be busy.
import type { Locator, Page } from '@playwright/test'
import { expect } from './program.ts'

/** A hold that a busy machine breaks is begun anew; what it is for may take several. */
export const patient = { timeout: 90_000 }

/**
 * Holds a control until something is so, then lets go. A renewal that comes too late for the device ends the hold, and the page asks to
 * hold again: so the hand does.
 */
export async function holdBy(page: Page, hand: { down: () => Promise<void>; up: () => Promise<void> }, control: Locator, until: () => Promise<void>) {
  let waiting = true
  const done = until().finally(() => {
    waiting = false
  })
  const again = async () => {
    while (waiting) {
      // What it needs may have gone with the hold, as the radio that it switched off, and comes back.
      await Promise.race([done, expect(control).toBeEnabled(patient)])
      if (!waiting) return
      await hand.down()
      await Promise.race([done, control.and(page.locator('[data-held=true]')).waitFor({ timeout: 2000 })]).catch(() => undefined)
      await Promise.race([done, control.and(page.locator('[data-held=false]')).waitFor({ timeout: 0 })]).catch(() => undefined)
      await hand.up()
    }
  }
  await Promise.all([done, again()])
}
