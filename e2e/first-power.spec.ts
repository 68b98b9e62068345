// The first power: what a meter should show before the pack goes in, and the fault that is found before there is smoke.
import { AxeBuilder } from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, station, test } from './program.ts'

/** Puts a quad of the shelf on the bench and goes to Dunlin's first power with propellers and antennas to be confirmed anew. */
async function begin(page: Page, quad: string) {
  expect((await page.request.post('/api/bench/place', { data: { quad } })).ok()).toBe(true)
  await expect.poll(async () => ((await (await page.request.get('/api/bench')).json()) as { board: { quad: string } }).board.quad).toBe(quad)
  expect((await page.request.post('/api/quads/1/first-power/interrupted', { data: { why: 'it was soldered on' } })).ok()).toBe(true)
  await page.goto('/quads/1/airframe')
  await station(page, 'First power')
}

const order = (page: Page) => page.getByRole('list', { name: 'The first power, in this order' })
const lead = (page: Page) => page.getByRole('region', { name: 'The battery lead' })
const devices = (page: Page) => page.getByRole('region', { name: 'Devices coming on' })

test('a seeded fault is found before smoke: the lead is watched, one device comes on after the other, and the bridged pads are named', async ({ page }) => {
  await begin(page, 'Dunlin, with bridged pads')
  await test.step('what was confirmed before the interruption is asked anew, one step at a time', async () => {
    await expect(order(page).getByRole('listitem').first()).toHaveAttribute('aria-current', 'step')
    await page.getByRole('button', { name: 'Look at the motors' }).click()
    await page.getByRole('button', { name: 'Look at the antennas' }).click()
    await expect(order(page).locator('[aria-current]')).toHaveCount(0)
  })
  await test.step('charge that was left misleads the meter, then its own range does; by hand it shows the lead as it is', async () => {
    const hold = page.getByRole('button', { name: 'Hold the probes on the lead' })
    await hold.click()
    await expect(lead(page)).toContainText('Watching…')
    await expect(lead(page)).toContainText('It falls: charge was left in the capacitor.')
    await page.getByRole('button', { name: 'Discharge it' }).click()
    await hold.click()
    await expect(lead(page)).toContainText('It jumps: the meter changed its range.')
    await page.getByRole('button', { name: 'Discharge it' }).click()
    await page.getByRole('checkbox', { name: 'range set by hand' }).check()
    await hold.click()
    await expect(lead(page)).toContainText('It climbs, then stays: as it should.')
    await page.getByRole('button', { name: 'Note it' }).click()
    await expect(page.getByRole('complementary', { name: 'Ledger' })).toContainText(/Resistance across the battery lead.*bench, \d\d:\d\d/)
  })
  const found = await new AxeBuilder({ page })
    .setLegacyMode()
    .options({ resultTypes: ['violations'], rules: { 'color-contrast': { enabled: false } } })
    .analyze()
  expect(found.violations.map((v) => v.id)).toEqual([])
  await test.step('the receiver is the first that draws what it should not', async () => {
    await page.getByRole('checkbox', { name: 'through a limiter' }).click()
    await expect(page.getByRole('checkbox', { name: 'through a limiter' })).toBeChecked() // as the bench has it
    await page.getByRole('button', { name: 'Unplug what can be' }).click()
    await page.getByRole('button', { name: 'Pack in' }).click()
    await expect(devices(page)).toContainText('All of them draw what they should, so far.')
    await page.getByRole('button', { name: 'Plug in the speed controllers' }).click()
    await expect(devices(page).getByLabel('Measured with the speed controllers on, A')).toHaveValue('0.21')
    await page.getByRole('button', { name: 'Plug in the receiver' }).click()
    await expect(devices(page)).toContainText('The receiver draws 0.6 A where 0.05 A is expected. Power off now: look for bridged pads')
    await page.getByRole('button', { name: 'Pack out' }).click()
    await expect(page.getByRole('button', { name: 'Pack in' })).toBeVisible()
  })
  await test.step('by hand, the same is typed', async () => {
    expect((await page.request.post('/api/bench/place', { data: { quad: 'Godwit' } })).ok()).toBe(true)
    await expect(page.getByRole('button', { name: 'Pack in' })).toHaveCount(0)
    await page.reload()
    await devices(page).getByLabel('Measured with the board on, A').fill('0.11')
    await devices(page).getByLabel('Measured with the speed controllers on, A').fill('0,2 A')
    await expect(devices(page)).toContainText('All of them draw what they should, so far.')
    await devices(page).getByLabel('Measured with the receiver on, A').fill('0.71')
    await expect(devices(page)).toContainText('The receiver draws 0.51 A where 0.05 A is expected. Power off now')
    await expect(page.getByRole('region', { name: 'Video on the bench' })).toContainText('800 mW: 4 min, with a fan as long as you like')
  })
})

test('plus on minus is stopped before it burns, and a pack that was pulled is an interruption', async ({ page }) => {
  await begin(page, 'Dunlin, plus on minus')
  const ledger = page.getByRole('complementary', { name: 'Ledger' })
  await test.step('the pack stays out until what comes first is told', async () => {
    await page.getByRole('button', { name: 'Pack in' }).click()
    await expect(page.getByText('The pack stays out until this is told: Propellers are off')).toBeVisible()
    await page.getByRole('button', { name: 'Look at the motors' }).click()
    await page.getByRole('button', { name: 'Look at the antennas' }).click()
  })
  await test.step('a pilot who trusts what he noted of another lead, and no limiter, has it pulled for him', async () => {
    await expect(order(page).locator('[aria-current]')).toHaveCount(0)
    await page.getByRole('button', { name: 'Pack in' }).click()
    await expect(ledger).toContainText('2 checks are needed again: an interruption came after the last one.')
    await expect(page.getByText('Smoke.')).toHaveCount(0)
    const live = (await (await page.request.post('/api/quads/1/take', { data: { path: 'readings.firstPower.polarity' } })).json()) as { line: unknown[] }
    expect(live.line).toBeDefined()
  })
  await test.step('measured, it is a stop, and the pack stays out', async () => {
    await page.reload()
    await expect(ledger).toContainText('The battery lead is soldered the wrong way round')
    await page.getByRole('button', { name: 'Look at the motors' }).click()
    await page.getByRole('button', { name: 'Look at the antennas' }).click()
    await page.getByRole('button', { name: 'Pack in' }).click()
    await expect(page.getByText('The pack stays out while this stands: The battery lead is soldered the wrong way round')).toBeVisible()
  })
  await test.step('a limiter holds back what is in the way, whoever puts the pack in', async () => {
    expect((await page.request.post('/api/bench/things', { data: { limiter: true } })).ok()).toBe(true)
    expect((await page.request.post('/api/bench/things', { data: { pack: true } })).ok()).toBe(true)
    await expect(page.getByText('The limiter holds back: a short, or plus on minus. Pack out.')).toBeVisible()
  })
})
