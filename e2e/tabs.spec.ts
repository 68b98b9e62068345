// Two windows on one quad: neither writes over the other, and the later one chooses place by place.
import type { Page } from '@playwright/test'
import { expect, station, test } from './program.ts'

const ledger = (page: Page) => page.getByRole('complementary', { name: 'Ledger' })

/** Opens what is meant at a station and puts a value there. */
async function put(page: Page, label: string, text: string) {
  const leaf = ledger(page).getByRole('button', { name: new RegExp(`^${label}: `) })
  if (!(await leaf.isVisible()))
    await ledger(page)
      .getByText(/^Intended settings/)
      .click()
  await leaf.click()
  await ledger(page)
    .getByRole('textbox', { name: new RegExp(label) })
    .fill(text)
  await page.keyboard.press('Enter')
}

test('the later window sees where both went apart and chooses', async ({ page, context, program }) => {
  await page.goto('/quads/1/motors')
  await expect(ledger(page)).toBeVisible()
  const other = await context.newPage()
  await other.goto(`${program.address}/quads/1/motors`)
  await put(other, 'Idle throttle', '7 %')
  await expect(ledger(other).getByRole('button', { name: 'Idle throttle: 7 %. Change it' })).toBeVisible()
  await station(other, 'Link loss')
  await put(other, 'Failsafe delay', '1.5 s')
  await expect(ledger(other).getByRole('button', { name: 'Failsafe delay: 1.5 s. Change it' })).toBeVisible()

  // This window still shows what it saw, and wants something of its own.
  await put(page, 'Idle throttle', '9 %')
  const choice = page.getByRole('dialog', { name: /was changed in another window/ })
  await expect(choice.getByRole('row', { name: /Idle throttle/ })).toContainText('5.5 %')
  await expect(choice.getByRole('radio', { name: 'Idle throttle: 9 %, as you wanted it' })).toBeChecked()
  await expect(choice.getByRole('radio', { name: 'Failsafe delay: 1.5 s, as the other window has it' })).toBeChecked()
  await choice.getByRole('radio', { name: /Failsafe delay: 1 s, as you saw it/ }).check()
  await choice.getByRole('button', { name: 'Put these 2' }).click()
  await expect(choice).toBeHidden()
  await expect(ledger(page).getByRole('button', { name: 'Idle throttle: 9 %. Change it' })).toBeVisible()

  // Both windows see the choice, and one undo takes all of it back.
  await other.reload()
  await expect(ledger(other).getByRole('button', { name: 'Sign' })).toHaveCount(0)
  await ledger(other)
    .getByText(/^Intended settings/)
    .click()
  await expect(ledger(other).getByRole('button', { name: 'Failsafe delay: 1 s. Change it' })).toBeVisible()
  await page.keyboard.press('u')
  await expect(ledger(page).getByRole('button', { name: 'Idle throttle: 7 %. Change it' })).toBeVisible()
})

test('an undo that comes too late is not made', async ({ page, context, program }) => {
  await page.goto('/quads/1/motors')
  await put(page, 'Idle throttle', '6 %')
  await expect(page.getByRole('button', { name: /^Undo: Idle throttle: 5.5 % becomes 6 %/ })).toBeVisible()
  const other = await context.newPage()
  await other.goto(`${program.address}/quads/1/motors`)
  await put(other, 'Idle throttle', '8 %')
  await expect(ledger(other).getByRole('button', { name: 'Idle throttle: 8 %. Change it' })).toBeVisible()
  await page.getByRole('button', { name: /^Undo: / }).click()
  const choice = page.getByRole('dialog', { name: /was changed in another window/ })
  await expect(choice).toContainText('Your undo was not made')
  await expect(choice.getByRole('row', { name: /Idle throttle/ })).toContainText('8 %')
  await choice.getByRole('button', { name: 'Leave it as it stands' }).click()
  await expect(ledger(page).getByRole('button', { name: 'Idle throttle: 8 %. Change it' })).toBeVisible()
})

test('nobody signs what he did not see', async ({ page, context, program }) => {
  await page.goto('/quads/1/feel')
  await expect(page.getByRole('button', { name: 'Sign this proof' })).toBeEnabled()
  const other = await context.newPage()
  await other.goto(`${program.address}/quads/1/feel`)
  await put(other, 'Angle limit of self-level', '44')
  await expect(ledger(other).getByRole('button', { name: 'Angle limit of self-level: 44°. Change it' })).toBeVisible()
  await page.getByRole('button', { name: 'Sign this proof' }).click()
  const choice = page.getByRole('dialog', { name: /was changed in another window/ })
  await expect(choice).toContainText('Your signature was not made')
  await expect(choice.getByRole('row', { name: /Angle limit of self-level/ })).toContainText('44°')
  await choice.getByRole('button', { name: 'Leave it as it stands' }).click()
  await expect(ledger(page).getByRole('article', { name: /The board differs/ })).toBeVisible()
})
