// Every main view, looked at by axe: names for screen readers, contrast, order of headings.
import { AxeBuilder } from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, stations, test } from './program.ts'

const long = Boolean(process.env.PERCH_LONG)
let looks = 0

/**
 * Looks at what is shown. Every view is looked at whole, by day and by dusk in turn; those that serve a phone at its width too. The colours of
 * both themes are held against each other by themselves, below. With --long every view is looked at in both themes and at both widths.
 */
async function look(page: Page, path: string, phone = false) {
  looks++
  await expect(page.locator('h1').first()).toBeVisible()
  const dusk = looks % 2 === 0
  const views: [number, boolean][] = long
    ? [
        [1280, false],
        [1280, true],
        [390, false],
        [390, true],
      ]
    : [[1280, dusk], ...(phone ? ([[390, !dusk]] as [number, boolean][]) : [])]
  for (const [width, dark] of views) {
    await page.setViewportSize({ width, height: 800 })
    // A page that is just being drawn may miss the change of scheme; then it is changed once more.
    await expect(async () => {
      await page.emulateMedia({ colorScheme: dark ? 'light' : 'dark' })
      await page.emulateMedia({ colorScheme: dark ? 'dark' : 'light' })
      await expect(page.locator('html')).toHaveAttribute('data-theme', dark ? 'dusk' : 'day', { timeout: 2000 })
    }).toPass({ timeout: 60_000 })
    // There are no frames to gather from, which spares a second page for every look.
    const found = await new AxeBuilder({ page })
      .setLegacyMode()
      // Contrast takes half of its time, and the story below holds every tone against every ground.
      .options({ resultTypes: ['violations'], rules: { 'color-contrast': { enabled: long } } })
      .analyze()
    expect(
      found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`),
      `${path} at ${dark ? 'dusk' : 'day'}, ${width} wide`,
    ).toEqual([])
  }
  if (views.length > 1) await page.setViewportSize({ width: 1280, height: 800 })
  await openLists(page, path)
}

/**
 * Opens a list of the view and closes it again, with --long every one: what it draws then has to be let through by the content policy, or the
 * story fails.
 */
async function openLists(page: Page, path: string) {
  const lists = await page.locator('button[role=combobox]:enabled').all()
  for (const list of long ? lists : lists.slice(0, 1)) {
    if (!(await list.isVisible())) continue
    await list.click()
    await expect(page.getByRole('listbox'), `a list at ${path}`).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(page.getByRole('listbox')).toBeHidden()
    await list.blur() // a list hears letters itself
  }
}

test('what the content policy does not let through is heard by every story', async ({ page, errors }) => {
  await page.goto('/hangar')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  expect(errors).toEqual([])
  await page.evaluate(() => document.body.setAttribute('style', 'color: red'))
  await expect.poll(() => errors.join()).toContain('Content Security Policy')
  await page.evaluate(() => document.body.append(Object.assign(document.createElement('script'), { textContent: 'window.ran = true' })))
  await expect.poll(() => errors.length).toBe(2)
  expect(await page.evaluate(() => 'ran' in window)).toBe(false)
  errors.splice(0) // broken on purpose
})

test('axe finds nothing at any station', async ({ page }) => {
  test.setTimeout(long ? 900_000 : 240_000)
  await page.goto('/hangar')
  await expect(page.getByRole('article', { name: 'Dunlin' })).toBeVisible()
  await look(page, '/hangar', true)
  for (const s of stations) {
    await page.goto(`/quads/1/${s}`)
    await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible()
    await look(page, s, s === 'motors' || s === 'first-flight')
  }
  await page
    .getByRole('button', { name: /^Type all \d+/ })
    .first()
    .click()
  await expect(page.getByRole('dialog')).toBeVisible()
  await look(page, 'all on one sheet')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await page.goto('/parts')
  await page.getByRole('button', { name: 'From a table or a file' }).click()
  await page.getByRole('textbox', { name: /^A table with a line of heads/ }).fill('Name,KV,Weight (g)\nKittiwake,2450,31\n')
  await expect(page.getByRole('button', { name: 'Keep it' })).toBeEnabled()
  await look(page, 'own parts', true)
  await page.goto('/quads/1/first-flight')
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible()
  await page.keyboard.press('b')
  await expect(page.getByRole('region', { name: 'Bench', exact: true })).toBeVisible()
  await look(page, 'bench')
  await page.keyboard.press('b')
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog')).toBeVisible()
  await look(page, 'keys')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await page.keyboard.press('Control+k')
  await expect(page.getByRole('combobox')).toBeFocused()
  await page.keyboard.type('go')
  await look(page, 'palette')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toBeHidden()
  await page.keyboard.press('n')
  await expect(page.getByRole('region', { name: 'Next' })).toBeVisible()
  await look(page, 'next')
  await page.keyboard.press('n')
  await page.keyboard.press('v')
  await look(page, 'table behind the drawing')
  for (const at of ['map', 'profiles', 'radio', 'modes']) {
    await page.goto(`/quads/1/sticks?at=${at}`)
    if (at === 'map') await page.getByRole('button', { name: 'Propose a plan' }).click()
    if (at === 'modes') await expect(page.getByRole('list', { name: 'What each mode made of it' })).toBeVisible()
    await look(page, `sticks, ${at}`)
  }
  await page.goto('/quads/1/senses?at=mount')
  await page.getByRole('button', { name: 'By eye' }).click()
  await expect(page.getByRole('img', { name: /^The board lies flat/ })).toBeVisible()
  await look(page, 'senses, board')
  await page.goto('/quads/1/senses?at=plate')
  const lean = page.getByLabel(/^(roll|pitch), °/)
  await expect(lean).toHaveCount(4)
  for (const box of await lean.all()) await box.fill('1')
  await expect(page.getByRole('region', { name: 'The plate made level' }).getByRole('img')).toHaveCount(2)
  await look(page, 'senses, plate')
  await page.goto('/quads/3/senses?at=heading')
  const headings = page.getByLabel(/^(direction|heading shown), °/)
  await expect(headings).toHaveCount(4)
  for (const [i, box] of (await headings.all()).entries()) await box.fill(String(30 + 40 * i))
  await expect(page.getByRole('img', { name: /^A hold with it/ })).toBeVisible()
  await look(page, 'senses, heading')
  for (const at of ['faces', 'compass', 'sky', 'height']) {
    await page.goto(`/quads/3/senses?at=${at}`)
    const bring = page.getByRole('button', { name: 'Or bring a run that was recorded' })
    if (at !== 'sky') await bring.click()
    await expect(page.getByRole('img').last()).toBeVisible()
    await look(page, `senses, ${at}`)
  }
  await page.goto('/quads/3/link-loss?at=place')
  await expect(page.getByRole('img', { name: /^From above/ })).toBeVisible()
  await look(page, 'link loss, out there')
  await page.goto('/quads/3/link-loss?at=map')
  await page.getByLabel('the wind comes from').fill('230')
  await expect(page.getByText('1000 losses by each policy')).toBeVisible()
  await look(page, 'link loss, on the map')
  await page.getByRole('button', { name: 'What lies there' }).click()
  await page.getByRole('button', { name: 'poplars' }).click()
  await look(page, 'link loss, what lies there')
  // Sanderling has stops, fixes and a skipped station.
  await page.goto('/quads/2/sticks')
  await expect(page.getByRole('complementary', { name: 'Ledger' }).getByRole('article').first()).toBeVisible()
  await look(page, 'Sanderling, sticks')
})

test('axe finds nothing at any other place', async ({ page, request }) => {
  test.setTimeout(long ? 900_000 : 240_000)
  // The places of Link: a binding that is followed, a question with an answer behind it, the plot, the masts, the file.
  await request.post('/api/bench/things', { data: { pack: true, radio: true } })
  expect((await request.post('/api/quads/1/link/bind', { data: { way: 'cycles' } })).ok()).toBe(true)
  for (const at of ['bind', 'why', 'reach', 'fleet', 'gear', 'image']) {
    await page.goto(`/quads/1/link?at=${at}`)
    if (at === 'bind') await expect(page.locator('ol > [aria-current=step]')).toBeVisible()
    if (at === 'why') await page.getByRole('button', { name: 'two short flashes, a long pause' }).click()
    if (at === 'fleet') await expect(page.getByRole('region', { name: 'Estuary internal' })).toBeVisible()
    await look(page, `link, ${at}`)
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
  await look(page, 'saved lists')
  await page.goto('/quads/1/firmware?at=carry&to=Shingle%202.4.0')
  await expect(page.getByRole('region', { name: 'Carry over' })).toContainText('still to be decided')
  await look(page, 'carry over')
  await page.goto('/quads/1/firmware?at=flash')
  await look(page, 'flash')
  await page.goto('/quads/4/wiring')
  await page.getByRole('button', { name: 'Plan the wires' }).click()
  await page.getByRole('button', { name: 'Ports', exact: true }).click()
  await look(page, 'wiring')
  await page.getByRole('button', { name: 'Wires', exact: true }).click()
  await look(page, 'wires')
  await page.goto('/quads/1/dictionary')
  await page.getByLabel('A list that a board of it gave').fill('motorIdle = 55\nroll = 140:670:40\n')
  await expect(page.getByRole('row', { name: /motorIdle/ })).toBeVisible()
  await page.getByRole('button', { name: 'something else' }).first().click()
  await look(page, 'workshop')
  await page.goto('/quads/1/rehearsal')
  await expect(page.getByRole('region', { name: 'As corrected' })).toBeVisible()
  await look(page, 'rehearsal')
  await page.goto('/quads/1/rehearsal?shows=cell&scenario=flips&hand=beginner')
  await expect(page.getByRole('region', { name: 'Without it' })).toBeVisible()
  await look(page, 'a consequence')
  for (const [at, name] of [
    ['start', 'Where it starts'],
    ['signs', 'Mistakes'],
    ['frames', 'Throttle frames'],
    ['propellers', 'Propellers'],
    ['both', 'Both ways'],
  ] as const) {
    await page.goto(`/quads/1/motors?at=${at}`)
    await expect(page.getByRole('button', { name, exact: true })).toHaveAttribute('aria-pressed', 'true')
    await look(page, `motors, ${name}`)
  }
  const { version } = (await (await request.get('/api/packs')).json()) as { version: number }
  expect((await request.post('/api/packs/measured', { data: { version, name: 'grey', resistance: 31, spread: 14 } })).ok()).toBe(true)
  await page.goto('/packs')
  await page.getByRole('button', { name: 'Measure grey' }).click()
  await look(page, 'packs', true)
  await page.goto('/quads/1/book')
  await expect(page.getByRole('region', { name: 'Flights' })).toBeVisible()
  await look(page, 'book', true)
  await page.goto('/quads/1/card')
  await expect(page.getByRole('heading', { name: 'To stop it' })).toBeVisible()
  await look(page, 'field card', true)
  await page.goto('/hangar')
  await page.getByText('Limits you judge every quad by').click()
  await page.getByRole('button', { name: 'Move the limit: Level error' }).click()
  await look(page, 'limits')
  await page.getByRole('button', { name: 'Begin a quad' }).click()
  await look(page, 'begin a quad')
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

test('every tone can be read on every ground, in both themes', async ({ page }) => {
  await page.goto('/hangar')
  for (const theme of ['day', 'dusk']) {
    const ratios = await page.evaluate((theme) => {
      document.documentElement.dataset.theme = theme
      const style = getComputedStyle(document.documentElement)
      const canvas = document.createElement('canvas').getContext('2d', { willReadFrequently: true })
      if (!canvas) throw new Error('nothing to paint on')
      // Relative luminance and contrast as WCAG 2.2 defines them.
      const luminance = (role: string) => {
        canvas.fillStyle = style.getPropertyValue(`--${role}`)
        canvas.fillRect(0, 0, 1, 1)
        const [r = 0, g = 0, b = 0] = [...canvas.getImageData(0, 0, 1, 1).data].map((x) =>
          x / 255 <= 0.04045 ? x / 255 / 12.92 : ((x / 255 + 0.055) / 1.055) ** 2.4,
        )
        return 0.2126 * r + 0.7152 * g + 0.0722 * b
      }
      const pairs = ['ink', 'soft', 'act', 'stop', 'fix', 'note', 'ok'].flatMap((tone) => ['paper', 'panel', 'sunk'].map((ground) => [tone, ground] as const))
      for (const tone of ['act', 'stop', 'fix', 'note', 'ok'] as const) pairs.push([tone, `${tone}-bg` as never], ['ink', `${tone}-bg` as never])
      return pairs.map(([tone, ground]) => {
        const [a, b] = [luminance(tone), luminance(ground)].sort((x, y) => y - x) as [number, number]
        return { tone, ground, ratio: (a + 0.05) / (b + 0.05) }
      })
    }, theme)
    expect(
      ratios.filter((r) => r.ratio < 4.5).map((r) => `${r.tone} on ${r.ground}: ${r.ratio.toFixed(2)}`),
      theme,
    ).toEqual([])
  }
})
