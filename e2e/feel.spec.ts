// The feel: a curve bent by hand and by keys and put into another family, a borrowed feel, filters that are too slow, a pack that makes it oscillate, and profiles held against each other.
import { AxeBuilder } from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, station, test } from './program.ts'

const ledger = (page: Page) => page.getByRole('complementary', { name: 'Ledger' })
const tab = (page: Page, name: string) => page.getByRole('button', { name, exact: true })
const region = (page: Page, name: string) => page.getByRole('region', { name, exact: true })

type Rates = { centre: number; peak: number; bend: number }
type Known = {
  meant: {
    sheet: {
      feel: { family: string; roll: Rates; pitch: Rates; yaw: Rates; throttleLimit: number; throttleMiddle?: number; rollGains: { proportional: number } }
    }
  }
  version: number
}
const known = async (page: Page, id: number) => (await (await page.request.get(`/api/quads/${id}`)).json()) as Known

async function axe(page: Page) {
  const found = await new AxeBuilder({ page })
    .setLegacyMode()
    .options({ resultTypes: ['violations'], rules: { 'color-contrast': { enabled: false } } })
    .analyze()
  expect(found.violations.map((v) => v.id)).toEqual([])
}

/** Takes what is tried, and waits until nothing is. */
async function take(page: Page) {
  await page.getByRole('button', { name: 'Take what is tried' }).click()
  await expect(page.getByText('Everything here is tried first, and changes nothing until you take it.')).toBeVisible()
}

async function edit(page: Page, id: number, values: { path: string; value: unknown }[]) {
  const { version } = await known(page, id)
  expect((await page.request.post(`/api/quads/${id}/edit`, { data: { version, values } })).ok()).toBe(true)
}

test('the centre is softened by a drag and by the keys, put into another family, and back', async ({ page }) => {
  await page.goto('/quads/1/airframe')
  await station(page, 'Feel')
  const begins = page.getByRole('slider', { name: 'Roll: how it begins, °/s' })
  await expect(begins).toHaveAttribute('aria-valuenow', '41')
  await test.step('drawn down in the picture it is softer, and pitch goes along', async () => {
    const box = await begins.boundingBox()
    if (!box) throw new Error('there is no handle')
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2 + 4, { steps: 4 })
    await page.mouse.up()
    await expect(page.getByText('2 settings are tried, and not taken yet.')).toBeVisible()
    await expect(page.getByText(/^Against the dashed one it is at most \d+ °\/s slower/)).toBeVisible()
  })
  await test.step('a step further by a key; typed figures follow', async () => {
    const was = Number(await begins.getAttribute('aria-valuenow'))
    await begins.focus()
    await page.keyboard.press('ArrowDown')
    await expect(begins).toHaveAttribute('aria-valuenow', String(was - 5))
    await page.getByRole('textbox', { name: 'Roll, centre' }).fill('110')
    await page.keyboard.press('Enter')
    await page.getByRole('textbox', { name: 'Pitch, centre' }).fill('110')
    await page.keyboard.press('Enter')
    await expect(region(page, 'What it comes to')).toContainText('Slope at the centre110110120')
  })
  await axe(page)
  await test.step('taken it is one act on the settings, which did not change before', async () => {
    expect((await known(page, 1)).meant.sheet.feel.roll.centre).toBe(140)
    await take(page)
    const f = (await known(page, 1)).meant.sheet.feel
    expect([f.roll.centre, f.pitch.centre, f.yaw.centre]).toEqual([110, 110, 120])
  })
  const points = async (tried: { path: string; value: unknown }[]) => {
    const v = (await (await page.request.post('/api/quads/1/feel/curves', { data: { tried } })).json()) as { axes: { points: number[] }[] }
    return v.axes[0]?.points ?? []
  }
  const soft = await points([])
  await test.step('in another family it is nearly the same, and back again within a hundredth', async () => {
    await page.getByRole('button', { name: 'As compounding' }).click()
    await expect(page.getByText(/Nearest where sticks live: roll \d\.\d % off/)).toBeVisible()
    await page.getByRole('button', { name: 'Try it so' }).click()
    await expect(region(page, 'What it comes to')).toContainText('Compounding.')
    await page.getByRole('button', { name: 'As centre-peak' }).click()
    await page.getByRole('button', { name: 'Try it so' }).click()
    await expect(region(page, 'What it comes to')).toContainText('Centre-peak.')
    const now: Rates = {
      centre: Number(await page.getByRole('textbox', { name: 'Roll, centre' }).inputValue()),
      peak: Number(await page.getByRole('textbox', { name: 'Roll, peak' }).inputValue()),
      bend: Number(await page.getByRole('textbox', { name: 'Roll, bend' }).inputValue()),
    }
    const back = await points(Object.entries(now).map(([name, value]) => ({ path: `sheet.feel.roll.${name}`, value })))
    expect(Math.max(...soft.map((x, i) => Math.abs(x - (back[i] ?? 0)))) / Math.max(...soft)).toBeLessThan(0.01)
  })
  await test.step('what is no curve is said, and what was typed stays', async () => {
    await expect(page.getByText('Everything here is tried first, and changes nothing until you take it.')).toBeVisible() // back where it came from
    await page.getByRole('textbox', { name: 'Roll, peak' }).fill('90')
    await page.keyboard.press('Enter')
    const alert = page.getByRole('alert').filter({ hasText: 'is below the centre' })
    await expect(alert).toContainText('What you tried is still here')
    await alert.getByRole('textbox', { name: 'roll, peak' }).fill('600')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('textbox', { name: 'Roll, peak' })).toHaveValue('600')
    await page.getByRole('textbox', { name: 'Roll, bend' }).fill('1.4')
    await expect(page.getByRole('alert').filter({ hasText: '0 to 1' })).toBeVisible()
    await page.keyboard.press('Escape')
  })
  await test.step('drawn off the picture it stays at its end, and says so', async () => {
    const peak = page.getByRole('slider', { name: 'Roll: full stick, °/s' })
    await peak.focus()
    for (let i = 0; i < 3; i++) await page.keyboard.press('PageDown')
    await expect(peak).toHaveAttribute('aria-valuenow', '450')
    const box = await begins.boundingBox()
    if (!box) throw new Error('there is no handle')
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width / 2, box.y + 300, { steps: 3 })
    await page.mouse.up()
    await expect(page.getByText(/^Off the picture: it stays between 0 and/)).toBeVisible()
  })
})

test('a feel is borrowed, flown on one stick, and refused in part', async ({ page }) => {
  await page.goto('/quads/1/airframe')
  await station(page, 'Feel')
  await tab(page, 'Borrow').click()
  await tab(page, 'Another quad').click()
  await page.getByRole('combobox', { name: 'Which quad' }).click()
  await page.getByRole('option', { name: 'Whimbrel' }).click()
  await expect(page.getByRole('img', { name: 'Roll on one stick, as it is and with the feel of Whimbrel' })).toBeVisible()
  await expect(region(page, 'What is carried')).toContainText('Roll, peak rate670 °/s360 °/s')
  await expect(page.getByRole('list', { name: 'Not carried' })).toContainText('The loop rate. Its loop runs at 2000 Hz')
  await axe(page)
  await page.getByRole('button', { name: 'Try the feel of Whimbrel on Dunlin' }).click()
  await test.step('its gains are flown before they are taken', async () => {
    await tab(page, 'Gains').click()
    await expect(region(page, 'In hand')).toContainText('Enough in hand')
    await expect(page.getByText('Dashed: the settings as they are.')).toBeVisible()
  })
  await take(page)
  expect((await known(page, 1)).meant.sheet.feel.roll.peak).toBe(360)
  await test.step('a list tells no parts, so that its gains mean nothing here; one of an unknown family is refused', async () => {
    await tab(page, 'Borrow').click()
    await tab(page, 'A list').click()
    await page.getByRole('textbox', { name: /^The settings of a board/ }).fill('turn.roll = 150:700:30')
    await expect(page.getByRole('list', { name: 'Not carried' })).toContainText('a gain means nothing without the quad that it turns')
    await page.getByRole('textbox', { name: /^The settings of a board/ }).fill('turn.shape = round')
    await expect(page.getByRole('alert')).toContainText(/turn\.shape: is "round"/i)
    await expect(page.getByRole('textbox', { name: /^The settings of a board/ })).toHaveValue('turn.shape = round')
  })
  await test.step('a starting point leaves as much thrust for its weight as it says', async () => {
    await tab(page, 'A starting point').click()
    await page.getByRole('button', { name: /^First hover/ }).click()
    await page.getByRole('button', { name: 'Try the feel of first hover on Dunlin' }).click()
    await tab(page, 'Throttle').click()
    await expect(page.getByRole('img', { name: /full stick lifts 2\.[456] times its weight/ })).toBeVisible()
  })
})

test('the throttle hovers where the hand wants it, and its limit is shown both ways', async ({ page }) => {
  await page.goto('/quads/1/airframe')
  await station(page, 'Feel')
  await tab(page, 'Throttle').click()
  const packs = region(page, 'With each pack')
  await expect(packs).toContainText('grey, full36 %26 %')
  const at = page.getByRole('slider', { name: 'Where the hand wants its hover, % of the stick' })
  await at.focus()
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight')
  await page.getByRole('button', { name: 'Put the hover there' }).click()
  await expect(packs).toContainText(/grey, full4\d %26 %/)
  await tab(page, 'Cut off').click()
  await expect(page.getByText(/The last \d+ % of the stick do nothing\./)).toBeVisible()
  await axe(page)
  await take(page)
  await expect(ledger(page)).toContainText('The throttle limit is cut off')
  await ledger(page).getByRole('button', { name: 'Compress it instead' }).click()
  await expect(ledger(page)).not.toContainText('The throttle limit is cut off')

  // Evened out by the board, thrust climbs straight: the hover lies lower, and a correction moves the motors farther, which Gains counts.
  await tab(page, 'Throttle').click()
  await page.getByRole('button', { name: 'Have the board even it out' }).click()
  await expect(page.getByText(/Thrust strays by [1-5] % from a straight line over the stick/)).toContainText(/moves the motors 1\.\d\d times as far/)
  await expect(packs).toContainText(/grey, full[12]\d %26 %/)
  await take(page)
  await expect(page.getByRole('slider', { name: 'Thrust evened out by the board, %' })).toHaveAttribute('aria-valuenow', /[4-9]\d/)
})

test('filters that are too slow for their loop are found, and a lower delay is seen before it is taken', async ({ page }) => {
  await page.goto('/quads/4/airframe')
  await station(page, 'Feel')
  await expect(ledger(page)).toContainText('The filters are too slow for their loop')
  await tab(page, 'Filters').click()
  const delay = region(page, 'Delay')
  await expect(delay).toContainText('Too slow for their loop: 15.4 ms')
  await page.getByRole('textbox', { name: 'Low-pass of the gyro: cutoff', exact: true }).fill('60')
  await page.keyboard.press('Enter')
  await expect(delay).toContainText(/Quick enough for their loop: 2\.\d ms/)
  await axe(page)
  await take(page)
  await expect(ledger(page)).not.toContainText('The filters are too slow for their loop')
  await test.step('its self-tune waits for what must be so before', async () => {
    await tab(page, 'Self-tune').click()
    await expect(region(page, 'Before it')).toContainText('Not yet: what is marked stands against it.')
    await expect(region(page, 'Before it')).toContainText('changes are not saved')
  })
  await test.step('a recording that cannot show what it is for is said', async () => {
    await tab(page, 'Filters').click()
    await page.getByRole('combobox', { name: 'What the recording is for' }).click()
    await page.getByRole('option', { name: 'what shakes, what filters leave' }).click()
    await page.getByRole('textbox', { name: 'Rounds of the loop to one record' }).fill('4')
    await page.keyboard.press('Enter')
    await expect(region(page, 'Recording')).toContainText(/250 records a second; \d+ are needed for it/)
  })
})

test('a pack with one cell more makes it oscillate, and that is found before it flies', async ({ page }) => {
  await edit(page, 5, [{ path: 'sheet.feel.rollGains.proportional', value: 0.2 }])
  await page.goto('/quads/5/airframe')
  await station(page, 'Feel')
  await tab(page, 'Gains').click()
  const inHand = region(page, 'In hand')
  await expect(inHand).toContainText('Enough in hand')
  const before = Number(/at ([\d.]+) times/.exec((await inHand.textContent()) ?? '')?.[1])
  await edit(page, 5, [
    { path: 'parts.packs.small.cells', value: 7 },
    { path: 'sheet.feel.rollGains.proportional', value: 0.2 },
  ])
  await page.reload()
  await expect(inHand).toContainText('Little in hand')
  expect(Number(/at ([\d.]+) times/.exec((await inHand.textContent()) ?? '')?.[1])).toBeLessThan(before)
  await expect(ledger(page)).toContainText('Roll has little in hand before it oscillates')
  await test.step('gains to begin with are flown before they are offered, and keep enough in hand', async () => {
    await page.getByRole('button', { name: 'Try gains to begin with' }).click()
    await expect(inHand).toContainText('Enough in hand')
    await take(page)
    await expect(ledger(page)).not.toContainText('has little in hand')
  })
  await test.step('what it does in the air is told apart: the tune, or a part', async () => {
    await page.getByRole('button', { name: 'What it does in the air: the tune, or a part?' }).click()
    await expect(page.getByText('Half the gains: if it still shakes as fast, it is a part.')).toBeVisible()
  })
})

test('profiles on a switch are held against each other, and speed follows from lean', async ({ page }) => {
  const slow = {
    name: 'guest',
    roll: { centre: 60, peak: 300, bend: 0.3 },
    pitch: { centre: 60, peak: 300, bend: 0.3 },
    yaw: { centre: 60, peak: 200, bend: 0.3 },
    angleLimit: 30,
    throttleLimit: 50,
  }
  await edit(page, 1, [
    { path: 'sheet.feel.second', value: slow },
    { path: 'sheet.sticks.secondProfile', value: { channel: 8, from: 1700, to: 2100 } },
  ])
  await page.goto('/quads/1/airframe')
  await station(page, 'Feel')
  await page.getByRole('combobox', { name: 'Held against' }).click()
  await page.getByRole('option', { name: 'the second profile (guest)' }).click()
  await expect(page.getByText(/Against the dashed one it is at most 3\d\d °\/s quicker/)).toBeVisible()
  await page.getByRole('combobox', { name: 'Profile' }).click()
  await page.getByRole('option', { name: 'the second profile (guest)' }).click()
  await expect(page.getByRole('textbox', { name: 'Roll, peak' })).toHaveValue('300')
  const peak = page.getByRole('slider', { name: 'Roll: full stick, °/s' })
  await peak.focus()
  await page.keyboard.press('PageUp')
  await expect(page.getByRole('textbox', { name: 'Roll, peak' })).toHaveValue('350')
  await take(page)
  const q = (await known(page, 1)) as unknown as { meant: { sheet: { feel: { roll: Rates; second: { roll: Rates } } } } }
  expect([q.meant.sheet.feel.roll.peak, q.meant.sheet.feel.second.roll.peak]).toEqual([670, 350])
  await tab(page, 'Speed and lean').click()
  await expect(region(page, 'The limit')).toContainText(/At 50° it pulls away with 11\.7 m\/s²/)
  await page.getByRole('slider', { name: 'Limit of lean in self-level, °' }).focus()
  await page.keyboard.press('Home')
  await expect(region(page, 'The limit')).toContainText('Self-level never leans as far.')
  await axe(page)
})
