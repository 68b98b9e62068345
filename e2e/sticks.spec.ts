// Dunlin's sticks with the order wrong, two ends short and the arm switch at its edge, through to proven: once by the bench's radio,
// once by a radio that the browser sees as a game controller. Then meanings on the switch map, mixes that go round, a card.
import type { APIRequestContext, Page } from '@playwright/test'
import { allCaptured, captureAll, captured } from './capture.ts'
import { expect, perch, refusal, station, test } from './program.ts'

const ledger = (page: Page) => page.getByRole('complementary', { name: 'Ledger' })
const finding = (page: Page, title: string | RegExp) =>
  ledger(page)
    .getByRole('article')
    .filter({ has: page.getByRole('heading', { name: title }) })
const inst = (page: Page) => page.getByRole('region', { name: 'Instrument' })

const captureAxis = (page: Page, axis: string, first?: () => Promise<void>) =>
  captured(
    page,
    async () => {
      await first?.()
      await inst(page)
        .getByRole('button', { name: new RegExp(`^Capture ${axis}( again)?$`) })
        .click()
      await expect(inst(page).getByText('Move it: high, low, let go')).toBeVisible()
    },
    inst(page).getByRole('button', { name: `Capture ${axis} again` }),
  )

/** Whatever radio it is: what was captured is judged, mended on the sheet, written to the board, signed. */
async function mendAndSign(page: Page, order: string, again: () => Promise<void>): Promise<void> {
  const wrong = finding(page, 'The board takes one stick for another')
  await expect(wrong).toContainText(`The radio sends ${order}`)
  await expect(finding(page, 'Throttle and yaw do not reach their ends')).toBeVisible()
  await expect(finding(page, 'Armed is only just decided')).toContainText('8 µs from the range')
  await expect(perch(page, 'Sticks')).toHaveAttribute('aria-label', /stop/)
  await wrong.getByRole('button', { name: `Expect ${order}` }).click()
  await expect(wrong).toHaveCount(0)
  await again()
  await expect(finding(page, /do(es)? not reach/)).toHaveCount(0)
  await page.getByRole('button', { name: /^Put the range at/ }).click()
  await expect(finding(page, 'Armed is only just decided')).toHaveCount(0)
  await finding(page, /The board differs from your settings/)
    .first()
    .getByRole('button', { name: 'Write your settings to the board' })
    .click()
  await expect(finding(page, /The board differs/)).toHaveCount(0)
  const plan = page.getByRole('button', { name: `Plan ${order}` })
  if (await plan.isVisible()) await plan.click()
  await expect(plan).toHaveCount(0) // nobody signs what has not come yet
  await page.getByRole('button', { name: 'Sign this proof' }).click()
  await expect(perch(page, 'Sticks')).toHaveAttribute('aria-label', /proven/)
}

async function powered(page: Page, request: APIRequestContext): Promise<void> {
  expect((await request.post('/api/bench/things', { data: { pack: true, radio: true } })).ok()).toBe(true)
  await expect(page.getByRole('button', { name: /^Bench/ })).toContainText('pack in')
}

test("by the bench's radio", async ({ page, request }) => {
  await page.goto('/quads/1/sticks')
  await powered(page, request)
  const version = ((await (await request.get('/api/quads/1')).json()) as { version: number }).version
  expect((await request.post('/api/quads/1/edit', { data: { version, values: [{ path: 'sheet.sticks.order', value: 'TAER' }] } })).ok()).toBe(true)
  await page.reload()
  const capture = (axis: string) => captureAxis(page, axis)
  await captureAll(page, (b) => b.click())
  await mendAndSign(page, 'AETR', async () => {
    expect((await request.post('/api/bench/adjust', { data: { travel: 100 } })).ok()).toBe(true)
    for (const a of ['throttle', 'yaw']) await capture(a)
  })
})

/** What a hand moves, from when the page asked it to. */
type Hand = { axis: number; from?: number; positions?: number[] }
declare global {
  interface Window {
    radioHere: { connected: boolean; travel: number; hand: Hand | null; asked: Record<string, Hand> }
  }
}

/** A radio that sends TAER, three switches and a dial as axes; throttle and yaw fall short by its travel, the dial moves by itself. */
function injectRadio(): void {
  // What a hand does when the guided capture asks for it.
  const asked: Record<string, Hand> = { 'Roll stick': { axis: 1 }, 'Throttle stick': { axis: 0 }, 'Left shoulder switch': { axis: 4, positions: [-1, 0.786] } }
  window.radioHere = { connected: true, travel: 0.88, hand: null, asked }
  // What was not seen whole is moved once more, from its beginning.
  setInterval(() => {
    if (document.querySelector('[aria-label="Guided capture"] [role=alert]')) for (const h of Object.values(window.radioHere.asked)) h.from = undefined
  }, 50)
  const rest = [-0.88, 0, 0, 0, -1, 1, -1, 0]
  const short = [0, 3]
  navigator.getGamepads = () => {
    const r = window.radioHere
    if (!r.connected) return [null, null, null, null]
    const at = [...rest]
    at[0] = -r.travel
    at[7] = Math.sin(performance.now() / 200) // worn out: it moves by itself
    const now = r.asked[document.querySelector('[aria-label="Guided capture"] [role=status] b')?.textContent ?? '']
    if (now) now.from ??= performance.now() + 600 // a hand reads what it is asked first
    const h = now ?? r.hand
    if (h) {
      if (h.from === undefined && [...document.querySelectorAll('button:disabled')].some((b) => /^(Move|Put it through)/.test(b.textContent ?? '')))
        h.from = performance.now()
      // Before it is asked for, a stick lies at rest and a switch in its first position.
      const t = h.from === undefined ? (h.positions ? 0 : 10) : Math.max(0, performance.now() - h.from) / 1000
      if (h.positions) at[h.axis] = h.positions[Math.min(Math.floor(t / 1.2), h.positions.length - 1)] ?? 0
      else {
        const reach = short.includes(h.axis) ? r.travel : 1
        // All of it in half of the capture's five seconds: at the end it rests for longer than a busy machine is late.
        const swing = t < 0.9 ? Math.min(1, t / 0.3) : t < 1.4 ? 0 : t < 2.3 ? -Math.min(1, (t - 1.4) / 0.3) : 0
        at[h.axis] = h.axis === 0 && Math.abs(swing) < 0.01 ? -reach : swing * reach
      }
    }
    return [
      { index: 0, id: 'radio', connected: true, axes: at, buttons: [], mapping: '', timestamp: performance.now() } as unknown as Gamepad,
      null,
      null,
      null,
    ]
  }
}

test('by a radio at the browser', async ({ page, request }) => {
  await page.addInitScript(injectRadio)
  // The bench's radio has shown them all; here are one that springs, one that falls short, and a switch. The rest is typed.
  const type = async (path: string, value: unknown) =>
    expect((await request.post('/api/quads/1/type', { data: { path: `readings.sticks.${path}`, value } })).ok(), path).toBe(true)
  await type('axes.pitch', { channel: 3, ends: { low: 1000, centre: 1500, high: 2000 }, jitter: 0.4 })
  await type('axes.yaw', { channel: 4, ends: { low: 1060, centre: 1500, high: 1940 }, jitter: 0.4 })
  for (const [name, positions] of [
    ['right shoulder', ['acro', 'level']],
    ['left face', ['quiet', 'beeper']],
  ] as const) {
    await type(`switches.${name}`, { channel: name === 'left face' ? 7 : 6, positions: { [positions[0]]: 1000, [positions[1]]: 2000 } })
  }
  await page.goto('/quads/1/sticks')
  await powered(page, request)
  await page.getByRole('button', { name: 'from the radio at this computer' }).click()
  const hand = (axis: number, positions?: number[]) =>
    page.evaluate(
      ([a, p]) => {
        window.radioHere.hand = { axis: a as number, positions: p as number[] | undefined }
      },
      [axis, positions] as const,
    )
  const sent: Record<string, number> = { throttle: 0, roll: 1, pitch: 2, yaw: 3 }
  const capture = (axis: string) => captureAxis(page, axis, () => hand(sent[axis] ?? 0))
  // Unplugged midway: it says so, and nothing is kept.
  await hand(1)
  await inst(page).getByRole('button', { name: 'Capture roll' }).click()
  await expect(inst(page).getByRole('button', { name: 'Move it: high, low, let go' })).toBeVisible()
  await page.evaluate(() => {
    window.radioHere.connected = false
  })
  const unplugged = refusal(page).filter({ hasText: 'The radio was unplugged meanwhile. Nothing was saved' })
  await expect(unplugged).toBeVisible()
  await unplugged.getByRole('button', { name: 'Dismiss' }).click()
  await expect(page.getByText('No radio is plugged in here.')).toBeVisible()
  await expect(inst(page).getByRole('button', { name: 'Capture roll' })).toBeDisabled()
  await page.evaluate(() => {
    window.radioHere.connected = true
  })
  await expect(inst(page).getByRole('button', { name: 'Capture roll' })).toBeEnabled()

  // Its dial would be taken for every stick; a look finds it and leaves it out.
  const look = page.getByRole('region', { name: 'The radio at this computer' })
  await page.evaluate(() => {
    window.radioHere.hand = null
  })
  await look.getByRole('button', { name: 'Look at its channels' }).click()
  await expect(look.getByRole('button', { name: 'Move everything…' })).toBeVisible()
  await hand(1)
  await expect(look.getByRole('listitem').filter({ hasText: 'moves by itself: left out of captures' })).toHaveText(/^8/, { timeout: 60_000 })
  await page.getByRole('button', { name: 'Capture the 3 that are missing' }).click()
  await allCaptured(page, (b) => b.click())
  await mendAndSign(page, 'TAER', async () => {
    await page.evaluate(() => {
      window.radioHere.travel = 1
    })
    for (const a of ['throttle', 'yaw']) await capture(a)
    await expect(inst(page)).toContainText(/before 1060 · \d+ · 1940 µs/)
  })
})

test('the switch map, mixes and a card', async ({ page }) => {
  await page.goto('/quads/1/sticks?at=map')
  const meaning = (words: string) => page.getByRole('button', { name: words, exact: true })
  const column = (name: string) => inst(page).getByRole('region', { name, exact: true })
  const flies = page.getByRole('region', { name: 'What flies' })
  await expect(column('left shoulder')).toContainText('as planned: not captured')
  await expect(column('left shoulder')).toContainText('armed begins at 1885 µs')
  await expect(column('right shoulder')).toContainText('nothing is on from 1300 to 1700 µs')
  await expect(column('left shoulder at armed').getByRole('img')).toHaveAttribute('aria-label', 'below: armed ends in 115 µs; above: nothing changes')

  // Its edges are typed, or put midway; one act takes either back.
  await meaning('armed, left shoulder at armed').click()
  await page.getByLabel('from, µs').fill('1860')
  await page.keyboard.press('Enter')
  await expect(column('left shoulder')).toContainText('armed begins at 1860 µs')
  await expect(page.getByText('revision 1, draft')).toBeVisible()
  await meaning('armed, left shoulder at armed').click()
  await page.getByRole('button', { name: 'Put its edges midway' }).click()
  await expect(column('left shoulder')).toContainText('armed begins at 1750 µs')
  await page.keyboard.press('u')
  await expect(column('left shoulder')).toContainText('armed begins at 1860 µs')

  // A meaning that is on no switch is dragged onto a position; another is lifted and moved by keys, and keeps the keyboard.
  await meaning('blended, on no switch').hover()
  await page.mouse.down()
  await column('right shoulder at acro').hover()
  await page.mouse.up()
  await expect(meaning('blended, right shoulder at acro')).toBeVisible()
  await expect(flies).toContainText('armed, blended')
  await meaning('beeper, left face at beeper').focus()
  await page.keyboard.press('Space')
  await page.keyboard.press('ArrowDown')
  await expect(page.getByText('over left face at quiet')).toBeAttached()
  await page.keyboard.press('Space')
  await expect(meaning('beeper, left face at quiet')).toBeFocused()
  await page.keyboard.press('Space')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Escape')
  await expect(meaning('beeper, left face at quiet')).toBeVisible()
  await page.keyboard.press('u')
  await expect(meaning('beeper, left face at beeper')).toBeVisible()

  // It can hold more than one position, and be taken off its switch.
  await meaning('blended, right shoulder at acro').click()
  await page.getByRole('checkbox', { name: 'level', exact: true }).click()
  await expect(meaning('blended, right shoulder at level')).toBeVisible()
  await expect(flies).toContainText('over blended')
  await meaning('blended, right shoulder at level').focus()
  await page.keyboard.press('Delete')
  await expect(meaning('blended, on no switch')).toBeFocused()
  // A range that no position reaches lies between them.
  await meaning('self-level, right shoulder at level').click()
  await page.getByLabel('to, µs').fill('1900')
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(column('right shoulder')).toContainText('self-level from 1700 to 1900 µs: no position reaches it')
  await page.keyboard.press('u')
  await expect(meaning('self-level, right shoulder at level')).toBeVisible()

  // Without captures the plan counts: what is proposed flies acro with authority at idle, and level at the end that it has now.
  const plan = page.getByRole('region', { name: 'A plan for the switches' })
  await expect(plan.getByLabel('self-level at the high end')).toBeChecked()
  await plan.getByRole('button', { name: 'Propose a plan' }).click()
  await expect(plan).toContainText('left shoulder arms, at armed.')
  await expect(plan.getByRole('list', { name: 'What it changes' })).toContainText('armed: channel 5, 1860 to 2100 µs, then channel 5, 1750 to 2100 µs')
  await plan.getByRole('button', { name: 'Take it' }).click()
  await expect(column('left shoulder')).toContainText('armed begins at 1750 µs')
  await expect(flies).toContainText('armed, self-level')

  // A card goes out, comes back with mixes that go round, and with a line that cannot be.
  await page.getByRole('button', { name: 'Radio plan' }).click()
  const saved = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save the card' }).click()
  const stream = await (await saved).createReadStream()
  let text = ''
  for await (const part of stream) text += String(part)
  expect(text).toContain('switch,left shoulder,5,safe / armed,safe')
  const bring = (t: string) => page.getByLabel('Bring a card in').setInputFiles({ name: 'card.csv', mimeType: 'text/csv', buffer: Buffer.from(t) })
  await bring(`${text}mix,one,9,,,,,,,8,much,,\n`)
  await expect(page.getByText(/In line 10: Weight .* is "much", which is not a number/).first()).toBeVisible()
  await bring(`${text}mix,one,9,,,,,,,8,50,,\nmix,two,8,,,,,,,9,50,,\n`)
  await expect(finding(page, 'Mixes of the radio go round')).toBeVisible()
  await page.keyboard.press('u')
  await expect(finding(page, 'Mixes of the radio go round')).toHaveCount(0)
  await station(page, 'Link')
})

test('a switch that rights it, lights its lamp and hands it to a guest goes from the map to the board and onto the card', async ({ page, request }) => {
  await page.goto('/quads/1/sticks')
  await powered(page, request)
  await captureAll(page, (b) => b.click())
  await page.goto('/quads/1/sticks?at=map')
  const meaning = (words: string) => page.getByRole('button', { name: words, exact: true })
  for (const [words, position] of [
    ['self-rights', 'left face at beeper'],
    ['lamp on', 'left face at quiet'],
    ['second profile', 'left face at beeper'],
  ]) {
    await meaning(`${words}, on no switch`).hover()
    await page.mouse.down()
    await inst(page).getByRole('region', { name: position, exact: true }).hover()
    await page.mouse.up()
    await expect(meaning(`${words}, ${position}`)).toBeVisible()
  }

  // Of a profile that a switch chooses all must be told: it begins as the first, and is made a guest's.
  const ledger = page.getByRole('complementary', { name: 'Ledger' })
  await expect(ledger.locator('[data-ask="sheet.feel.second.throttleLimit"]')).toBeVisible()
  await inst(page).getByRole('button', { name: 'Profiles', exact: true }).click()
  const profiles = page.getByRole('table', { name: 'Profiles' })
  await expect(profiles.getByRole('columnheader', { name: /Second profile/ })).toContainText('left face at beeper')
  await profiles.getByRole('button', { name: 'Begin as the first' }).first().click()
  await expect(finding(page, /The second profile is as the first/)).toBeVisible()
  await expect(ledger.locator('[data-ask^="sheet.feel.second"]')).toHaveCount(0)
  const name = profiles.getByRole('textbox', { name: 'Name of the second profile' })
  await name.fill('a guest')
  await name.press('Enter')
  await expect(page.getByRole('button', { name: /^Undo: Second profile, name: .*a guest/ })).toBeVisible()
  for (const [label, to] of [
    ['Roll, peak rate', '300'],
    ['Throttle limit, compressed', '55 %'],
  ] as const) {
    await profiles.getByRole('button', { name: new RegExp(`^${label}, the second profile .a guest.: `) }).click()
    const typed = profiles.getByRole('textbox', { name: new RegExp(label) })
    await typed.fill(to)
    await typed.press('Enter')
    await expect(typed).toHaveCount(0)
  }
  await expect(finding(page, /The second profile is as the first/)).toHaveCount(0)
  await expect(page.getByRole('img', { name: 'Roll at full stick: the first profile 670 °/s, the second profile (a guest) 300 °/s' })).toBeVisible()
  await inst(page).getByRole('button', { name: 'Switch map', exact: true }).click()
  const differs = finding(page, /The board differs from your settings: self-right after a crash, channel/)
  await expect(differs).toContainText('Settings: 7. Board: 0.')
  await differs.getByRole('button', { name: 'Write your settings to the board' }).click()
  await expect(finding(page, /The board differs/)).toHaveCount(0)

  // On where the switch rests, it would not arm: that is said, and mended by another position.
  await meaning('self-rights, left face at beeper').focus()
  await page.keyboard.press('Space')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Space')
  await expect(finding(page, /Self-right is on while every switch rests/)).toContainText('1000 µs on channel 7 at rest')
  await page.keyboard.press('u')
  await expect(finding(page, /Self-right is on/)).toHaveCount(0)

  await page.goto('/quads/1/card')
  const switches = page.getByRole('region', { name: 'Switches' })
  await expect(switches).toContainText('left face, beeper')
  await expect(switches).toContainText('self-rights')
  await expect(switches).toContainText('lamp on')
  await expect(switches).toContainText('second profile')
  const guest = page.getByRole('region', { name: 'Profiles' }).getByRole('row', { name: /^A guest/ })
  await expect(guest).toContainText('left face at beeper: roll, peak rate 300 °/s, throttle limit, compressed 55 %')
  await expect(page.getByRole('region', { name: 'Profiles' })).toContainText('in every other position, at power-up')
})

test('Sanderling is armed by stick, after one calibration that failed', async ({ page, request }) => {
  const bench = async (what: string, data: object) => expect((await request.post(`/api/bench/${what}`, { data })).ok(), what).toBe(true)
  await bench('place', { quad: 'Sanderling' })
  await expect.poll(async () => (await (await request.get('/api/bench')).json()).board.quad).toBe('Sanderling')
  await expect.poll(async () => (await request.post('/api/bench/things', { data: { pack: true, radio: true } })).ok()).toBe(true)
  await page.goto('/quads/2/sticks')
  await expect(page.getByRole('button', { name: /^Bench/ })).toContainText('pack in')
  const gates = page.getByRole('region', { name: 'Why it will not arm' })
  await expect(gates).toContainText('It is armed by stick.')
  const hold = gates.getByRole('button', { name: 'Hold: throttle down, yaw right' })
  const armed = 'Would it arm? It is armed.'
  /** Holds until something is seen; a hold that a busy machine breaks is begun anew. */
  const holdUntil = async (words: string, meanwhile?: () => Promise<void>) => {
    for (let tries = 0; tries < 5; tries++) {
      await bench('things', { tiltRoll: 0 })
      await expect(hold).toBeEnabled()
      await hold.focus()
      await page.keyboard.down(' ')
      try {
        if (meanwhile) {
          await expect(gates).toContainText('Its gyro is being calibrated: do not touch it.', { timeout: 5000 })
          await meanwhile()
        }
        await expect(gates).toContainText(words, { timeout: 5000 })
        return
      } catch {
        await page.keyboard.up(' ')
      }
    }
    await expect(gates).toContainText(words)
  }
  await holdUntil('It was moved: let go, put it down, hold again.', () => bench('things', { tiltRoll: 12 }))
  await expect(gates).toContainText('beeper: 2 long beeps, yellow light')
  await page.keyboard.up(' ')
  await expect(gates).toContainText('It arms after a second, and a calibration.')
  await holdUntil(armed)
  await page.keyboard.up(' ')
  await expect(gates).not.toContainText(armed)
})
