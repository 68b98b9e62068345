// Whimbrel's board was drowned. A new one of the same kind gets the next major version, with the cable pulled half-way; then
// what the old board held is carried over, setting by setting, and nothing that was measured on the old one comes along.
import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { choose } from './choose.ts'
import { expect, refusal, station, test } from './program.ts'

const perchProgram = join(import.meta.dirname, '../build/perch')

test('Whimbrel goes over a major version on a new board', async ({ page }, info) => {
  const image = info.outputPath('spindrift.hex')
  writeFileSync(
    image,
    execFileSync(perchProgram, ['demo', 'image', '--target', 'DOTTEREL7', '--line', 'Spindrift', '--version', '9.0.2', '--size', '700000'], {
      maxBuffer: 8 << 20,
    }),
  )

  const bench = page.getByRole('region', { name: 'Bench', exact: true })
  const put = async (quad: string) => {
    await choose(bench.getByLabel('On the bench'), quad)
    await expect(bench.getByRole('heading', { name: `${quad}'s bench, simulated` })).toBeVisible()
  }
  await page.goto('/')
  await page.getByRole('article', { name: 'Whimbrel' }).getByRole('link', { name: 'Whimbrel' }).click()
  await station(page, 'Firmware')
  const way = page.getByRole('navigation', { name: 'The way of the settings' })

  await page.keyboard.press('b')
  await put('Whimbrel')
  await page.getByRole('button', { name: 'USB out', exact: true }).click()
  await page.getByRole('button', { name: 'Pack out', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Pack in', exact: true })).toBeVisible()
  await page.keyboard.press('b')
  await page.getByRole('button', { name: 'Identify and read back' }).click()
  await expect(page.getByRole('list', { name: 'Readings' })).toContainText('number 0877') // asked, and answered
  await expect(way.getByRole('button', { name: /^write/ })).toContainText('nothing differs')
  await expect(page.getByRole('heading', { name: 'The firmware has expired' })).toBeVisible()
  await page.getByRole('button', { name: 'Ask all of them' }).click()
  await expect(page.getByRole('heading', { name: 'The speed controllers have firmware of unlike versions' })).toBeVisible()
  await page.getByLabel('Words for what is saved').fill('before it drowned')
  await page.getByRole('button', { name: 'Save what is on it' }).click()
  await expect(way.getByRole('button', { name: /^Saved lists/ })).toContainText('1 saved')

  // The new board, on USB alone.
  await page.keyboard.press('b')
  await page.getByRole('button', { name: 'USB in', exact: true }).click()
  await page.getByRole('button', { name: 'Pack in', exact: true }).click()
  await expect(bench.getByLabel('On the bench')).toBeEnabled()
  await put('Whimbrel, new board')
  await page.getByRole('button', { name: 'USB out', exact: true }).click()
  await expect(page.getByRole('button', { name: 'USB in', exact: true })).toBeVisible()
  await page.keyboard.press('b')
  await page.getByRole('button', { name: 'Its board was replaced' }).click()
  await page.getByRole('button', { name: 'It was replaced by this one' }).click()
  await expect(page.getByRole('region', { name: 'Another quad on the bench' })).toBeHidden()
  await page.getByRole('button', { name: 'Identify and read back' }).click()
  await expect(page.getByRole('img', { name: /Version: board 8\.4\.1/ })).toBeVisible()
  await expect(page.getByText('the board says, number 1203')).toBeVisible()

  await way.getByRole('button', { name: /^flash/ }).click()
  await page.getByLabel('Choose an Intel HEX image').setInputFiles(image)
  await expect(page.getByRole('radio', { name: 'Erase them too' })).toBeChecked()
  await expect(page.getByRole('region', { name: 'Firmware image' })).toContainText('It arms until 2031-02-28')
  // Whoever watches the bar pulls the cable when it is past a third.
  await page.evaluate(() => {
    const watch = () => {
      const percent = Number(document.querySelector('[role=progressbar][aria-label=Flash]')?.getAttribute('aria-valuenow'))
      if (percent > 35 && percent < 90)
        void fetch('/api/bench/things', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ usb: false }) })
      else requestAnimationFrame(watch)
    }
    watch()
  })
  await page.getByRole('button', { name: 'Flash the board' }).click()
  const flash = page.getByRole('region', { name: 'Flash', exact: true })
  await expect(flash.getByRole('status')).toContainText('the USB cable is out. Your settings are saved.')
  await page.keyboard.press('Escape') // the message that came along
  await page.keyboard.press('b')
  await page.getByRole('button', { name: 'USB out', exact: true }).click()
  await page.keyboard.press('b')
  await expect(way.getByRole('button', { name: /^Board/ })).toContainText('in its bootloader')
  await page.getByRole('button', { name: 'Flash again' }).click()
  await expect(flash.getByRole('status')).toContainText('Written, verified and identified')
  await expect(way.getByRole('button', { name: /^Board/ })).toContainText('Spindrift 9.0.2')

  // The review: what he must look at first.
  await way.getByRole('button', { name: /^carry over/ }).click()
  const review = page.getByRole('region', { name: 'Carry over' })
  await expect(review).toContainText('a major step, another board')
  await expect(review.getByRole('button', { name: 'To decide 1/1' })).toHaveAttribute('aria-pressed', 'true')
  const take = review.getByRole('button', { name: 'Apply to settings' })
  await expect(take).toBeDisabled()
  await review
    .getByRole('row', { name: /when-fixed-arm/ })
    .getByRole('button', { name: 'Noted' })
    .click()
  await expect(review).toContainText('Everything is decided.')
  await review.getByRole('button', { name: /^Measured/ }).click()
  await expect(review.getByRole('row', { name: /compass-zero/ })).toContainText('Another board: the compass is measured anew.')
  await expect(review.getByLabel('compass-zero shall be')).toHaveValue('0 0 0')
  await review.getByRole('button', { name: /^Yours/ }).click()
  await expect(review.getByLabel('arm-when shall be')).toHaveValue('5 180 260')
  const lean = review.getByLabel('lean-most-deg shall be')
  await expect(lean).toHaveValue('33')
  await lean.fill('350')
  await lean.press('Enter')
  await expect(review.getByRole('alert')).toContainText('must lie in 10 to 80')
  await lean.fill('35')
  await lean.press('Enter')
  await expect(review.getByRole('row', { name: /lean-most-deg/ }).getByRole('button', { name: 'back' })).toBeVisible()
  await take.click()
  await expect(review).toContainText('Your settings say all of this.')

  // Onto the board, read back, compared.
  await way.getByRole('button', { name: /^write/ }).click()
  const rows = page.getByRole('region', { name: 'What must be written' })
  await expect(rows.getByRole('row', { name: /^arm-when/ })).toContainText('5 180 260')
  for (const measured of ['compass-zero', 'level-roll-cd', 'gyro-zero', 'amp-gain']) await expect(rows.getByRole('row', { name: measured })).toHaveCount(0)
  // On USB alone the speed controllers do not answer: which way they turn cannot be written.
  const write = rows.getByRole('button', { name: 'Write your settings to the board' })
  await write.click()
  await expect(refusal(page).filter({ hasText: 'the speed controllers answer only while the pack is in' })).toBeVisible()
  await page.keyboard.press('b')
  await page.getByRole('button', { name: 'Pack out', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Pack in', exact: true })).toBeVisible()
  await page.keyboard.press('b')
  await write.click()
  await expect(way.getByRole('button', { name: /^write/ })).toContainText('nothing differs')
  await expect(page.getByRole('heading', { name: 'Not measured on this board: the compass and level' })).toBeVisible()
  await expect(page.getByRole('heading', { name: /measured on another one/ })).toHaveCount(0)
})
