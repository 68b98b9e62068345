// A loss at a place: what each policy makes of it, side by side, in the wind that was read.
import { expect, test } from './program.ts'

test('Whimbrel’s radio is lost far out, by each policy, in today’s wind', async ({ page, request }) => {
  for (const [path, value] of [
    ['readings.firstFlight.wind', 5],
    ['readings.firstFlight.clear', 30],
  ] as const)
    expect((await request.post('/api/quads/3/type', { data: { path, value } })).ok()).toBe(true)
  await page.goto('/quads/3/link-loss')
  await expect(page.getByRole('img', { name: /climb to 40 m, come home at 5 m\/s, land/ })).toBeVisible()
  await page.getByRole('button', { name: 'Out there' }).click()
  const asked = page.getByRole('region', { name: 'Where the radio is lost' })
  await expect(asked).toContainText('In 5 m/s of wind, as you read it. Each 16 times')
  const home = asked.getByRole('row', { name: /comes home as it is set/ })
  const drops = asked.getByRole('row', { name: /stops its motors/ })
  await expect(home).toContainText(/half within \d m, 95 % within 1?\d m/)
  await expect(drops).toContainText(/half within 8\d m/)
  await expect(asked).toContainText('It comes home and lands')
  const ground = page.getByRole('img', { name: /^From above, home and 80 m away/ })
  await expect(ground).toBeVisible()

  // Farther out, and against the wind from the other side: the figures are others.
  await asked.getByLabel('away from home, m').fill('150')
  await expect(page.getByRole('img', { name: /^From above, home and 150 m away/ })).toBeVisible()
  await expect(drops).toContainText(/half within 15\d m/)
  await asked.getByRole('button', { name: 'from where it is' }).click()
  await expect(drops).toContainText(/half within 14\d m/)
  await asked.getByLabel('up, m').fill('0')
  await expect(asked.getByRole('alert')).toContainText('1 to 500 m up')
  await asked.getByLabel('up, m').fill('20')
  await expect(asked.getByRole('alert')).toBeHidden()

  // Here it should come home, as it is set; under a roof that is a crash, and one press sets it otherwise.
  await expect(asked).toContainText('Here it should come home.')
  await expect(asked).toContainText('So it is set.')
  await asked.getByLabel('a roof over it').check()
  await expect(asked).toContainText('Under a roof a climb is a crash')
  await asked.getByRole('button', { name: 'Set it so' }).click()
  await expect(asked).toContainText('So it is set.')
  await expect(home).toHaveCount(0)

  // Dunlin stops its motors: what it would do on its way home is not made up.
  await page.goto('/quads/1/link-loss?at=place')
  await expect(page.getByRole('region', { name: 'Where the radio is lost' })).toContainText('what it would do is not made up')
  await expect(page.getByRole('row', { name: /comes home/ })).toHaveCount(0)
})
