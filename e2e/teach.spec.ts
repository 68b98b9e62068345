// A line that the product never heard of: its list is read, its settings are given their meaning, and then lists of it go both
// ways.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { choose } from './choose.ts'
import { expect, test } from './program.ts'

const list = readFileSync(join(import.meta.dirname, '../core/firmware/testdata/sandbar.list'), 'utf8')

test('a list from an unknown line is taught and goes both ways', async ({ page, request }) => {
  const begun = await request.post('/api/quads', {
    data: {
      name: 'Plover',
      words: 'from somewhere else',
      line: 'Sandbar',
      version: '3.1.0',
      target: 'WRACK2',
      list: '',
      parts: { frame: 1, motors: 1, propeller: 1, power: 1, board: 1, radio: 1, video: 1 },
    },
  })
  expect(begun.ok()).toBe(true)
  const { id } = await begun.json()
  await page.goto(`/quads/${id}/firmware?at=saved`)
  await page.getByRole('button', { name: 'Bring a list in' }).click()
  const text = page.getByRole('textbox', { name: 'Settings list' })
  await text.fill('good morning')
  await page.getByRole('button', { name: 'Read it' }).click()
  await expect(page.getByText('that is not known here')).toBeVisible() // whatever it says, it can be described
  await text.fill(list)
  await page.getByRole('button', { name: 'Read it' }).click()
  await expect(page.getByText('Sandbar is a line that is not known here.')).toBeVisible()
  await page.getByRole('button', { name: 'Describe it' }).click()

  await expect(page.getByRole('heading', { name: 'Describe an unknown firmware family' })).toBeVisible()
  await expect(page.getByLabel('Line', { exact: true })).toHaveValue('Sandbar')
  await choose(page.getByLabel('Separator'), 'slashes')
  const row = (name: string) => page.getByRole('row', { name: new RegExp(`^${name} `) })
  // A guess that is taken, one that is said by hand, with its zero and its factor, and one with its words.
  await row('armLow').getByRole('button', { name: 'Arm, range from' }).click()
  await row('failsafeDelay')
    .getByRole('button', { name: /it means|something else/ })
    .click()
  await choose(row('failsafeDelay').getByLabel('failsafeDelay, place 1'), { value: 'sheet.loss.guard' })
  await row('failsafeDelay').getByRole('button', { name: 'It means that' }).click()
  // As it stands it would be 800 s: what comes back as it went in can still mean something else.
  const says = page.getByRole('table', { name: 'What it then says' }).getByRole('row', { name: /^Failsafe delay/ })
  await expect(says).toContainText('800 sfar from usual')
  await row('failsafeDelay').getByRole('button', { name: 'change' }).click()
  await row('failsafeDelay').getByLabel('failsafeDelay, factor of place 1').fill('1000')
  await row('failsafeDelay').getByRole('button', { name: 'It means that' }).click()
  await expect(says).toContainText('0.8 s')
  // What is measured on this very board is never taken to another.
  await row('calRoll')
    .getByRole('button', { name: /it means|something else/ })
    .click()
  await choose(row('calRoll').getByLabel('calRoll, measured on this board'), 'measured on this board: level')
  await row('calRoll').getByRole('button', { name: 'Cancel' }).click()
  await expect(row('calRoll')).toContainText('measured on this board: level')
  await row('failsafePlan')
    .getByRole('button', { name: /it means|something else/ })
    .click()
  await choose(row('failsafePlan').getByLabel('failsafePlan, place 1'), { value: 'sheet.loss.policy' })
  await row('failsafePlan').getByLabel('failsafePlan, word for drop').fill('cut')
  await row('failsafePlan').getByLabel('failsafePlan, word for land').fill('descend')
  await row('failsafePlan').getByRole('button', { name: 'It means that' }).click()
  const outcome = page.getByRole('region', { name: 'What comes of it' })
  await expect(outcome).toContainText('3 of 63 settings')
  await page.getByRole('button', { name: /^Take the \d+ sure guesses/ }).click()
  await expect(outcome).toContainText('Through your settings and back, every setting comes back as it went in.')
  expect(decodeURIComponent((await outcome.getByRole('link', { name: 'Download the file' }).getAttribute('href')) ?? '')).toContain('bound: level')
  await outcome.getByRole('button', { name: 'Save the dictionary of Sandbar' }).click()
  await expect(outcome.getByRole('button', { name: 'Saved' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Your dictionaries' })).toContainText('Sandbar')

  // In, onto the sheet, and out again as raw settings.
  await page.getByRole('link', { name: 'Back to Plover' }).click()
  await page.getByRole('button', { name: 'Bring a list in' }).click()
  await text.fill(list)
  await page.getByRole('button', { name: 'Read it' }).click()
  await page.getByRole('button', { name: 'It is what the board holds' }).click()
  const way = page.getByRole('navigation', { name: 'The way of the settings' })
  await expect(way.getByRole('button', { name: /^Board/ })).toContainText('Sandbar 3.1.0')
  await way.getByRole('button', { name: /^Saved lists/ }).click()
  await page.getByRole('button', { name: 'Bring a list in' }).click()
  await text.fill(list)
  await page.getByRole('button', { name: 'Read it' }).click()
  await page.getByRole('button', { name: 'Apply to settings' }).click()
  await expect(way.getByRole('button', { name: /^write/ })).toContainText('nothing differs')
  const now = async () => (await request.get(`/api/quads/${id}`)).json()
  await expect.poll(async () => (await now()).meant.sheet.loss).toMatchObject({ guard: 0.8, policy: 'land' })
  const quad = await now()
  const edit = await request.post(`/api/quads/${id}/edit`, { data: { version: quad.version, values: [{ path: 'sheet.loss.guard', value: '1.2 s' }] } })
  expect(edit.ok()).toBe(true)
  await page.reload()
  await expect(page.getByRole('region', { name: 'What must be written' }).getByRole('row', { name: /^failsafeDelay/ })).toContainText('1200')
})
