// The control link: a quad that will not bind is looked at until the reason is found and mended; two phrases that differ in a
// capital are told apart without being shown; a binding is guided step by step; numbers that clash and an update of the radio
// are seen over the whole fleet; a flight is held against the budget; the facts of a link are made one's own.
import type { Page } from '@playwright/test'
import { linkImage } from './image.ts'
import { expect, LoneBench, Program, perch, station, test } from './program.ts'

const on = async (page: Page, at: string) => {
  await page.goto(`/quads/1/link?at=${at}`)
  await expect(page.getByRole('navigation', { name: 'From the hand to the quad' })).toBeVisible()
}

/** What hands do about each reason that a seed may draw here. */
const remedies: Record<string, [string, object][]> = {
  'Module and receiver are of different major versions': [['receiver', { version: '6.2.1' }]],
  'The model has both modules on, and they drown each other': [['radio', { modules: 'internal' }]],
}

for (const seed of ['3', '8']) {
  test.describe(`a reason drawn by seed ${seed}`, () => {
    test.use({
      // biome-ignore lint/correctness/noEmptyPattern: Playwright wants the pattern
      program: async ({}, use) => {
        const bench = new LoneBench(['--link-fault', 'drawn', '--seed', seed])
        await bench.start()
        const p = new Program(['--bench', bench.address, '--token', bench.token])
        await p.start()
        await use(p)
        await p.end()
        await bench.kill()
      },
    })
    test('it will not bind, the reason is found by looking, and it binds', async ({ page, request }) => {
      await on(page, 'why')
      const way = page.getByRole('navigation', { name: 'From the hand to the quad' })
      await page.keyboard.press('b')
      const bench = page.getByRole('region', { name: 'Bench', exact: true })
      await bench.getByRole('button', { name: 'Pack out', exact: true }).click()
      await bench.getByRole('button', { name: 'Radio off', exact: true }).click()
      await expect(bench.getByRole('button', { name: 'Radio on', exact: true })).toBeVisible()
      await page.keyboard.press('b')
      await expect(way).toContainText('no channels')

      const why = page.getByRole('region', { name: 'Why will it not bind?' })
      await expect(why).toContainText('19 of 19 known reasons')
      const seen = page.getByRole('region', { name: 'What was seen' }).getByRole('listitem')
      const found = why.getByRole('heading', { name: 'This is it' })
      for (let looks = 0; looks < 6 && !(await found.isVisible()); looks++) {
        await why.getByRole('button', { name: 'Look at the bench' }).click()
        await expect(page.getByRole('button', { name: /^Look again/ })).toHaveCount(looks + 1)
        await expect(found.or(why.getByRole('button', { name: 'Look at the bench', disabled: false }))).toBeVisible()
      }
      await expect(found).toBeVisible()
      await expect(seen.first()).toContainText("What does the receiver's light do?")
      const cause = ((await why.getByRole('listitem').first().locator('b').textContent()) ?? '').replace(/\.$/, '')
      expect(Object.keys(remedies)).toContain(cause)
      for (const [end, body] of remedies[cause] ?? []) expect((await request.post(`/api/bench/${end}`, { data: body })).ok()).toBe(true)
      await expect(way).toContainText('channels arrive')
      await expect(way).toContainText('bound')
    })
  })
}

test('two phrases that differ in a capital only', async ({ page }) => {
  await on(page, 'bind')
  const compared = page.getByRole('region', { name: 'Two phrases compared' })
  await compared.getByLabel('In the radio').fill('Curlews over Sallow Spit')
  await compared.getByLabel('In the receiver').fill('curlews over Sallow Spit')
  await compared.getByRole('button', { name: 'Take fingerprints' }).click()
  await expect(page.getByRole('heading', { name: 'The two phrases differ in capitals or spaces only' })).toBeVisible()
  await expect(compared.getByLabel('In the radio')).toHaveValue('')
  expect(await page.content()).not.toMatch(/curlews over/i)
  await expect(perch(page, 'Link')).toHaveAttribute('aria-label', /1 stop/)
  await compared.getByLabel('In the receiver').fill('Curlews over Sallow Spit')
  await compared.getByRole('button', { name: 'Take fingerprints' }).click()
  await expect(page.getByRole('heading', { name: 'The two phrases differ in capitals or spaces only' })).toHaveCount(0)
})

test.describe('a binding', () => {
  test.use({
    // biome-ignore lint/correctness/noEmptyPattern: Playwright wants the pattern
    program: async ({}, use) => {
      const bench = new LoneBench(['--link-fault', 'phraseOther'])
      await bench.start()
      const p = new Program(['--bench', bench.address, '--token', bench.token])
      await p.start()
      await use(p)
      await p.end()
      await bench.kill()
    },
  })
  test('is guided, cautions first', async ({ page }) => {
    await on(page, 'bind')
    const card = page.getByRole('region', { name: 'Binding, step by step' })
    const steps = card.locator('ol > li')
    const now = (n: number) => expect(steps.nth(n - 1)).toHaveAttribute('aria-current', 'step')
    await page.keyboard.press('b')
    const bench = page.getByRole('region', { name: 'Bench', exact: true })
    const press = async (name: string, then: string) => {
      await bench.getByRole('button', { name, exact: true }).click()
      await expect(bench.getByRole('button', { name: then, exact: true })).toBeVisible()
    }
    const hands = async (f: () => Promise<void>) => {
      if (!(await bench.isVisible())) await page.keyboard.press('b')
      await expect(bench).toBeVisible()
      await f()
      await page.keyboard.press('b')
      await expect(bench).toBeHidden()
    }
    await press('Props off', 'Props on')
    await page.keyboard.press('b')
    await card.getByRole('button', { name: 'Follow me on the bench' }).click()
    await expect(card.getByRole('alert')).toContainText('Take the propellers off.')
    await hands(async () => {
      await press('Props on', 'Props off')
      await press('Radio off', 'Radio on')
    })
    await now(1)
    // The phrase into both ends; the receiver goes by it from its next start on.
    await hands(async () => {
      await press('Pack out', 'Pack in')
      for (const end of ['radio', 'receiver']) {
        await bench.getByLabel(`Phrase of the ${end}`, { exact: true }).fill('Reeds at low water')
        await bench.getByRole('button', { name: `Set: Phrase of the ${end}` }).click()
      }
    })
    await now(2)
    await hands(async () => {
      await press('Pack in', 'Pack out')
      await press('Pack out', 'Pack in')
    })
    await now(5)
    await hands(async () => {
      const stick = bench.getByRole('application', { name: /^Right stick/ })
      await stick.focus()
      for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight')
    })
    await expect(card).toContainText('Bound, and a channel was seen to move: that is saved.')
    await expect(page.getByText(/Channels move with the sticks/)).toBeVisible()
  })
})

test('numbers, an update and a flight over the fleet', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('article', { name: 'Godwit' }).getByRole('link', { name: 'Godwit' }).click()
  await station(page, 'Link')
  await page.getByRole('navigation', { name: 'From the hand to the quad' }).getByRole('button', { name: 'Estuary external' }).click()
  await expect(page.getByRole('heading', { name: 'Another quad has this receiver number' })).toBeVisible()
  await expect(page.getByText('Sanderling and Godwit have number 12')).toBeVisible()
  await page.getByRole('button', { name: 'Take number 1', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Another quad has this receiver number' })).toHaveCount(0)
  await expect(page.getByText('Sanderling and Godwit have number 12')).toHaveCount(0)

  const mast = page.getByRole('region', { name: 'Estuary internal' })
  await expect(mast.getByRole('listitem').filter({ hasText: 'Whimbrel' })).toContainText('does not hear it')
  await mast.getByLabel('If the module went to').fill('7.0.0')
  await mast.getByRole('button', { name: 'Which receivers are affected?' }).click()
  await expect(mast).toContainText('The module alone would orphan Dunlin')
  await expect(mast).toContainText('Everybody hears it.')
  await mast.getByLabel('If the module went to').fill('soon')
  await mast.getByRole('button', { name: 'Which receivers are affected?' }).click()
  await expect(mast.getByRole('alert')).toContainText('is no version')

  // A flight of Dunlin's, 15 dB short of what its parts promise; then a file that says nothing.
  await on(page, 'reach')
  const flight = page.getByRole('region', { name: 'A flight against it' })
  const fspl = (m: number) => 32.45 + 20 * Math.log10(2440) + 20 * Math.log10(m / 1000)
  const rows = Array.from({ length: 60 }, (_, i) => `${i},${30 + 15 * i},${(20 + 3.5 - fspl(30 + 15 * i) - 15).toFixed(1)}`)
  const file = (text: string) => ({ name: 'flight.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })
  await flight.getByLabel('Choose a track').setInputFiles(file(['time,distance,strength', ...rows].join('\n')))
  await expect(flight).toContainText('15 dB less than predicted')
  await flight.getByRole('button', { name: 'Save it' }).click()
  await expect(page.getByRole('heading', { name: /weaker|missing|less/i }).first()).toBeVisible()
  await flight.getByLabel('Choose a track').setInputFiles(file('time,height\n1,2\n'))
  await expect(flight.getByRole('alert')).toContainText('In line 1: Needs a column strength')

  // The facts of the link, made one's own and given back.
  await on(page, 'gear')
  const text = page.getByLabel('Facts of Tidewire')
  const shipped = await text.inputValue()
  await text.fill(shipped.replace('cycles: 4', 'cycles: many'))
  await expect(page.getByRole('region', { name: 'What the file says' }).getByRole('alert')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Save as my own' })).toBeDisabled()
  await text.fill(shipped.replace('cycles: 4', 'cycles: 6'))
  await expect(page.getByRole('region', { name: 'What the file says' })).toContainText('6 power cycles')
  await page.getByRole('button', { name: 'Save as my own' }).click()
  await expect(page.getByRole('navigation', { name: 'From the hand to the quad' })).toContainText('your own facts')
  await page.getByRole('button', { name: 'Back to what is shipped' }).click()
  await expect(page.getByRole('navigation', { name: 'From the hand to the quad' })).toContainText('facts as shipped')
})

test('an image for the receiver is judged before it goes on, noted, and what it changed is looked at again', async ({ page, request }) => {
  expect((await request.post('/api/bench/things', { data: { pack: true, radio: true } })).ok()).toBe(true)
  await on(page, 'fleet')
  await page.getByRole('button', { name: 'New firmware for it' }).click()
  const place = page.getByRole('region', { name: 'An image for receiver or module' })
  const give = (name: string, text: string) =>
    place.getByLabel('Choose an image for the receiver or the radio module').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
  const sound = { end: 'R', target: 'TW-DART', link: 'Tidewire', version: '6.2.1' } as const

  await give('letter.hex', 'dear receiver')
  await expect(place.getByRole('alert')).toContainText('Does not begin with a colon')
  await give('groyne.hex', linkImage({ ...sound, link: 'Groyne' }))
  await expect(place).toContainText('It is for Groyne; the receiver is Tidewire.')
  // Which hardware it is nobody has told yet: it is asked for, and only then it is said whether the image fits.
  await give('receiver.hex', linkImage(sound))
  await expect(place).toContainText('Say what hardware the receiver is')
  await expect(place.getByRole('button', { name: 'It is on: note it' })).toHaveCount(0)
  await place.getByRole('textbox', { name: 'Receiver, hardware, as images are made for it' }).fill('TW-DART')
  await place.getByRole('button', { name: 'Save' }).click()
  await expect(place).toContainText('It is for this receiver.')
  await expect(place.getByRole('list', { name: 'What follows from it' })).toContainText('It carries no phrase')
  await give('old.hex', linkImage({ ...sound, version: '5.9.2' }))
  await expect(place.getByRole('list', { name: 'What follows from it' })).toContainText('another major version does not hear this one')
  await give('receiver.hex', linkImage(sound))
  await place.getByRole('button', { name: 'Through the flight controller' }).click()
  await expect(place.getByRole('list', { name: 'Through the flight controller' })).toContainText('Propellers off, pack out, USB in')

  // Once it is on, what was known of it counts no more: it is read again, as another version.
  const ledger = page.getByRole('complementary', { name: 'Ledger' })
  const asked = ledger.locator('[data-ask="readings.link.receiver"]')
  await expect(asked).toHaveCount(0)
  expect((await request.post('/api/bench/receiver', { data: { version: '6.2.1' } })).ok()).toBe(true)
  await place.getByRole('button', { name: 'It is on: note it' }).click()
  await expect(place.getByRole('status')).toContainText('Noted.')
  await expect(asked).toBeVisible()
  await expect(ledger).toContainText('checks are needed again: new firmware in receiver or radio module came after the last one')
  await asked.getByRole('button', { name: 'Read from the bench' }).click()
  await expect(asked).toHaveCount(0)
  await expect(ledger.getByRole('list', { name: 'Readings' })).toContainText('6.2.1')
  await page.goto('/quads/1/book')
  await expect(page.getByRole('main')).toContainText('Tidewire 6.2.1 on the receiver')
})
