// A quad goes out and comes back; another is begun from a list; states are compared and restored.
import { readFileSync } from 'node:fs'
import { expect, refusal, test } from './program.ts'

/** A picture of one pixel, as PNG. */
const pixel = Buffer.from('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==', 'base64')

test('an archive goes out and comes back, all of it', async ({ page }) => {
  const ledger = page.getByRole('complementary', { name: 'Ledger' })
  await page.goto('/quads/1/first-flight')
  await ledger.getByText('Optional').click()
  const home = ledger.locator('[data-ask]', { hasText: 'Where it takes off' })
  await home.getByRole('button', { name: 'Type it' }).click()
  await home.getByLabel(/^Latitude/).fill('154')
  await home.getByLabel(/^Longitude/).fill('8.25')
  await page.keyboard.press('Enter')
  await expect(home.getByRole('alert')).toContainText('must be from -90 to 90°: pole to pole')
  await home.getByLabel(/^Latitude/).fill('54.56')
  await page.keyboard.press('Enter')
  await expect(home).toBeHidden()
  await page.goto('/quads/1/link')
  await ledger.getByText(/^Intended settings/).click()
  await ledger.getByRole('button', { name: 'Shared phrase: nothing. Change it' }).click()
  await ledger.getByRole('textbox', { name: 'Shared phrase' }).fill('curlew at dawn')
  await page.keyboard.press('Enter')
  await expect(ledger.getByRole('button', { name: 'Shared phrase: kept, not shown. Change it' })).toBeVisible()

  await page.goto('/quads/1/book')
  await page.getByRole('form', { name: 'Save the draft as a revision' }).getByLabel(/Why/).fill('bound again')
  await page.getByRole('button', { name: 'Save it as revision 2' }).click()
  await expect(page.getByRole('region', { name: 'Revisions' }).getByRole('row', { name: /^2 Shared phrase/ })).toContainText('bound again')
  await page.getByRole('button', { name: 'A repair' }).click()
  const happened = page.getByRole('form', { name: 'What happened' })
  await happened.getByLabel(/what exactly/).fill('a new arm')
  await happened.getByRole('button', { name: 'Note it' }).click()
  await expect(page.getByRole('row', { name: /A repair.*a new arm/ })).toBeVisible()
  await page.getByLabel('What it shows').fill('the new arm')
  await page.getByLabel('Photo', { exact: true }).setInputFiles({ name: 'arm.png', mimeType: 'image/png', buffer: pixel })
  await expect(page.getByRole('img', { name: 'the new arm' })).toBeVisible()

  await page.getByRole('link', { name: 'Hangar' }).click()
  const dunlin = page.getByRole('article', { name: 'Dunlin', exact: true })
  const save = async (name: string) => {
    await page.getByRole('button', { name: `Download ${name} as an archive` }).click()
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('article', { name, exact: true }).getByRole('link', { name: 'to hand on' }).click(),
    ])
    return readFileSync((await file.path()) ?? '', 'utf8')
  }
  const out = await save('Dunlin')
  expect(out).toContain('the new arm')
  expect(out).toContain('bound again')
  expect(out).not.toContain('curlew')
  expect(out).not.toContain('54.56')
  const says = await dunlin.textContent()

  await page.getByLabel('Archive of a quad').setInputFiles({ name: 'dunlin.quad.json', mimeType: 'application/json', buffer: Buffer.from(out) })
  const naming = page.getByRole('dialog', { name: 'You have a quad of that name' })
  await naming.getByLabel('Name').fill('Dunlin again')
  await naming.getByRole('button', { name: 'Bring it in' }).click()
  await expect(page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: /Airframe: prove again|Airframe: proven/ })).toBeVisible()
  await page.getByRole('link', { name: 'Hangar' }).click()
  const again = await save('Dunlin again')
  expect(again.replace('"name":"Dunlin again"', '"name":"Dunlin"')).toBe(out)
  expect((await page.getByRole('article', { name: 'Dunlin again' }).textContent())?.replace('Dunlin again', 'Dunlin')).toContain(says?.slice(0, 60) ?? '')

  // A damaged one is refused with a sentence, and the hangar stays as it is.
  await page
    .getByLabel('Archive of a quad')
    .setInputFiles({ name: 'bad.json', mimeType: 'application/json', buffer: Buffer.from(out.replace('"idle":', '"idle":1')) })
  await expect(refusal(page)).toContainText('changed or damaged')
  await expect(page.getByRole('article')).toHaveCount(6)
})

test('a quad is begun from a pasted list and parts, with no bench', async ({ page, request }) => {
  const taken = await request.post('/api/quads/1/take', { data: { path: 'readings.firmware.backup' } })
  expect(taken.ok() || taken.status() === 422).toBe(true)
  await request.post('/api/bench/things', { data: { usb: true } })
  await expect.poll(async () => (await request.post('/api/quads/1/take', { data: { path: 'readings.firmware.backup' } })).ok(), { timeout: 15_000 }).toBe(true)
  const [backup] = ((await (await request.get('/api/quads/1/backups')).json()) as { backups: { all: string }[] }).backups
  await page.goto('/hangar')
  await page.getByRole('button', { name: 'Begin a quad' }).click()
  const begin = page.getByRole('dialog', { name: 'Begin a quad' })
  await begin.getByLabel('Name').fill('Knot')
  await begin.getByLabel('Board target').fill('HARRIER4')
  await begin.getByLabel('The list, one setting a line').fill(`${backup?.all}\nnot.a.setting = 3 = 4`)
  await begin.getByRole('button', { name: 'Begin it' }).click()
  await expect(begin.getByRole('alert')).toContainText('Nothing was taken: Marram 7.0.2 has no setting named')
  await begin.getByLabel('The list, one setting a line').fill(backup?.all ?? '')
  await begin.getByRole('button', { name: 'Begin it' }).click()
  await expect(page.getByRole('heading', { name: 'What is on it, and do the parts suit each other?' })).toBeVisible()
  await page.keyboard.press('n')
  await expect(page.getByRole('region', { name: 'Next' }).getByRole('listitem').first()).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('region', { name: 'Next' })).toBeHidden()

  await page.getByRole('link', { name: 'Hangar' }).click()
  await page.getByRole('button', { name: 'Clone Knot' }).click()
  await page.getByRole('dialog').getByLabel('Name').fill('Ruff')
  await page.getByRole('button', { name: 'Clone it' }).click()
  await expect(page.getByRole('banner')).toContainText('Ruff revision 1')
})

test('states are compared, one place is restored, a revision is tagged', async ({ page, request }) => {
  const edit = async (version: number, path: string, value: unknown) =>
    expect((await request.post('/api/quads/1/edit', { data: { version, values: [{ path, value }] } })).ok()).toBe(true)
  const version = async () => ((await (await request.get('/api/quads/1')).json()) as { version: number }).version
  await edit(await version(), 'sheet.motors.idle', 7)
  await request.post('/api/quads/1/type', { data: { path: 'readings.link.range', value: 91 } })
  await edit(await version(), 'sheet.loss.guard', '1.5 s')
  await page.goto('/quads/1/book')
  const revisions = page.getByRole('region', { name: 'Revisions' })
  await expect(revisions.getByRole('row', { name: /Idle throttle: 5.5 % becomes 7 %/ })).toContainText('the pilot, before a typed reading')
  await revisions.getByRole('button', { name: 'Tag revision 2' }).click()
  await revisions.getByRole('textbox', { name: 'Tag of revision 2' }).fill('before the dunes')
  await page.keyboard.press('Enter')
  await expect(revisions.getByRole('row', { name: /^2 / })).toContainText('before the dunes')
  const differs = page.getByRole('table', { name: 'What differs' })
  await expect(differs.getByRole('row')).toHaveCount(3)
  await differs.getByRole('button', { name: 'Idle throttle: back to 5.5 %' }).click()
  await expect(differs.getByRole('row')).toHaveCount(2)
  await revisions.getByRole('button', { name: 'Bring all of it back to revision 1' }).click()
  await expect(revisions).toContainText('No intended setting differs.')
})

test('a limit of one’s own is kept with its reason and judged by', async ({ page }) => {
  await page.goto('/quads/1/airframe')
  const ledger = page.getByRole('complementary', { name: 'Ledger' })
  await ledger.getByText(/^Limits it is judged by/).click()
  await ledger.getByRole('button', { name: 'Move the limit: Propeller tip speed, of the speed of sound' }).click()
  const form = ledger.getByRole('form', { name: /Propeller tip speed/ })
  await form.getByLabel('Limit').fill('0.5')
  await form.getByRole('button', { name: 'For Dunlin' }).click()
  await expect(form.getByRole('alert')).toContainText('why propeller tip speed')
  await form.getByLabel('Why').fill('the neighbours')
  await form.getByRole('button', { name: 'For Dunlin' }).click()
  const finding = ledger.getByRole('article').filter({ hasText: 'The propeller tips run fast' })
  await expect(finding).toContainText("This quad's own limit: the neighbours.")
  const [file] = await Promise.all([page.waitForEvent('download'), finding.getByRole('link', { name: 'Report this check' }).click()])
  const facts = JSON.parse(readFileSync((await file.path()) ?? '', 'utf8')) as { rule: string; saw: Record<string, unknown> }
  expect(facts.rule).toBe('airframe.tip-speed')
  expect(facts.saw['limits.thresholds.tipSpeed.reason']).toBe('the neighbours')
})
