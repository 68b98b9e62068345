// Motors, from wrong to proven, and what flight would have made of it: two reversed and two exchanged; made reversible with one
// speed controller forgotten; the plus layout.
import type { Locator, Page } from '@playwright/test'
import { choose } from './choose.ts'
import { holdBy, patient } from './hold.ts'
import { expect, perch, refusal, station, test } from './program.ts'

const ledger = (page: Page) => page.getByRole('complementary', { name: 'Ledger' })
const finding = (page: Page, title: string | RegExp) =>
  ledger(page)
    .getByRole('article')
    .filter({ has: page.getByRole('heading', { name: title }) })
const taken = (page: Page, label: string) => ledger(page).getByRole('list', { name: 'Readings' }).getByRole('listitem').filter({ hasText: label })

/** Opens a quad at its motors, puts it on the bench and connects the pack. */
async function begin(page: Page, quad: string, onBench: string): Promise<number> {
  await page.goto('/')
  await page.getByRole('article', { name: quad }).getByRole('link', { name: quad, exact: true }).click()
  await station(page, 'Motors')
  const bench = page.getByRole('region', { name: 'Bench', exact: true })
  await page.keyboard.press('b')
  await choose(bench.getByLabel('On the bench'), onBench)
  await expect(bench.getByRole('heading', { name: `${onBench}'s bench, simulated` })).toBeVisible()
  await bench.getByRole('button', { name: 'Pack out', exact: true }).click()
  await expect(bench.getByRole('button', { name: 'Pack in', exact: true })).toBeVisible()
  await page.keyboard.press('b')
  await expect(bench).toBeHidden()
  return Number(/quads\/(\d+)/.exec(page.url())?.[1])
}

/** Holds a button down with the mouse until something is so. */
async function hold(page: Page, button: Locator, until: () => Promise<void>) {
  await expect(page.getByText('turning', { exact: true })).toBeHidden(patient)
  const down = async () => {
    await button.hover()
    await page.mouse.down()
  }
  await holdBy({ down, up: () => page.mouse.up() }, button, until)
}

const see = async (page: Page, output: string, what: string) =>
  hold(page, page.getByRole('button', { name: `Hold to spin ${output}` }), () => expect(taken(page, `Motor on output ${output}`)).toContainText(what, patient))

/** What raises one output, before and after it was seen to start. */
const raising = (page: Page, output: string) => page.getByRole('button', { name: new RegExp(`^(Hold to raise ${output}|${output} starts at)`) })

/** Looks at the frame from above, then raises and lowers every motor. */
async function runDown(page: Page) {
  await page.getByRole('button', { name: 'Which corner moves' }).click()
  const arms = page.getByRole('button', { name: 'Look how its arms stand' })
  const stand = taken(page, 'How its arms stand')
  await expect(arms.or(stand).first()).toBeVisible() // the one before it was looked at, the other after
  if (await arms.isVisible()) await arms.click()
  await expect(stand).toBeVisible(patient)
  await page.getByRole('button', { name: 'Where it starts' }).click()
  for (const output of ['A', 'B', 'C', 'D']) {
    await hold(page, raising(page, output), () => expect(taken(page, `Start and run-down of ${output}`)).toBeVisible(patient))
  }
  await expect(page.getByRole('img', { name: /^Every motor turns from/ })).toBeVisible()
}

test('Dunlin tips over in the model, is put right act by act, and proven', async ({ page }) => {
  await begin(page, 'Dunlin', 'Dunlin, as first soldered')
  await see(page, 'A', 'front left, clockwise')
  await see(page, 'B', 'rear left, clockwise')
  await see(page, 'C', 'front right, counter-clockwise')
  await see(page, 'D', 'rear right, counter-clockwise')
  const todo = page.getByRole('region', { name: 'What makes it right' })
  await expect(todo).toContainText('4 changes fix it')
  await expect(finding(page, 'Rear right turns counter-clockwise, your layout wants clockwise')).toBeVisible()

  // What flight makes of the exchange alone, and of everything at once.
  await finding(page, 'Outputs drive other corners than the board thinks').getByRole('button', { name: 'What would happen' }).click()
  await expect(page.getByRole('heading', { name: 'Outputs on other corners than the board thinks' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'With it' })).toContainText(/tips over|crashes/)
  await expect(page.getByRole('region', { name: 'Without it' })).toContainText('lands on its feet')
  await page.getByRole('link', { name: 'All that is known against it' }).click()
  const asIs = page.getByRole('region', { name: 'Dunlin as it is' })
  await expect(asIs).toContainText('strikes the ground')
  await page.getByRole('button', { name: 'Where it goes wrong' }).click()
  const depth = asIs.getByRole('img', { name: /^In depth/ })
  await expect(depth).toHaveAttribute('aria-label', /leaning (?:[5-9]|\d\d+) degrees/)
  const before = await depth.locator('path').last().getAttribute('d')
  await depth.focus()
  await page.keyboard.press('ArrowLeft')
  await expect.poll(() => depth.locator('path').last().getAttribute('d')).not.toBe(before)
  // Its trace is a file with the columns of a recorded flight.
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Trace as CSV' }).click()
  expect((await download).suggestedFilename()).toBe('rehearsal.csv')

  await page.getByRole('link', { name: 'The line' }).click()
  await station(page, 'Motors')
  await todo.getByRole('button', { name: 'Apply to settings' }).click()
  await expect(finding(page, 'Outputs drive other corners than the board thinks')).toHaveCount(0)
  await page.getByRole('button', { name: 'Write your settings to the board' }).first().click()
  await expect(finding(page, /The board differs/)).toHaveCount(0, patient)
  await see(page, 'B', 'rear left, counter-clockwise')
  await see(page, 'D', 'rear right, clockwise')
  await expect(todo).toHaveCount(0)
  // A hand that lets go on the way up takes it up where it was, not at the foot.
  await page.getByRole('button', { name: 'Where it starts' }).click()
  const raise = raising(page, 'A')
  // Looked at often: once it turns it is soon run down again.
  await hold(page, raise, () => expect.poll(() => raise.textContent(), { ...patient, intervals: [50] }).toMatch(/^A at [3-9]\.\d %$/))
  await expect(raise).not.toHaveText(/ at /)
  let least = 0
  await hold(page, raise, () =>
    expect
      .poll(async () => {
        least = Number(/ at ([1-9][\d.]*)/.exec((await raise.textContent()) ?? '')?.[1] ?? 0)
        return least
      }, patient)
      .toBeGreaterThan(0),
  )
  expect(least).toBeGreaterThanOrEqual(2.5)
  await runDown(page)
  await page.getByRole('button', { name: 'Look at rest' }).click()
  await expect(taken(page, 'Nothing spins at rest')).toBeVisible(patient)
  await page.getByRole('button', { name: 'Sign this proof' }).click()
  await expect(perch(page, 'Motors')).toHaveAttribute('aria-label', /proven$/)
  await page.goto(page.url().replace(/motors.*/, 'rehearsal'))
  await expect(asIs).toContainText('lands on its feet')
})

test('A switching frequency is tried on every speed controller of Dunlin, compared, and put back', async ({ page, request }) => {
  const id = await begin(page, 'Dunlin', 'Dunlin, as first soldered')
  await page.getByRole('button', { name: 'Switching', exact: true }).click()
  // The model stands for both flights: a dive cut hard, recorded before and after.
  const flown = async () => {
    const trace = await request.get(`/api/quads/${id}/rehearsal/trace?scenario=dive`)
    return { name: 'dive.csv', mimeType: 'text/csv', buffer: await trace.body() }
  }
  const before = await flown()
  await expect(page.getByRole('img', { name: 'At 48 kHz a period takes 21 µs, 10 % of it dead' })).toBeVisible()
  await page.getByRole('button', { name: 'Try 48 kHz' }).click()
  await expect(page.getByRole('heading', { name: 'Every motor switched at 48 kHz' })).toBeVisible()
  await expect(page.getByRole('heading', { name: '48 kHz is tried; before it was 24 kHz' })).toBeVisible()
  for (const o of ['A', 'B', 'C', 'D']) {
    await page.getByRole('button', { name: `Write ${o}` }).click()
    await expect(page.getByRole('button', { name: `Write ${o}` })).toBeDisabled(patient)
    await expect(finding(page, new RegExp(`The board differs from your settings.*output ${o}`))).toHaveCount(0, patient)
  }
  // What it said before it was written is asked again, and the device answers with the new one.
  await expect(ledger(page).locator('[data-ask]', { hasText: 'speed controller says it is, output A' })).toBeVisible()
  expect((await request.post('/api/bench/things', { data: { usb: true } })).ok()).toBe(true)
  for (const o of ['A', 'B', 'C', 'D']) {
    // The page may be reading something just then: one thing at a time is asked of a bench.
    const take = async () => (await request.post(`/api/quads/${id}/take`, { data: { path: `readings.firmware.speedControllers.${o}` } })).text()
    await expect.poll(take).toContain('"seen"')
  }
  await page.reload()
  await expect(page.getByRole('row', { name: /^A 48 kHz 48 kHz/ })).toBeVisible()
  // The traces say that it was not worth it: what was before is put back on the sheet, and written.
  const traces = page.getByRole('form', { name: 'What the traces show' })
  await traces.getByLabel('Trace flown at 48 kHz').setInputFiles({ name: 'notes.csv', mimeType: 'text/csv', buffer: Buffer.from('a,b\n1,2\n') })
  await expect(refusal(page).filter({ hasText: 'It has no column named "time"' })).toBeVisible()
  await traces.getByLabel('Trace flown at 24 kHz').setInputFiles(before)
  await expect(traces.getByRole('status').first()).toContainText(/cuts?, worst about/)
  await traces.getByLabel('Trace flown at 48 kHz').setInputFiles(await flown())
  await expect(traces.getByRole('status').last()).toContainText(/cuts?, worst about/)
  const [was, is] = [await traces.getByLabel('at 24 kHz, °/s').inputValue(), await traces.getByLabel('at 48 kHz, °/s').inputValue()]
  expect(was).not.toBe(is)
  await traces.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(traces).toContainText('No help worth having')
  await expect(finding(page, 'Switching at 48 kHz did not help')).toContainText(`by ${is} °/s, before by ${was} °/s`)
  await traces.getByRole('button', { name: 'Put 24 kHz back' }).click()
  await expect(page.getByRole('heading', { name: 'Every motor switched at 24 kHz' })).toBeVisible()
  await expect(traces).toHaveCount(0)
  await page.getByRole('button', { name: 'Write your settings to the board' }).first().click()
  await expect(finding(page, /The board differs/)).toHaveCount(0, patient)
})

test('Turnstone is made reversible with one speed controller forgotten; it is found, mended, and hovers on its back', async ({ page, request }) => {
  const id = await begin(page, 'Turnstone', 'Turnstone')
  await page.getByRole('button', { name: 'Both ways' }).click()
  const told = async (name: string | RegExp) => {
    await page.getByRole('checkbox', { name, exact: typeof name === 'string' }).click()
    await expect(page.getByRole('checkbox', { name, exact: typeof name === 'string' })).toBeChecked()
  }
  await told(/^drives both ways/)
  for (const o of ['A', 'B', 'C']) await told(o)
  const forgotten = finding(page, 'Reversible thrust is told to A, B and C, not to D')
  await expect(forgotten).toContainText('3 of 4 speed controllers')

  // It is written as it is, and flown in the model: the forgotten corner leaps as it is armed.
  await page.getByRole('button', { name: 'Write your settings to the board' }).first().click()
  await expect(finding(page, /The board differs/)).toHaveCount(0, patient)
  await forgotten.getByRole('button', { name: 'What would happen' }).click()
  await expect(page.getByRole('region', { name: 'With it' })).toContainText('tips over')
  await expect(page.getByRole('region', { name: 'Without it' })).toContainText('lands on its feet')
  await page.goBack()

  // Told too, and written to that one alone; what it held before is among the saved lists.
  await told('D')
  await expect(forgotten).toHaveCount(0)
  await page.getByRole('button', { name: 'Write D' }).click()
  const saved = async () => (await (await request.get(`/api/quads/${id}/backups`)).json()).backups.map((b: { why: string }) => b.why).join('; ')
  await expect.poll(saved, patient).toContain('before writing the speed controller of output D')
  await expect(page.getByRole('button', { name: 'Write D' })).toBeDisabled(patient)
  await expect(finding(page, /The board differs/)).toHaveCount(0)

  // What was seen before proves nothing now.
  await page.getByRole('button', { name: 'Which corner moves' }).click()
  await expect(ledger(page).locator('[data-ask]', { hasText: 'Motor on output A' })).toBeVisible()
  for (const [o, what] of [
    ['A', 'rear right, clockwise'],
    ['B', 'front right, counter-clockwise'],
    ['C', 'rear left, counter-clockwise'],
    ['D', 'front left, clockwise'],
  ] as const) {
    await hold(page, page.getByRole('button', { name: `Hold to spin ${o}` }), () =>
      expect(ledger(page).locator('[data-ask]', { hasText: `Output ${o}` })).toHaveCount(0, patient),
    )
    await expect(taken(page, `Output ${o}`)).toContainText(what)
  }
  await runDown(page)
  await expect(taken(page, 'Start and run-down of D')).toContainText('backward at') // each both ways, in one hold
  expect((await request.post(`/api/quads/${id}/type`, { data: { path: 'readings.motors.hot', value: 'none' } })).ok()).toBe(true)
  await page.goto(`/quads/${id}/motors?at=both`)
  await page.getByRole('button', { name: 'Sign this proof' }).click()
  await expect(perch(page, 'Motors')).toHaveAttribute('aria-label', /proven$/)
  await page.getByRole('link', { name: 'Rehearse the inverted hover' }).click()
  await expect(page.getByRole('region', { name: 'Turnstone as it is' })).toContainText('stays on its back')
})

test('Sanderling in the plus layout', async ({ page, request }) => {
  const id = await begin(page, 'Sanderling', 'Sanderling')
  const post = async (path: string, data: unknown) => expect((await request.post(`/api/quads/${id}/${path}`, { data })).ok(), path).toBe(true)
  await post('take', { path: 'readings.firmware.identity' })
  await page.reload()
  await see(page, 'A', 'front left, clockwise')
  await see(page, 'B', 'front right, counter-clockwise')
  await see(page, 'C', 'rear right, clockwise')
  await see(page, 'D', 'rear left, counter-clockwise')
  await page.getByRole('button', { name: 'Mistakes' }).click()
  await expect(page.getByRole('heading', { name: 'Two neighbours exchanged: front and right' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'This quad, as it was seen' }).getByRole('img', { name: 'A command of roll is answered' })).toBeVisible()
  await page.getByRole('button', { name: 'Throttle frames' }).click()
  await expect(page.getByRole('heading', { name: /^Pulses of 1 to 2 ms, loop at 1 kHz/ })).toBeVisible()
  await runDown(page)
  await page.getByRole('button', { name: 'Look at rest' }).click()
  await expect(taken(page, 'Nothing spins at rest')).toBeVisible(patient)
  // Two exchanged by hand, on paper: the model shows it in this layout too; seen again, they are right.
  await post('type', { path: 'readings.motors.outputs.A', value: { corner: 'frontRight', spin: 'counterClockwise' } })
  await post('type', { path: 'readings.motors.outputs.B', value: { corner: 'frontLeft', spin: 'clockwise' } })
  await page.goto(`/quads/${id}/rehearsal?shows=order`)
  await expect(page.getByRole('region', { name: 'With it' })).toContainText(/tips over|crashes|gets away/)
  await expect(page.getByRole('region', { name: 'Without it' })).toContainText('lands on its feet')
  await page.goto(`/quads/${id}/motors`)
  await see(page, 'A', 'front left, clockwise')
  await see(page, 'B', 'front right, counter-clockwise')
  await page.goto(`/quads/${id}/rehearsal`)
  await expect(page.getByRole('region', { name: 'Sanderling as it is' })).toContainText('lands on its feet')
})
