// A quad of one's own from its name alone: what is on it is said part by part, from a catalogue or in one's own words.
import { expect, test } from './program.ts'

test('parts are fitted as far as they are known, and what is not known stays so', async ({ page }) => {
  await page.goto('/hangar')
  await page.getByRole('button', { name: 'Begin a quad' }).click()
  await page.getByRole('dialog').getByLabel('Name').fill('Ruff')
  await page.getByRole('button', { name: 'Begin it' }).click()
  await expect(page).toHaveURL(/airframe$/)
  await expect(page.getByText('Say at Parts what is on it.')).toBeAttached()
  await page.getByRole('button', { name: 'Parts', exact: true }).click()
  const parts = page.getByRole('list', { name: 'Parts' })
  await expect(parts.getByText('not known yet')).toHaveCount(10)
  const fit = async (open: string, label: string, typed: string) => {
    await parts.getByRole('button', { name: open }).click()
    const form = parts.getByRole('form', { name: `Fit: ${label}` })
    await form.getByRole('combobox').fill(typed)
    await form.getByRole('button', { name: 'Fit it' }).click()
    await expect(form).toBeHidden()
    await expect(parts.locator('b', { hasText: typed })).toBeVisible()
  }
  await fit('Change the motors', 'motors', 'Sandpiper 2207 1700')
  await fit('Change the propellers', 'propellers', 'three blades 5 by 4.3 in')
  await fit('Change the frame', 'frame', 'cut from driftwood')
  await fit('Add a pack', 'pack', '6 cells 1300 mAh')
  await fit('Add a pack', 'pack', 'one from the shed')
  await parts.getByRole('button', { name: 'Take off one from the shed' }).click()
  await expect(parts.locator('b', { hasText: 'one from the shed' })).toHaveCount(0)
  await page.keyboard.press('u')
  await expect(parts.locator('b', { hasText: 'one from the shed' })).toBeVisible()

  // Another quad with the same motors is named beside them.
  await page.goto('/hangar')
  await page.getByRole('button', { name: 'Begin a quad' }).click()
  await page.getByRole('dialog').getByLabel('Name').fill('Reeve')
  await page.getByRole('dialog').getByLabel('Motors').fill('Sandpiper 2207 1700')
  await page.getByRole('button', { name: 'Begin it' }).click()
  await page.getByRole('button', { name: 'Parts', exact: true }).click()
  await expect(parts.getByRole('listitem').filter({ hasText: 'Sandpiper 2207 1700' })).toContainText('also on Ruff')
})
