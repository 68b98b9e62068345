// A capture as a pilot makes it: when not all of it was heard, on a machine that was busy just then, the page says so, and he captures again.
import type { Locator, Page } from '@playwright/test'
import { expect, refusal } from './program.ts'

/** How often a pilot captures again beside a machine that is busy with something else. */
const mostTries = 20

/** Begins a capture until one is kept; done is the control that it ends on. */
export async function captured(page: Page, begin: () => Promise<void>, done: Locator): Promise<void> {
  const refused = refusal(page).filter({ hasText: 'capture again' })
  for (let times = 1; ; times++) {
    await begin()
    let how = ''
    await expect
      .poll(
        async () => {
          // In this order: a refusal is told before its control can be used again.
          const over = await done.isEnabled({ timeout: 100 }).catch(() => false)
          if (await refused.isVisible()) how = 'refused'
          else if (over) how = 'kept'
          return how
        },
        { timeout: 60_000 },
      )
      .not.toBe('')
    if (how === 'kept') return
    expect(times, (await refused.textContent()) ?? '').toBeLessThan(mostTries)
    await refused.getByRole('button', { name: 'Dismiss' }).click()
  }
}

/** All sticks and switches, guided from one to the next; what was not seen whole is moved once more. press is how the hand presses. */
export async function captureAll(page: Page, press: (button: Locator) => Promise<void>): Promise<void> {
  const instrument = page.getByRole('region', { name: 'Instrument' })
  await press(instrument.getByRole('button', { name: 'Capture all sticks and switches' }))
  await expect(instrument.getByRole('region', { name: 'Guided capture' }).getByRole('status')).toContainText('Roll stick. Move it: high, low, let go.')
  await allCaptured(page, press)
}

/** What a guided capture that has begun asks for, to its end. */
export async function allCaptured(page: Page, press: (button: Locator) => Promise<void>): Promise<void> {
  const instrument = page.getByRole('region', { name: 'Instrument' })
  const guided = instrument.getByRole('region', { name: 'Guided capture' })
  const all = instrument.getByRole('button', { name: 'Capture all again' })
  for (let times = 1; ; times++) {
    const again = guided.getByRole('button', { name: 'Once more' })
    await expect(all.or(again)).toBeVisible({ timeout: 120_000 })
    if (await all.isVisible()) return
    expect(times, (await guided.getByRole('alert').textContent()) ?? '').toBeLessThan(mostTries)
    await press(again)
    await expect(again).toBeHidden()
  }
}
