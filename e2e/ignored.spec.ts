// The other way to go about it: the pilot sees the reversed motor, lets it be, and asks for a release all the same.
import type { Page } from '@playwright/test'
import { choose } from './choose.ts'
import { expect, station, test } from './program.ts'

const ledger = (page: Page) => page.getByRole('complementary', { name: 'Ledger' })

test('an ignored motor refuses the release and tips the quad over', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('article', { name: 'Dunlin' }).getByRole('link', { name: 'Dunlin' }).click()
  await station(page, 'Motors')
  // A real quad has no bench here: the pilot types what was seen.
  for (const [output, corner, spin] of [
    ['A', 'front right', 'counter-clockwise'],
    ['B', 'rear left', 'clockwise'],
    ['C', 'front left', 'clockwise'],
    ['D', 'rear right', 'clockwise'],
  ] as const) {
    const ask = ledger(page).locator('[data-ask]', { hasText: `Output ${output}` })
    await ask.getByRole('button', { name: 'Type it' }).click()
    if (output === 'A') {
      await ask.getByRole('button', { name: 'Save' }).click()
      await expect(ask.getByRole('alert')).toHaveText('Choose: corner that moved.')
    }
    await choose(ask.getByRole('combobox', { name: 'Corner that moved' }), corner)
    await choose(ask.getByRole('combobox', { name: 'Direction, from above' }), spin)
    await ask.getByRole('button', { name: 'Save' }).click()
    await expect(ask).toBeHidden()
  }
  await expect(ledger(page).getByRole('article', { name: /^Stop: Rear left turns clockwise/ })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Sign this proof' })).toBeDisabled()

  await station(page, 'First flight')
  await page.getByRole('textbox', { name: 'Site' }).fill('Gravel field')
  await expect(page.getByRole('button', { name: 'Release for hover in sight' })).toBeDisabled()
  await expect(page.getByRole('region', { name: 'Go or not' })).toContainText('Motors (1 stop)')

  await page.getByRole('button', { name: 'Rehearse the hover' }).click()
  await expect(page.getByRole('region', { name: 'Go or not' })).toContainText('tips to the rear left, still on its feet')
  await expect(ledger(page).getByRole('article', { name: /^Stop: The rehearsal does not end on its feet/ })).toBeVisible()
  await page.getByRole('button', { name: 'Watch it fly' }).first().click()
  const asIs = page.getByRole('region', { name: 'Dunlin as it is' })
  await expect(asIs).toContainText('tips over')
  // Not only the words: the picture of that moment shows it leaning, the corrected one upright.
  await page.getByRole('button', { name: 'Where it goes wrong' }).click()
  const leaning = async (side: string) => {
    const said = await page
      .getByRole('region', { name: side })
      .getByRole('img', { name: /^In depth/ })
      .getAttribute('aria-label')
    return Number(/leaning (\d+)/.exec(said ?? '')?.[1])
  }
  expect(await leaning('Dunlin as it is')).toBeGreaterThan(10)
  expect(await leaning('As corrected')).toBeLessThan(10)
})
