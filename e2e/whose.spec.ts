// One bench is one quad: a second quad beside it, with Dunlin on the bench, through the page.
import type { Page } from '@playwright/test'
import { choose } from './choose.ts'
import { patient } from './hold.ts'
import { call, Line } from './line.ts'
import { expect, LoneBench, Program, refusal, station, stations, test } from './program.ts'

const ledger = (page: Page) => page.getByRole('complementary', { name: 'Ledger' })
const other = (page: Page) => page.getByRole('region', { name: 'Another quad on the bench' })
const chip = (page: Page) => page.getByRole('button', { name: /^Bench/ })

async function begin(page: Page, name: string) {
  await page.goto('/hangar')
  await page.getByRole('button', { name: 'Begin a quad' }).click()
  await page.getByRole('dialog').getByLabel('Name').fill(name)
  await page.getByRole('button', { name: 'Begin it' }).click()
  await expect(page.getByRole('heading', { name: 'What is on it, and do the parts suit each other?' })).toBeVisible()
}

test('a quad of one’s own, begun with nothing, uses no other quad’s bench', async ({ page, request }) => {
  await request.post('/api/bench/things', { data: { pack: true, radio: true } })
  await begin(page, 'Magpie')
  const address = new URL(page.url()).pathname.replace(/[^/]*$/, '')
  await test.step('every place is there, with nothing known', async () => {
    for (const s of [...stations, 'book', 'card', 'rehearsal']) {
      await page.goto(address + s)
      await expect(page.getByRole('main')).toBeVisible()
      await expect(page.getByRole('button', { name: /^Cut power/ })).toBeVisible()
      await expect(page.getByText('cannot be shown', { exact: false })).toBeHidden()
    }
  })
  await test.step('what is on the bench is named, and not taken for Magpie', async () => {
    await page.goto(`${address}first-power`)
    await expect(chip(page)).toContainText('Dunlin')
    await expect(chip(page)).toContainText('simulated')
    await expect(other(page)).toContainText('On the bench is Dunlin. Put Magpie there, or type it.')
    const ask = ledger(page).locator('[data-ask]', { hasText: 'Propellers are off' })
    await expect(ask.getByRole('button', { name: 'Read from the bench' })).toBeDisabled()
    await ask.getByRole('button', { name: 'Type it' }).click()
    await ask.getByRole('button', { name: 'Yes', exact: true }).click()
    await expect(ask).toBeHidden()
    await expect(ledger(page).getByRole('list', { name: 'Readings' })).toContainText('typed')
  })
  await test.step('no motor of Dunlin turns from here', async () => {
    const id = Number(/quads\/(\d+)/.exec(address)?.[1])
    const refused = await request.post(`/api/quads/${id}/take`, { data: { path: 'readings.firstPower.idleCurrent' } })
    expect(refused.status()).toBe(409)
    expect((await refused.json()).detail).toContain('On the bench is Dunlin')
    await page.goto(`${address}bench-proof`)
    await expect(page.getByRole('button', { name: 'Hold: arm with throttle up' })).toBeDisabled()
  })
  await test.step('what nobody told is no nought: it is asked for, told to be none in one act, and taken back', async () => {
    await page.goto(`${address}feel`)
    const integral = ledger(page).locator('[data-ask="sheet.feel.rollGains.integral"]')
    const level = ledger(page).locator('[data-ask="sheet.sticks.selfLevel"]')
    await expect(integral).toBeVisible()
    await expect(ledger(page)).toContainText(/nothing is set there: .*roll, integral gain.*self-level/)
    await ledger(page).getByRole('button', { name: 'Set all 12 to 0, off or none' }).click()
    await expect(integral.or(level)).toHaveCount(0)
    await page.getByRole('button', { name: /^Undo: .*not told becomes/ }).click()
    await expect(integral).toBeVisible()
    await integral.getByRole('button', { name: 'Type it' }).click()
    await integral.getByRole('textbox').fill('0')
    await integral.getByRole('button', { name: 'Save' }).click()
    await expect(integral).toHaveCount(0)
    await expect(level).toBeVisible()
  })
  await test.step('propellers: without its own bench the pilot says that the pack is out', async () => {
    await page.goto(`${address}first-flight`)
    const fit = page.getByRole('button', { name: 'Front left: clockwise propeller fitted' })
    await expect(page.getByRole('region', { name: 'Propellers' })).toContainText('no rotation plan says which')
    await expect(fit).toBeDisabled()
    await page.getByRole('checkbox', { name: /^The pack is out/ }).check()
    await fit.click()
    await expect(fit).toHaveAttribute('aria-pressed', 'true')
    await expect(page.getByRole('region', { name: 'Propellers' })).toContainText('clockwise, pack out')
  })
})

test('the right quad is put on the bench from where it is missed, and a board is replaced', async ({ page, request }) => {
  await page.goto('/quads/3/firmware')
  await expect(other(page)).toContainText('On the bench is Dunlin')
  await other(page).getByRole('button', { name: 'Put Whimbrel there' }).click()
  await expect(other(page)).toBeHidden({ timeout: 60_000 })
  await expect(chip(page)).toContainText('Whimbrel')
  await request.post('/api/bench/things', { data: { usb: true } })
  await page.getByRole('button', { name: 'Identify and read back' }).click()
  await request.post('/api/bench/things', { data: { usb: false } })

  await page.keyboard.press('b')
  await choose(page.getByRole('combobox', { name: 'On the bench' }), 'Whimbrel, new board')
  await expect(other(page)).toContainText('board 1203; Whimbrel has board 0877', { timeout: 60_000 })
  await page.keyboard.press('b')
  await other(page).getByRole('button', { name: 'Its board was replaced' }).click()
  await expect(other(page)).toContainText('What was measured on the board before is asked for anew')
  await other(page).getByRole('button', { name: 'It was replaced by this one' }).click()
  await expect(other(page)).toBeHidden()
  await page.goto('/quads/3/book')
  await expect(page.getByRole('region', { name: 'What happened and what changed' })).toContainText('1203')
})

test('another quad comes onto the bench in the middle of a write and of a hold: nothing is kept of it', async ({ context }) => {
  const bench = new LoneBench(['--quad', ''])
  await bench.start()
  const line = new Line(bench)
  await line.open()
  const program = new Program(['--bench', line.address, '--token', bench.token])
  await program.start()
  const page = await context.newPage()
  const put = async (quad: string) => {
    await call(bench, 'set', { pack: false, usb: false })
    await call(bench, 'place', { quad })
    await expect(chip(page)).toContainText(quad, patient)
    await call(bench, 'set', { pack: true })
  }
  try {
    await page.goto(`${program.address}/quads/1/feel`)
    await call(bench, 'set', { pack: true })
    await expect(chip(page)).toContainText(/Dunlin.*pack in/)

    await test.step('in the middle of a write', async () => {
      await ledger(page)
        .getByText(/^Intended settings/)
        .click()
      await ledger(page)
        .getByRole('button', { name: /^Angle limit of self-level/ })
        .click()
      await ledger(page)
        .getByRole('textbox', { name: /^Angle limit of self-level/ })
        .fill('41')
      await page.keyboard.press('Enter')
      const differs = ledger(page).getByRole('article').filter({ hasText: 'The board differs from your settings: angle limit' })
      await expect(differs).toBeVisible()
      const changed = line.once('write', () => put('Godwit'))
      await differs.getByRole('button', { name: 'Write your settings to the board' }).click()
      await changed
      await expect(refusal(page).filter({ hasText: 'device' })).toBeVisible()
      await expect(other(page)).toContainText('On the bench is Godwit. Put Dunlin there, or type it.')
      await expect(differs).toBeVisible()
      const held = (await call(bench, 'settings', {})) as { settings: Record<string, string> }
      expect(Object.values(held.settings)).not.toContain('41')
    })

    await test.step('in the middle of a hold', async () => {
      await put('Dunlin')
      await expect(other(page)).toBeHidden()
      await station(page, 'Motors')
      const seen = ledger(page).getByRole('list', { name: 'Readings' })
      const spin = page.getByRole('button', { name: 'Hold to spin A' })
      // Dunlin's own. A hold that a busy machine broke is begun anew; the hand stays down.
      await expect(async () => {
        await page.mouse.up()
        await spin.hover()
        await page.mouse.down()
        await expect(seen).toContainText('Motor on output A', { timeout: 6000 })
      }).toPass(patient)
      const own = await seen.textContent()
      await put('Godwit')
      await expect(other(page)).toContainText('On the bench is Godwit')
      await expect(spin).toBeDisabled()
      const turning = async () => {
        const live = (await call(bench, 'set', {})) as { motion?: string; corners: Record<string, { turning: boolean }> }
        return live.motion ?? Object.values(live.corners).some((c) => c.turning)
      }
      expect(await turning()).toBe(false)
      await page.mouse.up()
      expect(await seen.textContent()).toBe(own)
    })
  } finally {
    await program.end()
    line.close()
    await bench.kill()
  }
})

test('a part of the page that cannot be drawn leaves the rest, the cut above all', async ({ page, errors }) => {
  // The answer is damaged on its way, as a program of another version might give it.
  await page.route('**/api/quads/1/motors', async (route) => {
    const answer = await route.fetch()
    const view = await answer.json()
    view.corners = null
    await route.fulfill({ response: answer, json: view })
  })
  await page.goto('/quads/1/motors')
  await expect(page.getByRole('alert', { name: 'The instrument cannot be shown' })).toBeVisible()
  await expect(ledger(page)).toContainText('Still needed')
  await expect(page.getByRole('button', { name: /^Cut power/ })).toBeVisible()
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible()
  await page.unroute('**/api/quads/1/motors')
  await station(page, 'Sticks')
  await station(page, 'Motors')
  await page.reload()
  await expect(page.getByRole('alert')).toBeHidden()
  errors.splice(0) // what was damaged on purpose is noted by the browser
})

test('what a list of changes does not name is asked for, and set as its firmware comes in one act', async ({ page }) => {
  await page.goto('/hangar')
  await page.getByRole('button', { name: 'Begin a quad' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Name').fill('Reedling')
  await dialog.getByLabel('Firmware family').fill('Marram')
  await dialog.getByLabel('Version').fill('7.0.2')
  await dialog.getByLabel('Board target').fill('HARRIER4')
  await dialog.getByRole('button', { name: 'Begin it' }).click()
  await expect(page.getByRole('heading', { name: 'What is on it, and do the parts suit each other?' })).toBeVisible()
  await station(page, 'Feel')
  const gain = ledger(page).locator('[data-ask="sheet.feel.rollGains.integral"]')
  await expect(gain).toContainText('comes as 0.12 %/°')
  await ledger(page)
    .getByRole('button', { name: /^Set all \d+ as Marram 7\.0\.2 comes/ })
    .click()
  await expect(gain).toHaveCount(0)
  await ledger(page)
    .getByText(/^Intended settings/)
    .click()
  await expect(ledger(page).getByRole('button', { name: 'Roll, integral gain: 0.12 %/°. Change it' })).toBeVisible()
})
