// The power watch: an alarm moved over a flight until it says in time, proven by hearing it; the current that a board reckons by; and packs of several cells.
import { AxeBuilder } from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, station, test } from './program.ts'

const ledger = (page: Page) => page.getByRole('complementary', { name: 'Ledger' })

async function axe(page: Page) {
  const found = await new AxeBuilder({ page })
    .setLegacyMode()
    .options({ resultTypes: ['violations'], rules: { 'color-contrast': { enabled: false } } })
    .analyze()
  expect(found.violations.map((v) => v.id)).toEqual([])
}

test('an alarm is tuned on a flight, taken, and heard', async ({ page }) => {
  await page.goto('/quads/1/airframe')
  await station(page, 'Power watch')
  const flown = page.getByRole('region', { name: 'The flight', exact: true })
  const alarm = page.getByRole('region', { name: 'The alarm', exact: true })
  await page.getByRole('button', { name: 'With punches' }).click()
  await test.step('as it is set it comes when the pack is empty', async () => {
    await expect(flown).toContainText(/never says that the pack is low|leaves 0:0\d to fly/)
  })
  await test.step('by the keys higher, and by a drag on the map; what is advised says so in time', async () => {
    const warns = page.getByRole('slider', { name: 'Warns below, V a cell' })
    await warns.focus()
    for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight')
    await expect(flown).toContainText(/[2-9]\d? false alarms, at sags\./)
    const map = page.getByRole('img', { name: /^Every threshold and delay on this flight/ })
    const box = await map.boundingBox()
    if (!box) throw new Error('there is no map')
    await page.mouse.move(box.x + box.width * 0.3, box.y + box.height * 0.6)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width * 0.7, box.y + box.height * 0.1, { steps: 4 })
    await page.mouse.up()
    await expect(alarm).toContainText(/3\.8\d V a cell is/)
    await page.getByRole('button', { name: /^Advised: 3\.\d+ V after/ }).click()
    await expect(flown).toContainText(/The first true one comes at \d:\d\d and leaves (0:4[5-9]|0:5\d|1:[0-4]\d) to fly/)
  })
  await axe(page)
  await test.step('it is taken as one act, and can be taken back', async () => {
    await page.getByRole('button', { name: 'Take this alarm' }).click()
    const meant = async () => {
      const q = (await (await page.request.get('/api/quads/1')).json()) as {
        meant: { sheet: { watch: { warnPerCell: number } }; radio: { alarmDelay: number } }
      }
      return [q.meant.sheet.watch.warnPerCell > 3.5, q.meant.radio.alarmDelay > 0]
    }
    await expect.poll(meant).toEqual([true, true])
  })
  await test.step('raised above the present voltage it is heard, and put back', async () => {
    const routes = page.getByRole('region', { name: 'Routes of the alarm' })
    await expect(routes).toContainText('The pack is out: a sounder is heard with it in.')
    expect((await page.request.post('/api/bench/things', { data: { usb: true, pack: true } })).ok()).toBe(true)
    await page.getByRole('button', { name: 'Raise it, hear it, put it back' }).click()
    await expect(routes).toContainText('Sounder, proven')
    await expect(ledger(page)).toContainText('The alarm was heard yes')
    await expect(ledger(page)).toContainText('By what the alarm came sounder')
  })
  await test.step('a recorded flight of another pack is refused plainly, and nothing is lost', async () => {
    const rows = (volts: number) => Array.from({ length: 400 }, (_, i) => `${i},${(volts - 0.011 * i).toFixed(2)},9`).join('\n')
    await page.getByRole('button', { name: 'Or bring a run that was recorded' }).click()
    const paste = page.getByRole('textbox', { name: /^Or paste it/ })
    await paste.fill(`time (s),pack (V),pack (A)\n${rows(16.4)}`)
    await expect(page.getByRole('alert')).toContainText('it was flown with another pack')
    await expect(paste).toHaveValue(/16\.40/)
    await paste.fill(`time (s),pack (V),pack (A)\n${rows(24.9)}`)
    await expect(flown).toContainText(/leaves (at least )?\d:\d\d to fly/)
    await expect(page.getByText('A flight that was recorded', { exact: true }).first()).toBeVisible()
  })
})

test('Turnstone’s current is found from two readings; a decimal that slipped is named before it is kept', async ({ page, request }) => {
  await page.goto('/quads/5/airframe')
  await station(page, 'Power watch')
  await page.getByRole('button', { name: 'Current', exact: true }).click()
  const model = page.getByRole('region', { name: 'The model of the current' })
  const keep = page.getByRole('button', { name: 'Keep what was read' })
  await page.getByLabel('at rest, A').fill('1.9')
  await page.getByLabel('Load 1: output, %').fill('25')
  await page.getByLabel('Load 1: current, A').fill('4,2')
  await expect(model).toContainText('At rest it draws 1.9 A, where about 0.19 A is expected: has its decimal slipped? It may be 0.19 A.')
  await expect(keep).toBeDisabled()
  await page.getByLabel('at rest, A').fill('0.19')
  await expect(model).not.toContainText('slipped')
  await expect(model).toContainText('I = 0.19 A + 14.3 A (u + 0.50 u²)')
  await expect(model).toContainText('amp.scale is 285, amp.zero is 19.')
  await axe(page)
  await keep.click()
  await expect(ledger(page)).toContainText('0.19 A at rest, 4.2 A at 25 %')
  await test.step('how it is read under load has its cautions and low targets', async () => {
    await page.getByRole('button', { name: 'How to read it under load, strapped down' }).click()
    await expect(page.getByText('Eyes protected, nobody in the plane of the propellers')).toBeVisible()
    await expect(page.getByText(/^30 %: about \d+\.\d A/)).toBeVisible()
  })
  await test.step('with a sensor, chargers tell its scale in the family’s own unit, and more than a pack holds is refused', async () => {
    await page.getByRole('button', { name: 'A current sensor' }).click()
    const scale = page.getByRole('region', { name: 'The scale' })
    for (const [i, logged, put] of [
      [1, '480', '541'],
      [2, '510', '566'],
      [3, '455', '517'],
    ]) {
      await page.getByLabel(`Pack ${i}: logged, mAh`).fill(String(logged))
      await page.getByLabel(`Pack ${i}: put back, mAh`).fill(String(put))
    }
    await expect(scale).toContainText('The scale should be 356 instead of 400')
    await expect(scale).toContainText('The packs agree.')
    await page.getByLabel('Pack 3: put back, mAh').fill('1517')
    await expect(scale.getByRole('alert')).toContainText('the charger says 1517 mAh, and it holds 650 mAh')
    await expect(page.getByLabel('Pack 2: put back, mAh')).toHaveValue('566')
  })
  await test.step('without one the model is corrected by the charger, less what it draws at rest', async () => {
    await page.getByRole('button', { name: 'No sensor, by the charger' }).click()
    const scale = page.getByRole('region', { name: 'The scale' })
    await page.getByLabel('Pack 1: logged, mAh').fill('480')
    await page.getByLabel('Pack 1: put back, mAh').fill('541')
    await expect(scale.getByRole('alert')).toContainText('for how many minutes was it on?')
    await page.getByLabel('Pack 1: minutes on').fill('4')
    await expect(scale).toContainText('The scale should be 452 instead of 400. One pack says so; three say how sure it is.')
  })
  expect((await request.get('/api/quads/5')).ok()).toBe(true)
})

test('a pack with another cell count: what it changes is said at every station that it touches', async ({ page }) => {
  const q = (await (await page.request.get('/api/quads/1')).json()) as { version: number }
  const edit = await page.request.post('/api/quads/1/edit', {
    data: { version: q.version, values: [{ path: 'parts.packs.red', value: { cells: 4, capacity: 1500, discharge: 100, resistance: 14, mass: 178 } }] },
  })
  expect(edit.ok()).toBe(true)
  await page.goto('/quads/1/power-watch')
  await expect(ledger(page)).toContainText('The alarm counts on another pack than red')
  await page.getByRole('combobox', { name: 'Pack flown' }).click()
  await page.getByRole('option', { name: 'red, 4 cells' }).click()
  await expect(page.getByText('The alarm counts on 6 cells.')).toBeVisible()
  await expect(page.getByLabel('Warns below, V of red')).toHaveValue('14.0')
  await page.getByLabel('Warns below, V of red').fill('21')
  await expect(page.getByRole('alert')).toContainText('Of 4 cells it lies between 12.8 and 15.6 V.')
  await page.getByLabel('Warns below, V of red').fill('14,6')
  await expect(page.getByRole('region', { name: 'The alarm', exact: true })).toContainText('3.65 V a cell is')
  await page.getByRole('button', { name: 'Packs and reach' }).click()
  const packs = page.getByRole('region', { name: 'Its packs' })
  await expect(packs).toContainText('Warned of at 14.0 V, landed at 13.2 V; the alarm counts on 6 cells and would do so at 21.0 V')
  await expect(page.getByRole('region', { name: 'Where to turn' })).toContainText('in still air')
  await axe(page)
  await station(page, 'Airframe')
  await page.getByRole('button', { name: 'Curves' }).click()
  await expect(page.getByRole('main')).toContainText('red')
  await test.step('how a pack ages is said where it is flown with', async () => {
    const all = (await (await page.request.get('/api/packs')).json()) as { version: number }
    const measured = await page.request.post('/api/packs/measured', { data: { version: all.version, name: 'grey', resistance: 38, stored: 4.15 } })
    expect(measured.ok()).toBe(true)
    await page.goto('/quads/1/power-watch?at=reach')
    await expect(page.getByRole('region', { name: 'Its packs' })).toContainText('Retire it. Its resistance is 2.11 times what it was')
  })
})
