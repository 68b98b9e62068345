// The first power: what a meter should show before the pack goes in, and the device that draws what it should not, named before smoke.
import { AxeBuilder } from '@axe-core/playwright'
import { expect, station, test } from './program.ts'

test('a seeded fault is found before smoke: the device is named, and the lead is looked at as a curve', async ({ page, request }) => {
  await page.goto('/quads/1/airframe')
  await station(page, 'First power')
  const ledger = page.getByRole('complementary', { name: 'Ledger' })
  await expect(page.getByRole('img', { name: /^Ohms over ten seconds\. 140 Ω after 0 s, 8200 Ω after 10 s/ })).toBeVisible()
  await expect(page.getByRole('region', { name: 'The battery lead' })).toContainText('It climbs, then stays: as it should.')
  await expect(
    page.getByRole('img', {
      name: /^Expected in the lead: board 0\.11 A, speed controllers 0\.09 A, receiver 0\.0\d A, video transmitter 0\.19 A; in all 0\.4\d A, measured 0\.46 A/,
    }),
  ).toBeVisible()
  const found = await new AxeBuilder({ page })
    .setLegacyMode()
    .options({ resultTypes: ['violations'], rules: { 'color-contrast': { enabled: false } } })
    .analyze()
  expect(found.violations.map((v) => v.id)).toEqual([])

  await test.step('one device after the other: the receiver with bridged pads is the first that is off', async () => {
    const devices = page.getByRole('region', { name: 'Devices coming on' })
    await devices.getByLabel('Measured with the board on, A').fill('0.11')
    await devices.getByLabel('Measured with the speed controllers on, A').fill('0,2 A')
    await expect(devices).toContainText('All of them draw what they should, so far.')
    await devices.getByLabel('Measured with the receiver on, A').fill('0.71')
    await expect(devices).toContainText('The receiver draws 0.51 A where 0.05 A is expected. Power off now')
    await devices.getByLabel('Measured with the receiver on, A').fill('0.25')
    await expect(devices).not.toContainText('Power off now')
  })
  await test.step('charge that was left in the capacitor misleads the meter, and is said', async () => {
    const typed = await request.post('/api/quads/1/type', { data: { path: 'readings.firstPower.leadResistance', value: { atOnce: 9000, after: 2100 } } })
    expect(typed.ok()).toBe(true)
    await page.reload()
    await expect(page.getByRole('region', { name: 'The battery lead' }).getByText(/^It falls: charge was left in the capacitor/)).toBeVisible()
    await expect(ledger).toContainText('The meter did not see the battery lead as it is')
  })
  await test.step('a bridge stops it', async () => {
    const typed = await request.post('/api/quads/1/type', { data: { path: 'readings.firstPower.leadResistance', value: { atOnce: 1.2, after: 1.4 } } })
    expect(typed.ok()).toBe(true)
    await page.reload()
    await expect(page.getByRole('region', { name: 'The battery lead' }).getByText(/^It stays low: the lead is shorted/)).toBeVisible()
    await expect(ledger).toContainText('The battery lead is shorted')
    await expect(page.getByRole('region', { name: 'Video on the bench' })).toContainText('800 mW: 4 min, with a fan as long as you like')
  })
})
