// A quad of one's own from its name alone: what is on it is said part by part, from a catalogue or in one's own words.
import { choose } from './choose.ts'
import { expect, test } from './program.ts'

test('parts are fitted as far as they are known, and what is not known stays so', async ({ page }) => {
  await page.goto('/hangar')
  await page.getByRole('button', { name: 'Begin a quad' }).click()
  await page.getByRole('dialog').getByLabel('Name').fill('Ruff')
  await page.getByRole('button', { name: 'Begin it' }).click()
  await expect(page).toHaveURL(/airframe$/)
  await expect(page.getByText('Say at Parts what is on it.')).toBeAttached()
  await page.getByRole('button', { name: 'Parts', exact: true }).click()
  const parts = page.getByRole('list', { name: 'Parts' })
  await expect(parts.getByText('not known yet')).toHaveCount(10)
  const fit = async (open: string, label: string, typed: string) => {
    await parts.getByRole('button', { name: open }).click()
    const form = parts.getByRole('form', { name: `Fit: ${label}` })
    const button = form.getByRole('button', { name: 'Fit it' })
    const stood = await button.boundingBox()
    await form.getByRole('combobox').fill(typed)
    // What is said of the part comes late, and must not move the button from under a finger.
    await expect(form.getByRole('combobox')).toHaveAccessibleDescription(/./)
    expect(await button.boundingBox()).toEqual(stood)
    await button.click()
    await expect(form).toBeHidden()
    await expect(parts.locator('b', { hasText: typed })).toBeVisible()
  }
  await fit('Change the motors', 'motors', 'Sandpiper 2207 1700')
  await fit('Change the propellers', 'propellers', 'three blades 5 by 4.3 in')
  await fit('Change the frame', 'frame', 'cut from driftwood')
  await fit('Add a pack', 'pack', '6 cells 1300 mAh')
  await fit('Add a pack', 'pack', 'one from the shed')
  await parts.getByRole('button', { name: 'Take off one from the shed' }).click()
  await expect(parts.locator('b', { hasText: 'one from the shed' })).toHaveCount(0)
  await page.keyboard.press('u')
  await expect(parts.locator('b', { hasText: 'one from the shed' })).toBeVisible()

  // Another quad with the same motors is named beside them.
  await page.goto('/hangar')
  await page.getByRole('button', { name: 'Begin a quad' }).click()
  await page.getByRole('dialog').getByLabel('Name').fill('Reeve')
  await page.getByRole('dialog').getByLabel('Motors').fill('Sandpiper 2207 1700')
  await page.getByRole('button', { name: 'Begin it' }).click()
  await page.getByRole('button', { name: 'Parts', exact: true }).click()
  await expect(parts.getByRole('listitem').filter({ hasText: 'Sandpiper 2207 1700' })).toContainText('also on Ruff')

  // At the hangar it is found by what it has, by a part or by a version.
  await page.goto('/hangar')
  const which = page.getByRole('searchbox', { name: 'Which has' })
  await which.fill('1700 sandpiper')
  await expect(page.getByRole('article', { name: 'Dunlin' })).toBeHidden()
  await expect(page.getByRole('article', { name: 'Reeve' })).toContainText('Has Sandpiper 2207 1700.')
  await expect(page.getByRole('article', { name: 'Ruff' })).toBeVisible()
  await which.fill('marram 7.0')
  await expect(page.getByRole('article', { name: 'Dunlin' })).toContainText('Has Marram 7.0.2')
  await expect(page.getByRole('article', { name: 'Reeve' })).toBeHidden()
  await which.fill('a sail')
  await expect(page.getByText('None of your quads has that.')).toBeVisible()
  await which.fill('')
  await expect(page.getByRole('article', { name: 'Reeve' })).toBeVisible()
})

test('a quad is begun step by step: what suits its size and its cells is offered', async ({ page }) => {
  await page.goto('/hangar')
  await page.getByRole('button', { name: 'Begin a quad' }).click()
  const begin = page.getByRole('dialog', { name: 'Begin a quad' })
  await expect(begin.getByRole('img', { name: 'Its size is not said; its cells are not said' })).toBeVisible()
  await begin.getByLabel('Name').fill('Heron')
  await choose(begin.getByRole('combobox', { name: 'Size of its propellers' }), '10 inch')
  await choose(begin.getByRole('combobox', { name: 'Cells of its packs' }), '6')
  await choose(begin.getByRole('combobox', { name: 'What it is for' }), 'carrying a camera')
  await expect(begin.getByRole('img', { name: 'Propellers of 254 mm; 6 cells' })).toBeVisible()
  // Until something is typed, only what suits is listed; whoever types finds all the same.
  const offered = async (label: string) => {
    const field = begin.getByRole('combobox', { name: label, exact: true })
    await field.focus()
    const list = begin.locator(`datalist[id="${await field.getAttribute('list')}"] option`)
    await expect(list).not.toHaveCount(0)
    return list
  }
  await expect((await offered('Pack')).and(begin.locator('option[value^="4 cells"]'))).toHaveCount(0)
  await expect((await offered('Pack')).and(begin.locator('option[value="grey"]'))).toHaveText('your pack')
  await expect((await offered('Motors')).and(begin.locator('option[value^="Sandpiper 2207"]'))).toHaveCount(0)
  await begin.getByRole('combobox', { name: 'Motors', exact: true }).fill('Sandpiper 2207')
  await expect((await offered('Motors')).and(begin.locator('option[value="Sandpiper 2207 1700"]'))).toHaveCount(1)
  await begin.getByRole('combobox', { name: 'Motors', exact: true }).fill('')
  await begin.getByLabel('Country or field').fill('Sallow Spit')
  await begin.getByLabel('Registration that it carries').fill('SP-417')
  await begin.getByRole('button', { name: 'Begin it' }).click()
  await expect(page).toHaveURL(/airframe$/)
  await page.goto('/hangar')
  await expect(page.getByRole('article', { name: 'Heron' })).toContainText('10 inch, 6 cells, carrying a camera')
})
