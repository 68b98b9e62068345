// A fix is accepted with a reason, shows wherever the proof does, and lapses when what it is about changes.
import { expect, perch, station, test } from './program.ts'

test('an accepted fix no longer blocks, and lapses', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('article', { name: 'Dunlin' }).getByRole('link', { name: 'Dunlin' }).click()
  await station(page, 'Power watch')
  const ledger = page.getByRole('complementary', { name: 'Ledger' })
  const sign = page.getByRole('button', { name: 'Sign this proof' })
  for (const [label, value] of [
    ['Pack voltage the board shows', '23.9'],
    ['Pack voltage by meter', '23.9 V'],
  ] as const) {
    const ask = ledger.locator('[data-ask]', { hasText: label })
    await ask.getByRole('button', { name: 'Type it' }).click()
    await ask.getByRole('textbox').fill(value)
    await page.keyboard.press('Enter')
    await expect(ask).toBeHidden()
  }
  const heard = ledger.locator('[data-ask]', { hasText: 'The alarm was heard' })
  await heard.getByRole('button', { name: 'Type it' }).click()
  await heard.getByRole('button', { name: 'No' }).click()
  const fix = ledger.getByRole('article', { name: 'Fix: The alarm was not heard' })
  await expect(fix).toBeVisible()
  await expect(sign).toBeDisabled()

  await fix.getByRole('button', { name: 'Accept it' }).click()
  await page.keyboard.type('the spotter listens for it')
  await page.keyboard.press('Enter')
  await expect(fix).toContainText('Accepted by the pilot')
  await page.getByRole('link', { name: 'Card' }).click()
  await expect(page.getByRole('region', { name: 'May it fly' })).toContainText('Flown in spite of: The alarm was not heard. the spotter listens for it')
  await page.goBack()
  await expect(page.getByRole('region', { name: 'Proof' })).toContainText('1 accepted')
  await sign.click()
  await expect(perch(page, 'Power watch')).toHaveAttribute('aria-label', /proven$/)
  await station(page, 'First flight')
  await expect(page.getByRole('region', { name: 'Go or not' })).toContainText('the alarm was not heard (the spotter listens for it)')

  // What a change would cost is said before it is made.
  await station(page, 'Power watch')
  await ledger.getByText(/^Intended settings/).click()
  await ledger.getByRole('button', { name: /^Warn below, per cell: 3\.5 V/ }).click()
  await expect(ledger).toContainText('A change must be proven again at Power watch.')
  await page.keyboard.press('Escape')

  await fix.getByRole('button', { name: 'Take the acceptance back' }).click()
  await expect(fix.getByRole('button', { name: 'Accept it' })).toBeVisible()
  await expect(perch(page, 'Power watch')).toHaveAttribute('aria-label', /1 fix$/)
})
