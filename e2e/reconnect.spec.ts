// The program dies under an open page and comes back: old figures say so, nothing that was kept is gone.
import { expect, refusal, station, test } from './program.ts'

test('the page says when figures are old, and comes back by itself', async ({ page, program, errors }) => {
  await page.goto('/')
  await page.getByRole('article', { name: 'Dunlin' }).getByRole('link', { name: 'Dunlin' }).click()
  await station(page, 'Feel')
  const ledger = page.getByRole('complementary', { name: 'Ledger' })
  await ledger.getByText(/^Intended settings/).click()
  await ledger.getByRole('button', { name: /^Angle limit of self-level: 50°/ }).click()
  await ledger.getByRole('textbox', { name: /^Angle limit of self-level/ }).fill('0.7 rad')
  await page.keyboard.press('Enter')
  await expect(page.getByText('revision 1, draft')).toBeVisible()
  await page.keyboard.press('b')
  await page.getByRole('button', { name: 'Pack out' }).click()
  const chip = page.getByRole('button', { name: /^Bench/ })
  await expect(chip).toContainText('pack in')

  await program.kill('SIGKILL')
  await expect(chip).toContainText('the program does not answer')
  await expect(chip).toContainText('old figures')
  await page.keyboard.press('b')
  await page
    .getByRole('button', { name: 'Sign this proof' })
    .or(page.getByRole('button', { name: /^Undo/ }))
    .first()
    .click()
  await expect(refusal(page)).toContainText('The program does not answer')

  await program.start()
  await expect(chip).toContainText('no power', { timeout: 60_000 })
  await expect(chip).not.toContainText('old figures')
  await page.reload()
  await expect(page.getByText('revision 1, draft')).toBeVisible()
  await ledger.getByText(/^Intended settings/).click()
  await expect(ledger.getByRole('button', { name: /^Angle limit of self-level: 40\.11°/ })).toBeVisible()
  // That the program was away is what this is about.
  errors.splice(0, errors.length, ...errors.filter((e) => !e.includes('ERR_CONNECTION_REFUSED')))
})
