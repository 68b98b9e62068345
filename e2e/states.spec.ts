// What the page shows when there is nothing, when it takes long, when it fails, and when something is gone.
import { renameSync } from 'node:fs'
import { join } from 'node:path'
import { expect, LoneBench, Program, test } from './program.ts'

test('an empty hangar says how to begin', async ({ page }) => {
  const empty = new Program(['--no-demo', '--bench', 'none'])
  await empty.start()
  try {
    const other = await page.context().newPage()
    await other.goto(`${empty.address}/hangar`)
    await expect(other.getByText('No quad is here yet')).toBeVisible()
    await other.getByRole('button', { name: 'Begin a quad' }).click()
    await other.getByRole('dialog').getByLabel('Name').fill('Knot')
    await other.getByRole('button', { name: 'Begin it' }).click()
    await expect(other.getByRole('heading', { name: 'What is on it, and do the parts suit each other?' })).toBeVisible()
    await other.keyboard.press('b')
    await expect(other.getByRole('region', { name: 'Bench', exact: true })).toContainText('bench')
  } finally {
    await empty.end()
  }
})

test('slow, failed and back again', async ({ page, program, errors }) => {
  await page.goto('/')
  await expect(page.getByRole('article', { name: 'Dunlin' })).toBeVisible()
  process.kill(program.databasePid, 'SIGSTOP')
  await page.reload({ waitUntil: 'commit' })
  await expect(page.getByText('Opening the hangar…')).toBeVisible()
  process.kill(program.databasePid, 'SIGCONT')
  await expect(page.getByRole('article', { name: 'Dunlin' })).toBeVisible()

  // With its folder away the database cannot come back.
  const data = join(program.folder, 'mariadb')
  renameSync(data, `${data}.away`)
  process.kill(program.databasePid, 'SIGKILL')
  await page.reload()
  await expect(page.getByRole('heading', { name: 'The hangar cannot be opened' })).toBeVisible()
  await expect(page.getByText('The database does not answer just now').first()).toBeVisible()
  await page.goto('/quads/1/motors')
  await expect(page.getByRole('heading', { name: 'This quad cannot be shown' })).toBeVisible()
  renameSync(`${data}.away`, data)
  await expect(async () => {
    await page.getByRole('button', { name: 'Try again' }).click()
    await expect(page.getByRole('heading', { name: 'Does every corner push the right way?' })).toBeVisible({ timeout: 2000 })
  }).toPass({ timeout: 30_000 })
  // The browser notes every refused request by itself; here they were meant to be refused.
  errors.splice(0, errors.length, ...errors.filter((e) => !/status of 503/.test(e)))
})

test('figures that stand still are called old', async ({ page, program }) => {
  await page.goto('/quads/1/motors')
  const chip = page.getByRole('button', { name: /^Bench/ })
  await expect(chip).toContainText('props')
  process.kill(program.pid, 'SIGSTOP')
  try {
    await expect(chip).toContainText('old figures')
  } finally {
    process.kill(program.pid, 'SIGCONT')
  }
  await expect(chip).not.toContainText('old figures')
})

test('a device that goes is missed, and found again', async ({ page }) => {
  const bench = new LoneBench()
  await bench.start()
  const program = new Program(['--bench', bench.address, '--token', bench.token])
  await program.start()
  try {
    const other = await page.context().newPage()
    await other.goto(`${program.address}/quads/1/motors`)
    const chip = other.getByRole('button', { name: /^Bench/ })
    await expect(chip).toContainText('no power')
    await bench.kill()
    await expect(chip).not.toContainText('no power')
    await expect(other.getByText('No bench is connected: type what you saw.')).toBeVisible()
    await expect(other.getByRole('button', { name: 'Hold to spin A' })).toBeDisabled()
    await bench.start()
    await expect(chip).toContainText('no power', { timeout: 30_000 })
  } finally {
    await program.end()
    await bench.kill()
  }
})
