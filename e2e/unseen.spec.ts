// A computer that does not see a board: question by question, each the one that tells the most, to what it is and what to do.
import type { Page } from '@playwright/test'
import { expect, test } from './program.ts'

/** Answers every question as it is with one cause, and says how many there were. */
async function asked(page: Page, truth: Record<string, string>): Promise<number> {
  const inquiry = page.getByRole('region', { name: 'Why does the computer not see it?' })
  const seen = page.getByRole('region', { name: 'What was seen' }).locator('ol > li')
  const it = inquiry.getByRole('heading', { name: 'This is it' })
  for (let n = 0; n < 7; n++) {
    await expect(seen).toHaveCount(n)
    await expect(inquiry.getByRole('button', { name: 'I cannot tell' }).or(it)).toBeEnabled()
    if (await it.isVisible()) return n
    const question = (await inquiry.getByRole('heading').first().textContent()) ?? ''
    const usual = inquiry.getByRole('button').first()
    const told = Object.entries(truth).find(([words]) => question.includes(words))
    await (told ? inquiry.getByRole('button', { name: told[1], exact: true }) : usual).click()
  }
  throw new Error('it never comes to an end')
}

test('why a computer does not see a board is found in six questions at most', async ({ page }) => {
  await page.goto('/quads/1/firmware')
  await page.getByRole('button', { name: 'A real board, by its cable' }).click()
  await page.getByRole('button', { name: 'The computer does not see it?' }).click()
  await expect(page).toHaveURL(/at=unseen/)
  const inquiry = page.getByRole('region', { name: 'Why does the computer not see it?' })
  await expect(inquiry).toContainText('16 of 16 known reasons fit so far')

  // A cable that only charges.
  expect(await asked(page, { 'list of devices': 'nothing new', 'another cable': 'yes, it does', 'same cable': 'no' })).toBeLessThanOrEqual(6)
  await expect(inquiry).toContainText('The cable only charges: it has no wires for data. Take one that carries data')

  // Another look at the first question leads elsewhere.
  await page
    .getByRole('button', { name: /^Look again/ })
    .first()
    .click()
  await expect(page.getByRole('region', { name: 'What was seen' }).locator('ol > li')).toHaveCount(0)
  expect(await asked(page, { 'port is open': 'rubbish', 'port that you choose': 'yes' })).toBeLessThanOrEqual(6)
  await expect(inquiry).toContainText('The port goes at another speed than the board')
})
