// Every main view, looked at by axe: names for screen readers, contrast, order of headings.
import { AxeBuilder } from '@axe-core/playwright'
import { expect, stations, test } from './program.ts'

test('axe finds nothing on any main view, at day and at dusk, on a laptop and on a phone', async ({ page }) => {
  test.setTimeout(400_000)
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
      await page.emulateMedia({ colorScheme: scheme })
      await expect(page.locator('html')).toHaveAttribute('data-theme', theme)
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
  // Sanderling has stops, fixes and a skipped station.
  await page.goto('/quads/2/sticks')
  await expect(page.getByRole('complementary', { name: 'Ledger' }).getByRole('article').first()).toBeVisible()
  await look('Sanderling, sticks')
  await page.goto('/quads/1/rehearsal')
  await expect(page.getByRole('region', { name: 'As corrected' })).toBeVisible()
  await look('rehearsal')
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
