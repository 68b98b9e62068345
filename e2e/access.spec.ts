// Every main view, looked at by axe: names for screen readers, contrast, order of headings.
import { AxeBuilder } from '@axe-core/playwright'
import { expect, test } from './program.ts'

const stations = [
  'airframe',
  'first-power',
  'firmware',
  'wiring',
  'link',
  'sticks',
  'motors',
  'senses',
  'feel',
  'power-watch',
  'link-loss',
  'picture',
  'bench-proof',
  'first-flight',
]

test('axe finds nothing on any main view', async ({ page }) => {
  const look = async (path: string) => {
    const found = await new AxeBuilder({ page }).analyze()
    expect(
      found.violations.map((v) => `${path}: ${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`),
      path,
    ).toEqual([])
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
})
