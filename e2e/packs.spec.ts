// Packs belong to the pilot: one is measured, the quads that fly with it are offered what came of it, and a slip is withdrawn with its reason.
import { expect, refusal, test } from './program.ts'

test('a pack that ages is offered to the quads that fly with it', async ({ page, context }) => {
  await page.goto('/hangar')
  await page.getByRole('link', { name: 'My packs' }).click()
  await expect(page.getByRole('heading', { name: 'My packs' })).toBeVisible()
  const grey = page
    .getByRole('list', { name: 'Packs' })
    .getByRole('listitem')
    .filter({ has: page.getByRole('heading', { name: 'grey' }) })
  await expect(grey.getByRole('region', { name: 'Quads with grey' })).toContainText('Dunlin has it so')

  const measure = async (of: typeof page, figures: Record<string, string>) => {
    await of.getByRole('button', { name: 'Measure grey' }).click()
    const form = of.getByRole('form', { name: 'Measure grey' })
    await expect(form).toContainText('When new such a pack has 12 to 37 mΩ')
    for (const [label, value] of Object.entries(figures)) await form.getByLabel(label).fill(value)
    await form.getByRole('button', { name: 'Keep it' }).click()
    return form
  }
  await measure(page, { 'Internal resistance': '31,5', 'Highest to lowest': '14' })
  await expect(grey.getByRole('img', { name: /^Internal resistance of grey: .* 31\.5 mΩ; 12 to 37 mΩ when new$/ })).toBeVisible()
  await expect(grey.getByRole('region', { name: 'grey', exact: true })).toContainText('internal resistance 31.5 mΩ as measured')
  await expect(grey).toContainText('Dunlin has internal resistance 18 mΩ instead of 31.5 mΩ.')

  // A window that saw less overwrites nothing.
  const other = await context.newPage()
  await other.goto('/packs')
  await expect(other.getByRole('button', { name: 'Measure grey' })).toBeVisible()
  await measure(page, { 'Internal resistance': '90' })
  await expect(grey).toContainText('instead of 90 mΩ')
  await measure(other, { Mass: '214' })
  await expect(refusal(other)).toContainText('Your packs were changed in another window')
  await other.close()

  // That was another pack: it stays to be seen, and counts no more.
  await grey
    .getByRole('list', { name: 'Measured of grey' })
    .getByRole('button', { name: /^Withdraw 90 mΩ/ })
    .click()
  await page.getByRole('dialog').getByRole('textbox').fill('that was the green one')
  await page.getByRole('dialog').getByRole('button', { name: 'Withdraw it' }).click()
  await expect(grey.getByRole('list', { name: 'Measured of grey' })).toContainText('that was the green one')
  await expect(grey).toContainText('instead of 31.5 mΩ')

  // At the quad it is offered where its parts stand, taken there, and taken back by a key.
  await grey.getByRole('link', { name: 'Dunlin' }).click()
  await page.getByRole('button', { name: 'Parts', exact: true }).click()
  const parts = page.getByRole('list', { name: 'Parts' })
  await expect(parts).toContainText('Your pack has internal resistance 31.5 mΩ, here 18 mΩ.')
  await parts.getByRole('button', { name: 'Take grey over' }).click()
  await expect(parts).not.toContainText('Your pack has')
  await page.keyboard.press('u')
  await expect(parts).toContainText('here 18 mΩ')

  // One more, written down: it is there for any quad, and can go again while none has it.
  await page.goto('/packs')
  await page.getByRole('button', { name: 'Write down a pack' }).click()
  const told = page.getByRole('form', { name: 'Write down a pack' })
  await told.getByLabel('Name').fill('Long 4')
  await told.getByLabel('Cells').fill('4')
  await told.getByLabel('Capacity, mAh').fill('99999')
  await told.getByRole('button', { name: 'Keep it' }).click()
  await expect(refusal(page)).toContainText('60 Ah does not fly')
  await told.getByLabel('Capacity, mAh').fill('1500')
  await told.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByRole('region', { name: 'Quads with Long 4' })).toContainText('on no quad')
  await page.getByRole('button', { name: 'Forget Long 4' }).click()
  await expect(page.getByRole('heading', { name: 'Long 4' })).toHaveCount(0)
})
