// The level plate: a bench that leans is told from a board that does, and made level with what is at hand.
import type { Page } from '@playwright/test'
import { expect, test } from './program.ts'

test('a bench that leans is made level with shims, and the board’s own error is kept', async ({ page }) => {
  await page.goto('/quads/1/senses')
  await page.getByRole('button', { name: 'Level plate' }).click()
  const seen = page.getByRole('region', { name: 'What was seen on the plate' })
  const plate = page.getByRole('region', { name: 'The plate made level' })
  const type = async (when: string, roll: string, pitch: string) => {
    await seen.getByRole('group', { name: when }).getByLabel('roll').fill(roll)
    await seen.getByRole('group', { name: when }).getByLabel('pitch').fill(pitch)
  }
  await type('as it stands', '1.4', '−0,9')
  await expect(seen).toContainText('With all of them told')
  await type('turned half round', '-0.8', '0.3')
  await expect(plate.getByRole('img', { name: /^Seen from behind: the bench leans by 1\.10°; 2 mm \+ 2 mm \+ 1 mm under the right/ })).toBeVisible()
  await expect(
    plate.getByRole('img', { name: /^Seen from its left: the bench leans by −0\.60°; 2 mm \+ 0\.1 mm under the front, which leaves 0\.00°/ }),
  ).toBeVisible()
  await expect(seen).toContainText('The board itself is off by roll 0.30°, pitch −0.30°')

  // Other shims, another stack; a thickness that is none, and a fall instead of a bench, are said, and nothing typed is lost.
  await seen.getByLabel('shims, mm').fill('4.8')
  await expect(plate.getByRole('img', { name: /^Seen from behind: .*; 4\.8 mm under the right, which leaves 0\.00°/ })).toBeVisible()
  await seen.getByLabel('shims, mm').fill('0')
  await expect(seen.getByRole('alert')).toContainText('A shim is up to 100 mm thick')
  await seen.getByLabel('shims, mm').fill('1')
  await type('as it stands', '80', '0')
  await expect(seen.getByRole('alert')).toContainText('no plate but a fall')
  await type('as it stands', '1.4', '-0.9')
  await seen.getByRole('button', { name: 'Keep it as the level reading' }).click()
  const readings = page.getByRole('complementary', { name: 'Ledger' }).getByRole('list', { name: 'Readings' })
  await expect(readings).toContainText('roll 0.3°, pitch -0.3°')
  await expect(readings).toContainText('typed')
})

test('what the board on the bench shows is taken over by a press', async ({ page, request }) => {
  expect((await request.post('/api/bench/things', { data: { usb: true } })).ok()).toBe(true)
  await page.goto('/quads/1/senses?at=plate')
  const shown = (when: string) => page.getByRole('group', { name: when })
  await shown('as it stands').getByRole('button', { name: 'As the board shows it' }).click()
  await expect(shown('as it stands').getByLabel('roll')).not.toHaveValue('')
  await shown('turned half round').getByRole('button', { name: 'As the board shows it' }).click()
  await expect(page.getByRole('region', { name: 'What was seen on the plate' })).toContainText('The board itself is off by')
  await seenLevel(page)
})

/** Nothing was turned here: the bench is told as level. */
async function seenLevel(page: Page) {
  await expect(page.getByRole('img', { name: /^Seen from behind: the bench leans by 0\.00°; level as it stands/ })).toBeVisible()
}
