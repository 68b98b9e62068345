// Every main view, looked at by axe: names for screen readers, contrast, order of headings.
import { AxeBuilder } from '@axe-core/playwright'
import { expect, stations, test } from './program.ts'

test('axe finds nothing on any main view, at day and at dusk, on a laptop and on a phone', async ({ page, request }) => {
  test.setTimeout(600_000) // a hundred looks, each at two themes
  // There are no frames to gather from, which spares a second page for every look.
  const axe = () => new AxeBuilder({ page }).setLegacyMode()
  const look = async (path: string) => {
    // Until the pilot chooses, the page follows the system. A theme changes colours alone, so the laptop's second
    // look is at contrast alone; a size may hide, wrap and overlap, so the phone is looked at whole.
    for (const [width, theme, scheme, builder] of [
      [1280, 'day', 'light', axe()],
      [1280, 'dusk', 'dark', axe().withRules('color-contrast')],
      [390, 'dusk', 'dark', axe()],
      ...(process.env.PERCH_LONG ? ([[390, 'day', 'light', axe().withRules('color-contrast')]] as const) : []),
    ] as const) {
      await page.setViewportSize({ width, height: 800 })
      // A page that is just being drawn may miss the change of scheme; then it is changed once more.
      await expect(async () => {
        await page.emulateMedia({ colorScheme: scheme === 'dark' ? 'light' : 'dark' })
        await page.emulateMedia({ colorScheme: scheme })
        await expect(page.locator('html')).toHaveAttribute('data-theme', theme, { timeout: 2000 })
      }).toPass({ timeout: 20_000 })
      const found = await builder.analyze()
      expect(
        found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`),
        `${path} at ${theme}, ${width} wide`,
      ).toEqual([])
    }
    await page.setViewportSize({ width: 1280, height: 800 })
  }
  await page.goto('/hangar')
  await expect(page.getByRole('article', { name: 'Dunlin' })).toBeVisible()
  await look('/hangar')
  for (const s of stations) {
    await page.goto(`/quads/1/${s}`)
    await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible()
    await look(s)
  }
  await page.keyboard.press('b')
  await expect(page.getByRole('region', { name: 'Bench', exact: true })).toBeVisible()
  await look('bench')
  await page.keyboard.press('b')
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog')).toBeVisible()
  await look('keys')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await page.keyboard.press('Control+k')
  await page.keyboard.type('go')
  await look('palette')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await page.keyboard.press('n')
  await expect(page.getByRole('region', { name: 'Next' })).toBeVisible()
  await look('next')
  await page.keyboard.press('n')
  await page.keyboard.press('v')
  await look('table behind the drawing')
  for (const at of ['map', 'radio', 'modes']) {
    await page.goto(`/quads/1/sticks?at=${at}`)
    if (at === 'map') await page.getByRole('button', { name: 'Propose a plan' }).click()
    if (at === 'modes') await expect(page.getByRole('list', { name: 'What each mode made of it' })).toBeVisible()
    await look(`sticks, ${at}`)
  }
  // Sanderling has stops, fixes and a skipped station.
  await page.goto('/quads/2/sticks')
  await expect(page.getByRole('complementary', { name: 'Ledger' }).getByRole('article').first()).toBeVisible()
  await look('Sanderling, sticks')
  // The places of Link: a binding that is followed, a question with an answer behind it, the plot, the masts, the file.
  await request.post('/api/bench/things', { data: { pack: true, radio: true } })
  expect((await request.post('/api/quads/1/link/bind', { data: { way: 'cycles' } })).ok()).toBe(true)
  for (const at of ['bind', 'why', 'reach', 'fleet', 'gear']) {
    await page.goto(`/quads/1/link?at=${at}`)
    if (at === 'bind') await expect(page.locator('ol > [aria-current=step]')).toBeVisible()
    if (at === 'why') await page.getByRole('button', { name: 'two short flashes, a long pause' }).click()
    if (at === 'fleet') await expect(page.getByRole('region', { name: 'Estuary internal' })).toBeVisible()
    await look(`link, ${at}`)
  }
  await request.post('/api/bench/things', { data: { pack: false, radio: false } })
  // The places of Firmware with something in them, a board with devices, the workshop with a list.
  await request.post('/api/bench/things', { data: { usb: true } })
  expect((await request.post('/api/quads/1/backups', { data: { why: 'as it flew' } })).ok()).toBe(true)
  await page.goto('/quads/1/firmware?at=saved')
  await page.getByRole('button', { name: /^as it flew/ }).click()
  await page.getByRole('button', { name: 'Bring a list in' }).click()
  await page.getByRole('textbox', { name: 'Settings list' }).fill('out.rest = 9999\nnope = 1\n')
  await page.getByRole('button', { name: 'Read it' }).click()
  await expect(page.getByRole('list', { name: 'Remarks' })).toBeVisible()
  await look('saved lists')
  await page.goto('/quads/1/firmware?at=carry&to=Shingle%202.4.0')
  await expect(page.getByRole('region', { name: 'Carry over' })).toContainText('still to be decided')
  await look('carry over')
  await page.goto('/quads/1/firmware?at=flash')
  await look('flash')
  await page.goto('/quads/4/wiring')
  await page.getByRole('button', { name: 'Plan the wires' }).click()
  await page.getByRole('button', { name: 'Ports', exact: true }).click()
  await look('wiring')
  await page.getByRole('button', { name: 'Wires', exact: true }).click()
  await look('wires')
  await page.goto('/quads/1/dictionary')
  await page.getByLabel('A list that a board of it gave').fill('motorIdle = 55\nroll = 140:670:40\n')
  await expect(page.getByRole('row', { name: /motorIdle/ })).toBeVisible()
  await page.getByRole('button', { name: 'something else' }).first().click()
  await look('workshop')
  await page.goto('/quads/1/rehearsal')
  await expect(page.getByRole('region', { name: 'As corrected' })).toBeVisible()
  await look('rehearsal')
  await page.goto('/quads/1/rehearsal?shows=cell&scenario=flips&hand=beginner')
  await expect(page.getByRole('region', { name: 'Without it' })).toBeVisible()
  await look('a consequence')
  for (const [at, name] of [
    ['start', 'Where it starts'],
    ['signs', 'Mistakes'],
    ['frames', 'Throttle frames'],
    ['propellers', 'Propellers'],
    ['both', 'Both ways'],
  ] as const) {
    await page.goto(`/quads/1/motors?at=${at}`)
    await expect(page.getByRole('button', { name, exact: true })).toHaveAttribute('aria-pressed', 'true')
    await look(`motors, ${name}`)
  }
  await page.goto('/quads/1/book')
  await expect(page.getByRole('region', { name: 'Flights' })).toBeVisible()
  await look('book')
  await page.goto('/quads/1/card')
  await expect(page.getByRole('heading', { name: 'To stop it' })).toBeVisible()
  await look('field card')
  await page.goto('/hangar')
  await page.getByText('Limits you judge every quad by').click()
  await page.getByRole('button', { name: 'Move the limit: Level error' }).click()
  await look('limits')
  await page.getByRole('button', { name: 'Begin a quad' }).click()
  await look('begin a quad')
})

test('the theme that the pilot chose stays, whatever the system says', async ({ page }) => {
  const html = page.locator('html')
  await page.emulateMedia({ colorScheme: 'light' })
  await page.goto('/hangar')
  await expect(html).toHaveAttribute('data-theme', 'day')
  await page.getByRole('button', { name: 'Change to the dusk theme' }).click()
  await expect(html).toHaveAttribute('data-theme', 'dusk')
  await page.reload()
  await expect(html).toHaveAttribute('data-theme', 'dusk')
  await page.keyboard.press('d')
  await expect(html).toHaveAttribute('data-theme', 'day')
  await page.emulateMedia({ colorScheme: 'dark' })
  await page.reload()
  await expect(html).toHaveAttribute('data-theme', 'day')
})
