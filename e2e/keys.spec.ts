// Keys: the cut before everything, the lists from one registry, motion only where it is wanted.
import { expect, test } from './program.ts'

test('the cut is heard in fields, in lists, in the palette and in dialogs', async ({ page, request }) => {
  // A dialog makes the rest of the page inert, and its names are not heard; what it shows is seen all the same.
  const chip = page.getByRole('button', { name: /^Bench/, includeHidden: true })
  // A cut goes two ways at once, and the later of them may come after the pack is in again: then it is put in once more.
  const power = () =>
    expect(async () => {
      expect((await request.post('/api/bench/things', { data: { pack: true } })).ok()).toBe(true)
      await expect(chip).toContainText('pack in', { timeout: 2_000 })
    }).toPass()
  await page.goto('/quads/1/first-flight')
  for (const [where, go, leave] of [
    ['a field', () => page.getByLabel('Site').focus(), async () => undefined],
    [
      'the palette',
      async () => {
        await page.keyboard.press('Control+k')
        await expect(page.getByRole('combobox')).toBeFocused()
        await page.keyboard.type('go')
      },
      () => page.keyboard.press('Escape'),
    ],
    ['the key list', () => page.keyboard.press('?'), () => page.keyboard.press('Escape')],
    [
      'a list',
      async () => {
        await page.goto('/quads/1/book')
        await page.getByRole('combobox', { name: 'Pack' }).click()
        await expect(page.getByRole('listbox')).toBeVisible()
      },
      () => page.keyboard.press('Escape'),
    ],
  ] as const) {
    await power()
    if (where === 'the key list') await page.getByRole('heading', { level: 1 }).focus()
    await go()
    await page.keyboard.press('F9')
    await expect(chip, `F9 in ${where}`).toContainText('no power')
    // By the pointer too: the cut stands in a layer above every other, and a press on it is no press beside it.
    await power()
    await page.getByRole('button', { name: /^Cut power/ }).click()
    await expect(chip, `the cut pressed in ${where}`).toContainText('no power')
    await leave()
    await expect(page.getByRole('dialog')).toBeHidden()
  }
})

test('one registry feeds the key list and the palette', async ({ page }) => {
  await page.goto('/quads/1/senses')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await page.keyboard.press('?')
  const keys = page.getByRole('dialog', { name: 'Keys' })
  for (const words of ['Cut the bench power', 'Find what to do', 'Sign this proof', 'What to do next', 'Show the drawing as a table']) {
    await expect(keys.getByRole('row', { name: new RegExp(words) }).first()).toBeVisible()
  }
  // A key means nothing while a dialog has the keyboard.
  await page.keyboard.press(']')
  await page.keyboard.press('Escape')
  await expect(keys).toBeHidden()
  await expect(page).toHaveURL(/senses$/)
  await page.keyboard.press(']')
  await expect(page.getByRole('heading', { name: 'How will it answer my hands?' })).toBeVisible()
  await expect(page).toHaveURL(/feel$/)
  await page.keyboard.press('Control+k')
  await expect(page.getByRole('combobox')).toBeFocused()
  await page.keyboard.type('day dusk')
  await page.keyboard.press('Enter')
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dusk')
  await page.keyboard.press('v')
  await expect(page.getByRole('region', { name: 'Roll, Centre-peak' }).getByRole('row', { name: /^100 %/ })).toContainText('670')
})

test('nothing moves by itself when the system asks for stillness', async ({ page }) => {
  await page.emulateMedia({ reducedMotion: 'reduce' })
  await page.goto('/quads/1/rehearsal')
  await expect(page.getByRole('button', { name: /^(Play|Again)$/ })).toBeVisible()
  await page.emulateMedia({ reducedMotion: 'no-preference' })
  await page.reload()
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible()
})

test('the palette finds settings, parts and stations by the words a pilot has for them', async ({ page }) => {
  await page.goto('/quads/1/senses')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  const look = async (words: string) => {
    await page.keyboard.press('Control+k')
    await expect(page.getByRole('combobox')).toBeFocused()
    await page.keyboard.type(words)
    return page.getByRole('option')
  }
  await expect((await look('failsafe')).filter({ hasText: 'Failsafe delay: 1 s' })).toBeVisible()
  await expect(page.getByRole('option').filter({ hasText: 'Go to Link loss' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect((await look('dictionary')).filter({ hasText: 'Describe a firmware family' })).toBeVisible()
  await page.keyboard.press('Escape')
  // A setting is gone to where it stands, with the keyboard on it.
  await (await look('idle throttle')).filter({ hasText: 'Idle throttle: 5.5 %' }).click()
  await expect(page).toHaveURL(/\/quads\/1\/motors#sheet\.motors\.idle$/)
  await expect(page.getByRole('button', { name: /^Idle throttle: 5\.5 %/ })).toBeFocused()
})
