// A real quad from an empty page to its first hover: no bench, nothing simulated. Its parts come from the catalogue, its settings from a list,
// everything else from a pilot's hands, a meter, a scale and a watch.
import type { Locator, Page } from '@playwright/test'
import { choose } from './choose.ts'
import { test as base, expect, Program, perch } from './program.ts'

const test = base.extend({
  // biome-ignore lint/correctness/noEmptyPattern: Playwright wants the pattern
  program: async ({}, use) => {
    const p = new Program(['--bench', 'none'])
    await p.start()
    await use(p)
    await p.end()
  },
})

const ledger = (page: Page) => page.getByRole('complementary', { name: 'Ledger' })
const finding = (page: Page, title: string) =>
  ledger(page)
    .getByRole('article')
    .filter({ has: page.getByRole('heading', { name: title }) })

/** Fills in what is asked, field after field. */
async function fill(form: Locator, values: string[]) {
  const fields = form.locator('input[type=text], button[role=combobox]')
  for (const [i, value] of values.entries()) {
    if (value === '') continue
    const field = fields.nth(i)
    if ((await field.getAttribute('role')) === 'combobox') await choose(field, value)
    else await field.fill(value)
  }
  await form.getByRole('button', { name: 'Save' }).click()
  await expect(form).toBeHidden()
}

/** Answers what a station still needs, each by its place: a yes or no, or a value for each field. */
async function answer(page: Page, answers: Record<string, string | string[]>) {
  for (const [path, value] of Object.entries(answers)) {
    const ask = ledger(page).locator(`[data-ask="${path}"]`)
    if (value === 'Yes' || value === 'No') await ask.getByRole('button', { name: value, exact: true }).click()
    else {
      await ask.getByRole('button', { name: 'Type it' }).click()
      await fill(ask.getByRole('form'), [value].flat())
    }
    await expect(ask, path).toHaveCount(0)
  }
}

async function sign(page: Page, name: string, next: string) {
  await expect(ledger(page).locator('[data-ask]')).toHaveText([])
  await expect(page.getByRole('button', { name: `Sign, on to ${next}` })).toBeEnabled()
  await page.keyboard.press('g')
  await expect(perch(page, name)).toHaveAttribute('aria-label', /proven$/)
  await expect(page.getByRole('navigation', { name: 'Stations' }).locator('[aria-current=step]')).toHaveAttribute('aria-label', new RegExp(` ${next}: `))
}

/** The stations in their order. */
const line = [
  'Airframe',
  'First power',
  'Firmware',
  'Wiring',
  'Link',
  'Sticks',
  'Motors',
  'Senses',
  'Feel',
  'Power watch',
  'Link loss',
  'Picture',
  'Bench proof',
  'First flight',
]

const propellers = [
  ['Front left', 'clockwise'],
  ['Front right', 'counter-clockwise'],
  ['Rear left', 'counter-clockwise'],
  ['Rear right', 'clockwise'],
] as const

/** What a pilot reads off a quad like the one before, by the place it is asked at. */
const readOff: Record<string, string[]> = {
  'readings.airframe.weight': ['517 g'],
  'readings.airframe.balance': ['0', '0'],
  'readings.firstPower.leadResistance': ['150', '8300'],
  'readings.firstPower.frameResistance': ['2100'],
  'readings.firstPower.idleCurrent': ['0.47 A'],
  ...Object.fromEntries(['A', 'B', 'C', 'D'].map((o) => [`readings.firmware.speedControllers.${o}`, ['CW45', '3.1.0', '24', 'yes']])),
  'readings.link.range': ['96'],
  'readings.link.module': ['Tidewire', '6.2.1', '2.4 GHz'],
  'readings.link.receiver': ['Tidewire', '6.1.0', '2.4 GHz'],
  ...Object.fromEntries(['roll', 'pitch', 'throttle', 'yaw'].map((axis, i) => [`readings.sticks.axes.${axis}`, [String(i + 1), '1000', '1500', '2000']])),
  'readings.sticks.switches.left': ['5', '1000', '2000'],
  'readings.sticks.switches.right': ['6', '1000', '2000'],
  'readings.motors.outputs.A': ['front right', 'counter-clockwise'],
  'readings.motors.outputs.B': ['rear left', 'counter-clockwise'],
  'readings.motors.outputs.C': ['front left', 'clockwise'],
  'readings.motors.outputs.D': ['rear right', 'clockwise'],
  'readings.motors.startsAt': ['3.7'],
  'readings.motors.layout': ['x'],
  'readings.senses.level': ['0.2', '-0.1'],
  'readings.senses.boardLies': ['0', '0', '0'],
  'readings.senses.gyroStill': ['0.2'],
  'readings.watch.boardVolts': ['16.1'],
  'readings.watch.meterVolts': ['16.1 V'],
  'readings.watch.route': ['sounder'],
  'readings.loss.output': ['silence'],
  'readings.loss.response': ['stopped', '1.2'],
  'readings.loss.rearms': ['no'],
  'readings.picture.frequency': ['5780'],
  'readings.firstFlight.wind': ['3 m/s'],
  'readings.firstFlight.gust': ['5'],
  'readings.firstFlight.clear': ['30'],
}

/** Fills in all that a station still needs on one sheet; what is not read off is answered with yes. A single one is answered where it stands. */
async function sheet(page: Page) {
  const asks = ledger(page).locator('[data-ask^="readings."]')
  await expect(page.getByRole('navigation', { name: 'Stations' }).locator('[aria-current=step]')).toBeVisible()
  const all = ledger(page).getByRole('button', { name: /^Type all \d+/ })
  if (!(await all.isVisible())) {
    const path = (await asks.count()) ? await asks.first().getAttribute('data-ask') : null
    if (path) await answer(page, { [path]: readOff[path] ?? 'Yes' })
    return
  }
  await all.click()
  const dialog = page.getByRole('dialog', { name: 'What is still needed here' })
  await expect(dialog).toBeVisible()
  for (const ask of await dialog.locator('[data-ask]').all()) {
    const path = (await ask.getAttribute('data-ask')) ?? ''
    if (/propellers\.|identity$|backup$/.test(path)) continue
    const fields = ask.locator('input[type=text], button[role=combobox]')
    for (const [i, value] of (readOff[path] ?? ['yes']).entries()) {
      if ((await fields.nth(i).getAttribute('role')) === 'combobox') await choose(fields.nth(i), value)
      else await fields.nth(i).fill(value)
    }
  }
  await dialog.getByRole('button', { name: /^Save/ }).click()
  await expect(dialog).toBeHidden()
}

const head = '# board: SLIPWAY6\n# line: Marram\n# version: 7.0.2\n# number: 77\n'

test('a real quad goes from an empty page to a flight in the book', async ({ page }) => {
  // An act is something that the server keeps.
  let acts = 0
  page.on('response', (r) => {
    if (r.request().method() === 'POST' && r.ok() && !/review|plan\b/.test(new URL(r.url()).pathname)) acts++
  })
  const list = (text: string) => page.getByRole('textbox', { name: 'Settings list' }).fill(head + text)
  await page.goto('/hangar')
  await page.getByRole('button', { name: 'Begin a quad' }).click()
  const begin = page.getByRole('dialog', { name: 'Begin a quad' })
  for (const [label, value] of [
    ['Name', 'Petrel'],
    ['Frame', 'Plank Five'],
    ['Motors', 'Sandpiper 2207 1700'],
    ['Propellers', 'three blades 5.1 by 3.6 in'],
    ['Speed controllers', 'Causeway 45, 6 cells'],
    ['Board', 'Slipway Six'],
    ['Pack', '4 cells 1550 mAh'],
    ['Receiver', 'Tidewire nano'],
    ['Radio module', 'Estuary internal'],
    ['Video', 'Beacon 400'],
    ['Country or field', 'Sallow Spit'],
    ['The list, one setting a line', `${head}craft.name = Petrel\nfound.level.done = 1\n`],
  ] as const)
    await begin.getByLabel(label, { exact: !['Country or field'].includes(label) }).fill(value)
  await begin.getByRole('button', { name: 'Begin it' }).click()
  await expect(page.getByRole('heading', { name: 'What is on it, and do the parts suit each other?' })).toBeVisible()
  const id = Number(/quads\/(\d+)/.exec(page.url())?.[1])

  await test.step('Airframe: weighed; what nobody told of it is asked for, and not taken for nothing', async () => {
    await expect(finding(page, 'The power lead has too little capacitor')).toContainText('No capacitor is told')
    await ledger(page)
      .getByText(/^Intended settings/)
      .click()
    await ledger(page).getByRole('button', { name: 'Capacitor, capacitance: 0 µF. Change it' }).click()
    await fill(ledger(page).getByRole('form', { name: 'Capacitor, capacitance' }), ['470 µF'])
    await answer(page, { 'parts.capacitor.rating': '35', 'readings.airframe.weight': '515 g', 'readings.airframe.balance': ['2', '0'] })
    await answer(page, { 'readings.airframe.screws': 'Yes', 'readings.airframe.tidy': 'Yes', 'readings.airframe.clear': 'Yes' })
    await sign(page, 'Airframe', 'First power')
  })
  await test.step('First power, with a meter', async () => {
    await answer(page, {
      'readings.firstPower.propellersOff': 'Yes',
      'readings.firstPower.antennasOn': 'Yes',
      'readings.firstPower.leadResistance': ['140', '8200'],
      'readings.firstPower.frameResistance': '2200',
      'readings.firstPower.polarity': 'Yes',
      'readings.firstPower.idleCurrent': '0.46 A',
    })
    await sign(page, 'First power', 'Firmware')
  })
  await test.step('Firmware: the list said who the board is', async () => {
    await expect(ledger(page).getByRole('list', { name: 'Readings' })).toContainText('SLIPWAY6, Marram 7.0.2, number 77')
    for (const output of ['A', 'B', 'C', 'D']) await answer(page, { [`readings.firmware.speedControllers.${output}`]: ['CW45', '3.1.0', '24', 'yes'] })
    await sign(page, 'Firmware', 'Wiring')
  })
  await test.step('Wiring: by the plan', async () => {
    await page.getByRole('button', { name: 'Plan the wires' }).click()
    await page.getByRole('button', { name: 'Draw it so' }).click()
    await expect(finding(page, 'The receiver is not wired')).toHaveCount(0)
    const language = finding(page, 'The board takes the receiver to speak another language')
    await expect(language).toContainText('The receiver: two-way serial. Your settings: serial frame.')
    await language.getByRole('button', { name: 'Follow the receiver' }).click()
    await expect(language).toHaveCount(0)
    await answer(page, { 'readings.wiring.receiverAnswers': 'Yes' })
  })
  await test.step('Link', async () => {
    await perch(page, 'Link').click()
    await answer(page, {
      'parts.radioModule.version': '6.2.1',
      'parts.receiver.version': '6.1.0',
      'readings.link.channelsMove': 'Yes',
      'readings.link.range': '96',
      'readings.link.module': ['Tidewire', '6.2.1', '2.4 GHz'],
      'readings.link.receiver': ['Tidewire', '6.1.0', '2.4 GHz'],
      'readings.link.antennas': 'Yes',
    })
  })
  await test.step('Sticks: switches of his own, and what they mean', async () => {
    await page.goto(`/quads/${id}/sticks?at=map`)
    for (const [name, positions] of [
      ['left', 'safe, armed'],
      ['right', 'acro, level'],
    ] as const) {
      await page.getByRole('button', { name: 'Add a switch' }).click()
      const form = page.getByRole('form', { name: 'Add a switch' })
      await form.getByLabel('Name').fill(name)
      await form.getByLabel('Positions').fill(positions)
      await form.getByRole('button', { name: 'Add it' }).click()
      await expect(form).toBeHidden()
    }
    for (const [what, to] of [
      ['armed', 'left at armed'],
      ['self-level', 'right at level'],
    ] as const) {
      await page.getByRole('button', { name: `${what}, on no switch`, exact: true }).hover()
      await page.mouse.down()
      await page.getByRole('region', { name: to, exact: true }).hover()
      await page.mouse.up()
      await expect(page.getByRole('button', { name: `${what}, ${to}`, exact: true })).toBeVisible()
    }
    await finding(page, 'It arms however steeply it lies').getByRole('button', { name: 'Arm up to 25°' }).click()
    for (const [i, axis] of ['roll', 'pitch', 'throttle', 'yaw'].entries())
      await answer(page, { [`readings.sticks.axes.${axis}`]: [String(i + 1), '1000', '1500', '2000'] })
    await answer(page, {
      'radio.order': 'AETR',
      'readings.sticks.switches.left': ['5', '1000', '2000'],
      'readings.sticks.switches.right': ['6', '1000', '2000'],
    })
  })
  await test.step('Motors: what was seen to turn becomes the plan', async () => {
    await perch(page, 'Motors').click()
    for (const [output, corner, spin] of [
      ['A', 'front right', 'counter-clockwise'],
      ['B', 'rear left', 'counter-clockwise'],
      ['C', 'front left', 'clockwise'],
      ['D', 'rear right', 'clockwise'],
    ] as const)
      await answer(page, { [`readings.motors.outputs.${output}`]: [corner, spin] })
    await finding(page, 'Outputs drive other corners than the board thinks')
      .getByRole('button', { name: 'Give the outputs the corners that were seen' })
      .click()
    await answer(page, { 'readings.motors.startsAt': '3.6', 'readings.motors.layout': 'x', 'readings.motors.restStill': 'Yes' })
  })
  await test.step('Senses, Power watch, Link loss, Picture, Bench proof', async () => {
    await perch(page, 'Senses').click()
    await answer(page, { 'readings.senses.level': ['0.1', '-0.1'], 'readings.senses.boardLies': ['0', '0', '0'], 'readings.senses.gyroStill': '0.2' })
    await perch(page, 'Power watch').click()
    await answer(page, {
      'readings.watch.boardVolts': '16.2',
      'readings.watch.meterVolts': '16.2 V',
      'readings.watch.heard': 'Yes',
      'readings.watch.route': 'sounder',
    })
    await perch(page, 'Link loss').click()
    await answer(page, { 'readings.loss.output': 'silence', 'readings.loss.response': ['stopped', '1.2'], 'readings.loss.rearms': 'No' })
    await perch(page, 'Picture').click()
    await answer(page, { 'sheet.picture.frequency': '5780', 'sheet.picture.power': '25', 'readings.picture.seen': 'Yes', 'readings.picture.frequency': '5780' })
    await perch(page, 'Bench proof').click()
    for (const what of ['gateRefuses', 'frameYaw', 'stickYaw', 'radioOff']) await answer(page, { [`readings.benchProof.${what}`]: 'Yes' })
  })
  await test.step('the board is set elsewhere by the list, and its new list is brought in', async () => {
    await page.goto(`/quads/${id}/firmware?at=write`)
    const rows = page.getByRole('region', { name: 'What must be written' }).getByRole('row')
    await expect(rows.filter({ hasText: 'out.places' })).toContainText('fr:rl:fl:rr')
    const changed = (await rows.all()).slice(1)
    let text = 'craft.name = Petrel\nfound.level.done = 1\n'
    for (const r of changed) text += `${await r.getByRole('rowheader').textContent()} = ${await r.getByRole('cell').last().textContent()}\n`
    await page.goto(`/quads/${id}/firmware?at=saved&bring`)
    await list(text)
    await page.getByRole('button', { name: 'Read it' }).click()
    await page.getByRole('button', { name: 'It is what the board holds' }).click()
    await expect(page).toHaveURL(/at=board/)
    await page.goto(`/quads/${id}/firmware?at=write`)
    await expect(page.getByText('The board matches your settings')).toBeVisible()
    for (const [name, next] of [
      ['Firmware', ''],
      ['Wiring', 'Link'],
      ['Link', 'Sticks'],
      ['Sticks', 'Motors'],
      ['Motors', 'Senses'],
      ['Senses', 'Feel'],
      ['Feel', 'Power watch'],
      ['Power watch', 'Link loss'],
      ['Link loss', 'Picture'],
      ['Picture', 'Bench proof'],
      ['Bench proof', 'First flight'],
    ] as const) {
      await perch(page, name).click()
      if (next) await sign(page, name, next)
    }
  })
  await test.step('First flight: rehearsed, released, flown, noted', async () => {
    await page.getByRole('checkbox', { name: /^The pack is out/ }).check()
    for (const [corner, hand] of propellers) await page.getByRole('button', { name: `${corner}: ${hand} propeller fitted` }).click()
    await answer(page, {
      'readings.firstFlight.wind': '3 m/s',
      'readings.firstFlight.gust': '5',
      'readings.firstFlight.clear': '30',
      'readings.firstFlight.rules': 'Yes',
    })
    await page.getByRole('button', { name: 'Rehearse the hover' }).click()
    await expect(page.getByRole('region', { name: 'Go or not' })).toContainText('It lifts, holds 1.0 m', { timeout: 180_000 })
    await page.keyboard.press('s')
    await expect(perch(page, 'First flight')).toHaveAttribute('aria-label', /proven$/)
    await page.getByRole('textbox', { name: 'Site' }).fill('Sallow Spit')
    await page.getByRole('button', { name: 'Release for hover in sight' }).click()
    await expect(page.getByRole('region', { name: 'Go or not' })).toContainText('Released for hover in sight at Sallow Spit')
    await page.getByRole('button', { name: 'Note the flight' }).click()
    const form = page.getByRole('form', { name: 'Note a flight' })
    await form.getByLabel('Minutes').fill('3.5')
    await form.getByLabel('What happened').fill('Hovered over the gravel, landed.')
    await form.getByRole('button', { name: 'Save it' }).click()
    await expect(page.getByRole('region', { name: 'Flights' })).toContainText('Released: hover')
  })
  expect(acts).toBeLessThan(150)
  console.log(`    a real quad, from an empty page to the book: ${acts} acts`)

  await test.step('the next one like it: meant the same, measured anew, station by station on one sheet', async () => {
    acts = 0
    const held = await (await page.request.get(`/api/quads/${id}/list/whole`)).text()
    await page.goto('/hangar')
    await page.getByRole('button', { name: 'Clone Petrel' }).click()
    await page.getByRole('dialog').getByLabel('Name').fill('Petrel the tenth')
    await page.getByRole('button', { name: 'Clone it' }).click()
    await expect(page.getByRole('banner')).toContainText('Petrel the tenth')
    const next = Number(/quads\/(\d+)/.exec(page.url())?.[1])
    expect(next).not.toBe(id)
    await page.goto(`/quads/${next}/firmware?at=saved&bring`)
    await page.getByRole('textbox', { name: 'Settings list' }).fill(held.replace('number: 77', 'number: 78'))
    await page.getByRole('button', { name: 'Read it' }).click()
    await page.getByRole('button', { name: 'It is what the board holds' }).click()
    await expect(page).toHaveURL(/at=board/)
    for (const [i, name] of line.entries()) {
      await perch(page, name).click()
      await sheet(page)
      if (i + 1 < line.length) await sign(page, name, line[i + 1] ?? '')
    }
    await page.getByRole('checkbox', { name: /^The pack is out/ }).check()
    for (const [corner, hand] of propellers) await page.getByRole('button', { name: `${corner}: ${hand} propeller fitted` }).click()
    await page.getByRole('button', { name: 'Rehearse the hover' }).click()
    await expect(page.getByRole('region', { name: 'Go or not' })).toContainText('It lifts, holds 1.0 m', { timeout: 180_000 })
    await page.keyboard.press('s')
    await expect(perch(page, 'First flight')).toHaveAttribute('aria-label', /proven$/)
    await page.getByRole('textbox', { name: 'Site' }).fill('Sallow Spit')
    await page.getByRole('button', { name: 'Release for hover in sight' }).click()
    await expect(page.getByRole('region', { name: 'Go or not' })).toContainText('Released for hover in sight at Sallow Spit')
  })
  expect(acts).toBeLessThan(60)
  console.log(`    the next one like it, to its release: ${acts} acts`)
})
