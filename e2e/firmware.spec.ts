// Firmware on the bench: a damaged image is named, a good one is written with progress, and what was set is still there.
import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, perch, station, test } from './program.ts'

const perchProgram = join(import.meta.dirname, '../build/perch')

test('an image is checked, flashed and identified, and the settings survive', async ({ page }, info) => {
  const image = execFileSync(perchProgram, ['demo', 'image', '--size', '60000']).toString()
  const good = info.outputPath('good.hex')
  writeFileSync(good, image)
  const lines = image.split('\n')
  const fifth = lines[4] ?? ''
  lines[4] = `${fifth.slice(0, 12)}${fifth[12] === '0' ? '1' : '0'}${fifth.slice(13)}`
  const flipped = info.outputPath('flipped.hex')
  writeFileSync(flipped, lines.join('\n'))
  const other = info.outputPath('other.hex')
  writeFileSync(other, execFileSync(perchProgram, ['demo', 'image', '--target', 'OLDPIER']))
  const huge = info.outputPath('huge.hex')
  writeFileSync(huge, Buffer.alloc(50 << 20, ':'))

  await page.goto('/')
  await page.getByRole('article', { name: 'Dunlin' }).getByRole('link', { name: 'Dunlin' }).click()
  await station(page, 'Firmware')
  await page.keyboard.press('b')
  await page.getByRole('button', { name: 'USB out' }).click()
  await expect(page.getByRole('button', { name: 'USB in' })).toBeVisible()
  await page.keyboard.press('b')

  const way = page.getByRole('navigation', { name: 'The way of the settings' })
  await way.getByRole('button', { name: /^flash/ }).click()
  const panel = page.getByRole('region', { name: 'Firmware image' })
  const choose = panel.getByLabel('Choose an Intel HEX image')
  const flash = page.getByRole('button', { name: 'Flash the board' })
  await choose.setInputFiles(huge)
  await expect(panel.getByRole('alert')).toContainText('an image is at most 2 MB')
  await choose.setInputFiles(flipped)
  await expect(panel.getByRole('alert')).toContainText('line 5: ')
  await expect(flash).toBeDisabled()
  await choose.setInputFiles(other)
  await expect(panel).toContainText('built for OLDPIER, the board is HARRIER4; it must not be written')
  await expect(flash).toBeDisabled()

  await choose.setInputFiles(good)
  await expect(panel).toContainText('The image is whole and fits the board')
  await expect(page.getByRole('radio', { name: 'Keep them' })).toBeChecked()
  await flash.click()
  await expect(page.getByRole('region', { name: 'Flash', exact: true }).getByRole('status')).toContainText('Written, verified and identified', {
    timeout: 60_000,
  })
  await expect(perch(page, 'Firmware')).not.toHaveAttribute('aria-label', /proven$/)
  await expect(way.getByRole('button', { name: /^write/ })).toContainText('nothing differs')
  await way.getByRole('button', { name: /^Board/ }).click()
  await page.getByLabel('Words for what is saved').fill('as it flew')
  await page.getByRole('button', { name: 'Save what is on it' }).click()
  await expect(way.getByRole('button', { name: /^Saved lists/ })).toContainText('2 saved')
  await way.getByRole('button', { name: /^Saved lists/ }).click()
  await page.getByRole('button', { name: /^as it flew/ }).click()
  await expect(page.getByRole('textbox', { name: /changed only$/ })).toHaveValue(/gate\.arm = 5:177:220/)
  // Saved anew, and everything as it was signed: the proof stands again.
  await expect(perch(page, 'Firmware')).toHaveAttribute('aria-label', /proven$/)
})
