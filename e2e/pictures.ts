// The pictures that the README shows: Dunlin half way, as the demo world has it, and then flown.
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { choose } from './choose.ts'
import { expect, station, test } from './program.ts'

const folder = join(import.meta.dirname, '../docs/screenshots')
const shoot = (page: Page, name: string) => page.screenshot({ path: join(folder, `${name}.png`) })

const ends = (channel: number, low: number, centre: number, high: number) => ({ channel, ends: { low, centre, high }, reversed: false, jitter: 0.5 })

const halfway: [string, unknown][] = [
  ['sticks.axes.roll', ends(1, 1000, 1500, 2000)],
  ['sticks.axes.pitch', ends(2, 1001, 1500, 1999)],
  ['sticks.axes.throttle', ends(3, 1060, 1500, 1940)],
  ['sticks.axes.yaw', ends(4, 1060, 1501, 1941)],
  ['sticks.switches.left shoulder', { channel: 5, positions: { safe: 1000, armed: 1893 } }],
  ['sticks.switches.right shoulder', { channel: 6, positions: { acro: 1000, level: 2000 } }],
  ['sticks.switches.left face', { channel: 7, positions: { quiet: 1000, beeper: 2000 } }],
  ['motors.outputs.A', { corner: 'frontRight', spin: 'counterClockwise' }],
  ['motors.outputs.B', { corner: 'rearLeft', spin: 'clockwise' }],
  ['motors.outputs.D', { corner: 'rearRight', spin: 'clockwise' }],
  ['senses.level', { roll: 2.6, pitch: -1.4 }],
  ['senses.boardLies', { roll: 0, pitch: 0, yaw: 0 }],
  ['senses.gyroStill', 0.2],
  ['watch.boardVolts', 23.9],
  ['watch.meterVolts', 23.9],
  ['watch.heard', true],
  ['watch.route', 'sounder'],
]

test('pictures', async ({ page, request }) => {
  const post = async (path: string, data: unknown) => expect((await request.post(path, { data })).ok(), path).toBe(true)
  const type = (path: string, value: unknown) => post('/api/quads/1/type', { path: `readings.${path}`, value })
  await post('/api/bench/things', { pack: true, radio: true })
  for (const [path, value] of halfway) await type(path, value)
  for (const s of ['feel', 'power-watch']) await post('/api/quads/1/sign', { station: s, seen: '' })
  await post('/api/quads/1/take', { path: 'readings.firmware.backup' })
  await post('/api/quads/1/sign', { station: 'firmware', seen: '' })

  await page.goto('/')
  await expect(page.getByRole('article', { name: 'Dunlin' })).toBeVisible()
  await expect(page.getByRole('button', { name: /^Bench/ })).toContainText('pack in')
  await shoot(page, 'hangar')
  await page.getByRole('article', { name: 'Dunlin' }).getByRole('link', { name: 'Dunlin' }).click()
  for (const [name, file] of [
    ['Airframe', 'airframe'],
    ['Firmware', 'firmware'],
    ['Sticks', 'sticks'],
    ['Motors', 'motors'],
  ] as const) {
    await station(page, name)
    await expect(page.getByText('As a table').first()).toBeVisible() // the instrument is there
    if (file === 'airframe') {
      await page.getByRole('button', { name: 'Taken apart' }).click()
      await page
        .getByRole('button', { name: /^The camera: 52/ })
        .first()
        .click()
      await expect(page.getByRole('form', { name: 'The camera' })).toBeVisible()
    }
    await shoot(page, file)
  }
  await page.goto('/quads/1/sticks?at=map')
  await expect(page.getByRole('region', { name: 'left shoulder', exact: true })).toBeVisible()
  await shoot(page, 'switches')
  // A binding that is followed on the bench, and the questions of why, half way.
  await post('/api/quads/1/link/bind', { way: 'phrase' })
  await page.goto('/quads/1/link?at=bind')
  await expect(page.locator('ol > [aria-current=step]')).toContainText('Pack out')
  await shoot(page, 'link')
  await post('/api/bench/binding/leave', {})
  await station(page, 'Feel')
  const begins = page.getByRole('slider', { name: 'Roll: how it begins, °/s' })
  await begins.focus()
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowDown')
  await expect(page.getByText(/^Against the dashed one it is at most/)).toBeVisible()
  await shoot(page, 'feel')
  await page.getByRole('button', { name: 'Back to the settings' }).click()
  await page.goto('/quads/1/power-watch')
  await page.getByRole('button', { name: 'With punches' }).click()
  await page.getByRole('button', { name: /^Advised/ }).click()
  await expect(page.getByRole('region', { name: 'The flight', exact: true })).toContainText('Wanted are')
  await page.keyboard.press('d')
  await shoot(page, 'power-watch')
  await page.keyboard.press('d')
  await station(page, 'First power')
  await page.keyboard.press('b')
  await expect(page.getByRole('region', { name: 'Bench', exact: true })).toBeVisible()
  await shoot(page, 'bench')
  await page.keyboard.press('b')

  // With a throttle that comes down, the reversed motor shows what it does.
  await type('sticks.axes.throttle', ends(3, 1000, 1500, 2000))
  await page.goto('/quads/1/rehearsal?shows=spin')
  await page.getByRole('button', { name: 'Where it goes wrong' }).click()
  await shoot(page, 'rehearsal')

  await type('loss.output', 'silence')
  await type('loss.response', { motors: 'stopped', after: 1.24 })
  await type('loss.rearms', false)
  await post('/api/quads/3/type', { path: 'readings.firstFlight.wind', value: 6 })
  await page.goto('/quads/3/link-loss?at=map')
  await page.getByLabel('the wind comes from').fill('230')
  await expect(page.getByText('1000 losses by each policy')).toBeVisible()
  await page.getByRole('button', { name: 'descends' }).click()
  await shoot(page, 'link-loss')

  await post('/api/bench/things', { pack: false })
  for (const [corner, hand] of Object.entries({ frontLeft: 'clockwise', frontRight: 'counterClockwise', rearLeft: 'counterClockwise' }))
    await type(`firstFlight.propellers.${corner}`, { hand, packOut: true })
  await type('firstFlight.wind', 3)
  await type('firstFlight.gust', 5)
  await type('firstFlight.clear', 18)
  await page.goto('/quads/1/first-flight')
  await expect(page.getByRole('region', { name: 'The place' })).toContainText('18 m')
  await shoot(page, 'first-flight')

  await post('/api/quads/1/flights', {
    site: 'Gravel field',
    pack: 'grey',
    minutes: 3.5,
    drawn: 410,
    lowest: 22.1,
    notes: 'Hovered, yawed both ways, landed. Rear left bell a little warm.',
  })
  const version = async () => ((await (await request.get('/api/quads/1')).json()) as { version: number }).version
  await post('/api/quads/1/edit', { version: await version(), values: [{ path: 'sheet.motors.idle', value: '6 %' }] })
  await type('link.range', 92)
  await post('/api/quads/1/tag', { number: 2, tag: 'before the dunes' })
  await post('/api/quads/1/edit', { version: await version(), values: [{ path: 'sheet.loss.guard', value: '1.5 s' }] })
  await page.goto('/quads/1/card')
  await expect(page.getByRole('heading', { name: 'To stop it' })).toBeVisible()
  await shoot(page, 'card')
  await post('/api/quads/1/event', { event: 'remount', note: 'camera moved forward' })
  await page.goto('/quads/1/book')
  await expect(page.getByRole('region', { name: 'Flights' })).toContainText('Rear left bell')
  await shoot(page, 'book')

  // Whimbrel on its new board, with what the old one held to be carried over.
  await post('/api/bench/things', { usb: false, pack: false, radio: false })
  const put = async (quad: string, things: object) => {
    await post('/api/bench/place', { quad })
    await expect.poll(async () => ((await (await request.get('/api/bench')).json()) as { board: { quad: string } }).board.quad).toBe(quad)
    await expect.poll(async () => (await request.post('/api/bench/things', { data: things })).ok()).toBe(true)
  }
  await put('Whimbrel', { usb: true, pack: true })
  await post('/api/quads/3/take', { path: 'readings.firmware.identity' })
  for (const output of ['A', 'B', 'C', 'D']) await post('/api/quads/3/take', { path: `readings.firmware.speedControllers.${output}` })
  await page.goto('/quads/3/senses?at=heading')
  const headings = page.getByLabel(/^(direction|heading shown), °/)
  await expect(headings).toHaveCount(4)
  for (const [i, deg] of ['60', '151.5', '150', '238'].entries()) await headings.nth(i).fill(deg)
  await expect(page.getByRole('img', { name: /^A hold with it/ })).toBeVisible()
  await shoot(page, 'senses')
  await post('/api/quads/3/backups', { why: 'before it drowned' })
  await post('/api/bench/things', { usb: false, pack: false })
  await put('Whimbrel, new board', { usb: true })
  await post('/api/quads/3/bench/adopt', { seen: ((await (await request.get('/api/quads/3')).json()) as { seen: string }).seen })
  await post('/api/quads/3/take', { path: 'readings.firmware.identity' })
  const image = execFileSync(join(import.meta.dirname, '../build/perch'), [
    'demo',
    'image',
    '--target',
    'DOTTEREL7',
    '--line',
    'Spindrift',
    '--version',
    '9.0.2',
    '--size',
    '9000',
  ])
  await post('/api/quads/3/flash', { text: image.toString(), whole: true })
  await page.goto('/quads/3/firmware?at=carry')
  await page.getByRole('button', { name: /^Yours/ }).click()
  await expect(page.getByLabel('arm-when shall be')).toHaveValue('5 180 260')
  await shoot(page, 'carry-over')

  await page.goto('/quads/4/wiring')
  await page.getByRole('button', { name: 'Plan the wires' }).click()
  await expect(page.getByRole('region', { name: 'Plan' })).toContainText('devices move')
  await shoot(page, 'wiring')

  await page.goto('/quads/1/firmware?at=saved')
  await page.getByRole('button', { name: 'Bring a list in' }).click()
  await page.getByRole('textbox', { name: 'Settings list' }).fill(readFileSync(join(import.meta.dirname, '../core/firmware/testdata/sandbar.list'), 'utf8'))
  await page.getByRole('button', { name: 'Read it' }).click()
  await page.getByRole('button', { name: 'Describe it' }).click()
  await choose(page.getByLabel('Separator'), 'slashes')
  await page.getByRole('button', { name: /^Take the \d+ sure guesses/ }).click()
  await expect(page.getByText('Through your settings and back, every setting comes back as it went in.')).toBeVisible()
  await shoot(page, 'workshop')
})
