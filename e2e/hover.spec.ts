// The whole line once: Dunlin from the hangar to a flight in the book.
import type { Locator, Page } from '@playwright/test'
import { expect, perch, station, test } from './program.ts'

const ledger = (page: Page) => page.getByRole('complementary', { name: 'Ledger' })
const bench = (page: Page) => page.getByRole('region', { name: 'Bench' })

/** Holds a control until something is so, then lets go. */
async function hold(page: Page, control: Locator, until: () => Promise<void>) {
  await expect(control).toBeEnabled()
  await control.focus()
  let waiting = true
  const done = until().finally(() => {
    waiting = false
  })
  // On a busy machine a renewal may come too late; the page then asks to hold again, and so does the pilot.
  const again = async () => {
    while (waiting) {
      await page.keyboard.down(' ')
      await Promise.race([done, control.and(page.locator('[data-held=false]')).waitFor({ timeout: 0 })]).catch(() => undefined)
      await page.keyboard.up(' ')
    }
  }
  await Promise.all([done, again()])
}

/** Opens the bench, does something there, and closes it again. */
async function atBench(page: Page, act: (b: Locator) => Promise<void>) {
  await page.keyboard.press('b')
  await act(bench(page))
  await page.keyboard.press('b')
  await expect(bench(page)).toBeHidden()
}

async function sign(page: Page, name: string) {
  const button = page.getByRole('button', { name: /^Sign/ })
  await expect(button).toBeEnabled()
  await button.click()
  await expect(perch(page, name)).toHaveAttribute('aria-label', /proven$/)
}

async function read(page: Page, label: string) {
  const ask = ledger(page).locator('.ask', { hasText: label })
  await ask.getByRole('button', { name: 'Read from the bench' }).click()
  await expect(ask).toBeHidden({ timeout: 15_000 })
}

async function type(page: Page, label: string, text: string) {
  const ask = ledger(page).locator('.ask', { hasText: label })
  await ask.getByRole('button', { name: 'Type it' }).click()
  if (text === 'Yes' || text === 'No') {
    await ask.getByRole('button', { name: text, exact: true }).click()
  } else {
    await ask.getByRole('textbox').fill(text)
    await page.keyboard.press('Enter')
  }
  await expect(ask).toBeHidden()
}

const taken = (page: Page, label: string) => ledger(page).getByRole('list', { name: 'Readings' }).getByRole('listitem').filter({ hasText: label })

const finding = (page: Page, title: string | RegExp) =>
  ledger(page)
    .getByRole('article')
    .filter({ has: page.getByRole('heading', { name: title }) })

test('Dunlin goes from the hangar to a flight in the book', async ({ page }) => {
  await test.step('the hangar says where it stands', async () => {
    await page.goto('/')
    const dunlin = page.getByRole('article', { name: 'Dunlin' })
    await expect(dunlin).toContainText('5 of 14 stations proven')
    await dunlin.getByRole('link', { name: 'Sticks' }).click()
    await expect(page.getByRole('heading', { name: 'Does it hear what my hands and switches mean?' })).toBeVisible()
    await atBench(page, async (b) => {
      await b.getByRole('button', { name: 'Pack out' }).click()
      await b.getByRole('button', { name: 'Radio off' }).click()
      await expect(b.getByRole('button', { name: 'Pack in' })).toBeVisible()
    })
  })

  await test.step('Sticks: short ends and an arm switch on the edge are found and mended', async () => {
    const inst = page.getByRole('region', { name: 'Instrument' })
    for (const axis of ['roll', 'pitch', 'throttle', 'yaw']) {
      await inst.getByRole('button', { name: `Capture ${axis}`, exact: true }).click()
      await expect(inst.getByRole('button', { name: `Capture ${axis} again` })).toBeEnabled()
    }
    for (const name of ['left shoulder', 'right shoulder', 'left face']) {
      await inst.getByRole('button', { name: `Capture ${name}` }).click()
      await expect(inst.getByRole('region', { name: `${name} switch` }).getByRole('button', { name: 'Capture again' })).toBeEnabled()
    }
    await expect(finding(page, 'Throttle and yaw do not reach their ends')).toBeVisible()
    await expect(finding(page, 'Armed is only just decided')).toContainText('8 µs from the range')
    await atBench(page, async (b) => {
      await b.getByRole('button', { name: 'Set 100 %' }).click()
      await expect(b).toContainText('Stick travel 100 %')
    })
    for (const axis of ['throttle', 'yaw']) {
      await inst.getByRole('button', { name: `Capture ${axis} again` }).click()
      await expect(finding(page, new RegExp(`${axis}.* do(es)? not reach`, 'i'))).toBeHidden()
    }
    await page.getByRole('button', { name: /^Put the range at/ }).click()
    await finding(page, /The board does not hold what the sheet says/)
      .getByRole('button', { name: 'Write the sheet to the board' })
      .click()
    await expect(finding(page, /The board does not hold/)).toBeHidden()
    await expect(inst.getByRole('region', { name: 'Why it will not arm' })).toContainText('The arm switch is not inside its range')
    await sign(page, 'Sticks')
  })

  await test.step('Motors: output B turns the wrong way; what would happen is shown, then mended', async () => {
    await station(page, 'Motors')
    for (const output of ['A', 'B', 'C', 'D']) {
      await hold(page, page.getByRole('button', { name: `Hold to spin ${output}` }), () => expect(taken(page, `Output ${output}`)).toBeVisible())
      await expect(page.getByText('turning', { exact: true })).toBeHidden()
    }
    const against = finding(page, 'Rear left turns clockwise, your layout wants counter-clockwise')
    await expect(against).toContainText('The quad tips over to the rear left before it lifts')
    await against.getByRole('button', { name: 'Watch it fly' }).click()
    await expect(page.getByRole('region', { name: 'Dunlin as it is' })).toContainText('tips over')
    await expect(page.getByRole('region', { name: 'As corrected' })).toContainText('lands on its feet')
    await page.goBack()
    await against.getByRole('button', { name: 'Reverse output B in its speed controller' }).click()
    await page.getByRole('button', { name: 'Write the sheet to the board' }).click()
    await expect(finding(page, /The board does not hold/)).toBeHidden()
    await hold(page, page.getByRole('button', { name: 'Hold to spin B' }), () => expect(taken(page, 'Output B')).toContainText('rear left, counter-clockwise'))
    await expect(against).toBeHidden()
    await page.getByRole('button', { name: 'Where it starts' }).click()
    for (const output of ['A', 'B', 'C', 'D']) {
      await hold(page, page.getByRole('button', { name: `Hold to raise ${output}` }), () =>
        expect(page.getByRole('button', { name: new RegExp(`^${output} starts at`) })).toBeVisible(),
      )
      await expect(page.getByText('turning', { exact: true })).toBeHidden()
    }
    await page.getByRole('button', { name: 'Look at rest' }).click()
    await sign(page, 'Motors')
  })

  await test.step('Senses: level is off by some degrees, is taken again on the plate', async () => {
    await station(page, 'Senses')
    for (const label of ['Roll shown on the level plate', 'Pitch shown on the level plate', 'Rotation shown at rest']) await read(page, label)
    await expect(finding(page, 'Level is not level')).toContainText('of drift')
    await atBench(page, (b) => b.getByRole('button', { name: 'Take this for level' }).click())
    for (const label of ['Roll shown on the level plate', 'Pitch shown on the level plate']) {
      await ledger(page)
        .getByRole('button', { name: new RegExp(`^${label}: .* Take again`) })
        .click()
      const row = taken(page, label)
      await row.getByRole('button', { name: 'Read again' }).click()
      await expect(row).toContainText(/ 0 deg/)
    }
    await sign(page, 'Senses')
  })

  await test.step('Feel and Power watch', async () => {
    await station(page, 'Feel')
    await sign(page, 'Feel')
    await station(page, 'Power watch')
    for (const label of ['Pack voltage the board shows', 'Pack voltage by meter', 'The alarm was heard']) await read(page, label)
    await sign(page, 'Power watch')
  })

  await test.step('Link loss: the receiver hides the loss; measured again once it falls silent', async () => {
    await station(page, 'Link loss')
    const arm = page.getByRole('button', { name: /^(Hold: arm, then lose the radio|Measuring)/ })
    await hold(page, arm, () => expect(finding(page, /The receiver hides a loss/)).toBeVisible({ timeout: 15_000 }))
    await expect(finding(page, 'The motors went on after the radio was off')).toBeVisible()
    await atBench(page, async (b) => {
      await b.getByRole('button', { name: 'silence' }).click()
      await expect(b.getByRole('button', { name: 'silence' })).toHaveAttribute('aria-pressed', 'true')
    })
    await hold(page, arm, () => expect(finding(page, /The receiver hides a loss/)).toBeHidden({ timeout: 15_000 }))
    await expect(taken(page, 'Radio off to motors stopped')).toContainText(/1\.\d+ s/)
    await expect(taken(page, 'It arms by itself')).toContainText('no')
    await sign(page, 'Link loss')
  })

  await test.step('Picture and Bench proof', async () => {
    await station(page, 'Picture')
    await type(page, 'A clear picture in the goggles', 'Yes')
    await read(page, 'Frequency set on the unit')
    await sign(page, 'Picture')
    await station(page, 'Bench proof')
    await hold(page, page.getByRole('button', { name: /^(Hold: arm with throttle up|Measuring)/ }), () =>
      expect(taken(page, 'Raised throttle refuses to arm')).toBeVisible(),
    )
    await type(page, 'Turning the frame is answered against', 'Yes')
    await type(page, 'The yaw stick twists the frame its own way', 'Yes')
    await sign(page, 'Bench proof')
  })

  await test.step('First flight: propellers, place, rehearsal, release', async () => {
    await station(page, 'First flight')
    await page.keyboard.press('F9')
    await expect(page.getByRole('button', { name: /^Bench/ })).toContainText('no power')
    for (const [corner, hand] of [
      ['Front left', 'clockwise'],
      ['Front right', 'counter-clockwise'],
      ['Rear left', 'counter-clockwise'],
      ['Rear right', 'clockwise'],
    ]) {
      await page.getByRole('button', { name: `${corner}: ${hand} propeller fitted` }).click()
      await expect(page.getByRole('button', { name: `${corner}: ${hand} propeller fitted` })).toHaveAttribute('aria-pressed', 'true')
    }
    await page.getByRole('button', { name: 'Release for hover in sight' }).click()
    await expect(page.getByRole('alert')).toContainText('Not released')
    await page.getByRole('button', { name: 'Dismiss' }).click()
    await type(page, 'Wind at the site', '3 m/s')
    await type(page, 'Strongest gust', '18 km/h')
    await type(page, 'Clear radius', '30')
    await type(page, 'Local rules allow it', 'Yes')
    await page.getByRole('button', { name: 'Rehearse the hover' }).click()
    await expect(page.getByRole('region', { name: 'Go or not' })).toContainText('It lifts, holds 1.0 m')
    await sign(page, 'First flight')
    await page.getByRole('button', { name: 'Release for hover in sight' }).click()
    await expect(page.getByRole('region', { name: 'Go or not' })).toContainText('Released for hover in sight at Gravel field')
  })

  await test.step('the flight is noted in the book, and is there after a reload', async () => {
    await page.getByRole('button', { name: 'Note the flight' }).click()
    const form = page.getByRole('form', { name: 'Note a flight' })
    await form.getByLabel('Minutes').fill('3.5')
    await form.getByLabel('Drawn, mAh').fill('410')
    await form.getByLabel('Lowest, V').fill('22.1')
    await form.getByLabel('What happened').fill('Hovered, yawed both ways, landed. Rear left bell a little warm.')
    await form.getByRole('button', { name: 'Keep it' }).click()
    await expect(form.getByRole('status')).toHaveText('Kept.')
    await page.reload()
    const flights = page.getByRole('region', { name: 'Flights' })
    await expect(flights).toContainText('Rear left bell a little warm')
    await expect(flights).toContainText('Released: hover')
    await page.getByRole('link', { name: 'Hangar' }).click()
    await expect(page.getByRole('article', { name: 'Dunlin' })).toContainText('Released')
  })
})
