// In the field: 390 pixels and fingers.
import { expect, test } from './program.ts'

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })

test('nothing is cut off on a phone', async ({ page }) => {
  for (const [path, shows] of [
    ['/hangar', 'Dunlin'],
    ['/quads/1/card', 'To stop it'],
    ['/quads/1/book', 'Note a flight'],
    ['/quads/1/first-flight', 'Is today, here, a good time'],
    ['/quads/1/sticks', 'Does it hear'],
    ['/quads/1/motors', 'Does every corner push'],
    ['/quads/1/firmware', 'Is the right build'],
    ['/quads/1/link', 'Do radio and receiver'],
    ['/quads/1/rehearsal', 'First hover'],
  ] as const) {
    await page.goto(path)
    await expect(page.getByRole('heading', { name: shows }).first()).toBeVisible()
    const wide = await page.evaluate(() => document.documentElement.scrollWidth)
    expect(wide, `${path} is ${wide} wide`).toBeLessThanOrEqual(390)
    // What scrolls sideways does so inside itself; everything else ends inside the screen.
    const out = await page.evaluate(() =>
      [...document.querySelectorAll('button, h1, h2, p, input, select')]
        .filter((e) => !e.closest('header, nav, table, [data-behind], svg, .sr-only') && e.getClientRects().length > 0 && e.getBoundingClientRect().right > 391)
        .map((e) => `${e.tagName} ${e.textContent?.slice(0, 40)}`),
    )
    expect(out, path).toEqual([])
  }
})

test('the bench is worked by fingers, and a finger lifted stops the motor', async ({ page, context }) => {
  await page.goto('/quads/1/motors')
  await page.getByRole('button', { name: /^Bench/ }).tap()
  const bench = page.getByRole('region', { name: 'Bench', exact: true })
  await bench.getByRole('button', { name: 'Pack out' }).tap()
  await expect(bench.getByRole('button', { name: 'Pack in' })).toBeVisible()
  const box = await bench.getByRole('button', { name: 'Pack in' }).boundingBox()
  expect(box?.height ?? 0).toBeGreaterThanOrEqual(40)
  await bench.getByRole('button', { name: 'Close' }).tap()
  const spin = page.getByRole('button', { name: 'Hold to spin A' })
  await expect(spin).toBeEnabled()
  await spin.scrollIntoViewIfNeeded()
  const at = await spin.boundingBox()
  if (!at) throw new Error('the button has no place')
  const fingers = await context.newCDPSession(page)
  const point = { x: at.x + at.width / 2, y: at.y + at.height / 2 }
  // A hold that a busy machine breaks is begun anew, as the page asks.
  let down = false
  await expect(async () => {
    if (down) await fingers.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
    await fingers.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: [point] })
    down = true
    await expect(spin).toHaveAttribute('data-held', 'true', { timeout: 2000 })
    await expect(page.getByText('turning now')).toBeVisible({ timeout: 4000 })
  }).toPass({ timeout: 40_000 })
  await fingers.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
  await expect(spin).toHaveAttribute('data-held', 'false')
  await expect(page.getByText('turning now')).toBeHidden()
})
