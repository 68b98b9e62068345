// Whimbrel, flashed elsewhere and read off: its way home judged, today's line kept, released to hover, and the map in the hand.
import type { APIRequestContext } from '@playwright/test'
import { expect, test } from './program.ts'

type Station = { id: string; maySign: boolean; asks: { path: string }[]; findings: { weight: string; rule: string; subject: string }[] }
type View = { version: number; seen: string; line: Station[] }

const corners = { A: 'rearRight', B: 'frontRight', C: 'rearLeft', D: 'frontLeft' } as const
const way = (corner: string) => (corner === 'frontLeft' || corner === 'rearRight' ? 'clockwise' : 'counterClockwise')

/** What its pilot reads off it, by the place it is asked at; what is not among them is answered with yes. */
const readOff: Record<string, unknown> = {
  'readings.firstPower.leadResistance': { atOnce: 150, after: 8100 },
  'readings.firstPower.frameResistance': 1900,
  'readings.firstPower.idleCurrent': 0.48,
  'readings.link.range': 97,
  'readings.link.module': { link: 'Tidewire', version: '6.2.1', band: '2.4 GHz' },
  'readings.link.receiver': { link: 'Tidewire', version: '6.1.0', band: '2.4 GHz' },
  'readings.motors.startsAt': 3.8,
  'readings.motors.layout': 'wideX',
  'readings.senses.level': { roll: 0.1, pitch: -0.2 },
  'readings.senses.boardLies': { roll: 0, pitch: 0, yaw: 0 },
  'readings.senses.gyroStill': 0.3,
  'readings.senses.compass': { field: 48.5, residual: 0.4, covered: 95 },
  'readings.senses.heading': { shown: 61, known: 60, turned: 90 },
  'readings.senses.headingAside': { shown: 152, known: 150, turned: 90 },
  'readings.senses.interference': { atHover: 0.4 },
  'readings.senses.satellites': { satellites: 13, dilution: 1 },
  'readings.senses.heights': { noise: 0.1, drift: 0.9, jump: 0.4 },
  'readings.watch.boardVolts': 16.2,
  'readings.watch.route': 'sounder',
  'readings.watch.meterVolts': 16.2,
  'readings.loss.output': 'silence',
  'readings.loss.response': { motors: 'rose' },
  'readings.loss.rearms': false,
  'readings.loss.obstacle': 37,
  'readings.picture.frequency': 5745,
  'readings.firstFlight.wind': 3,
  'readings.firstFlight.gust': 4.5,
  'readings.firstFlight.clear': 40,
  'readings.sticks.switches.left shoulder': { channel: 5, positions: { safe: 1000, armed: 2000 } },
  'readings.sticks.switches.right shoulder': { channel: 6, positions: { level: 1000, acro: 2000 } },
  'readings.sticks.switches.left face': { channel: 7, positions: { quiet: 1000, beeper: 2000 } },
  ...Object.fromEntries(
    ['roll', 'pitch', 'throttle', 'yaw'].map((axis, i) => [`readings.sticks.axes.${axis}`, { channel: i + 1, ends: { low: 1000, centre: 1500, high: 2000 } }]),
  ),
  ...Object.fromEntries(
    Object.entries(corners).flatMap(([output, corner]) => [
      [`readings.motors.outputs.${output}`, { corner, spin: way(corner) }],
      [`readings.firmware.speedControllers.${output}`, { layout: 'CW45', version: '3.1.0', switching: 24, replies: true }],
      [`readings.firstFlight.propellers.${corner}`, { hand: way(corner), packOut: true }],
    ]),
  ),
}

const at = '/api/quads/3'
const view = async (request: APIRequestContext) => (await (await request.get(at)).json()) as View
async function post(request: APIRequestContext, path: string, data: object) {
  const r = await request.post(at + path, { data })
  expect(r.ok(), `${path}: ${await r.text().then((t) => t.slice(0, 300))}`).toBe(true)
}
const edit = async (request: APIRequestContext, values: Record<string, unknown>) =>
  post(request, '/edit', { version: (await view(request)).version, values: Object.entries(values).map(([path, value]) => ({ path, value })) })

/** The board's list, brought in: flashed elsewhere, it tells its new version in its head, and holds what the settings say. */
async function brought(request: APIRequestContext) {
  const head = '# board: DOTTEREL7\n# line: Spindrift\n# version: 9.1.0\n# number: 0877\n'
  await post(request, '/list', { text: `${head}craft-name = Whimbrel\n` })
  const whole = await (await request.get(`${at}/list/whole`)).text()
  await post(request, '/list', { text: `${whole}level-found = 1\ncompass-found = 1\n` })
}

async function answered(request: APIRequestContext) {
  for (let round = 0; round < 2; round++) {
    const asks = new Set((await view(request)).line.flatMap((s) => s.asks.map((a) => a.path)))
    for (const path of asks) {
      if (!path.startsWith('readings.') || /identity|backup|rehearsal/.test(path)) continue
      await post(request, '/type', { path, value: path in readOff ? readOff[path] : true })
    }
  }
}

test('Whimbrel is released to hover, its way home judged, and the map printed on the card', async ({ page, request }) => {
  await edit(request, {
    'sheet.firmware.version': '9.1.0',
    'sheet.firmware.other': ['tone-arm = no'],
    'parts.receiver.version': '6.1.0',
    'sheet.senses.compassTurned': 90,
    'sheet.sticks.selfLevel.from': 900,
    'sheet.sticks.selfLevel.to': 1500,
    'sheet.loss.landThrottle': 51,
  })
  await brought(request)
  await answered(request)

  // Its way home: over masts of 37 m at a way of 40 it is nearly as high as what stands there; ten metres more are put in.
  await page.goto('/quads/3/link-loss')
  const low = page.getByRole('article').filter({ hasText: 'What stands in its way is nearly as high as its way' })
  await expect(low).toContainText('37 m high, its way is set to 40 m')
  await low.getByRole('button', { name: 'Come home at 47 m' }).click()
  await expect(low).toHaveCount(0)
  await brought(request)

  // Today's line, flown a thousand times without a radio in today's wind, and kept.
  await page.reload()
  await page.getByRole('button', { name: 'On the map' }).click()
  await page.getByLabel('the wind comes from').fill('230')
  const losses = page.getByRole('region', { name: 'Losses along the line' })
  await expect(losses).toContainText('1000 losses by each policy')
  await expect(losses).toContainText('On this line it should come home.')
  await expect(losses).toContainText('It gets home from all of the line with a fifth of its pack left.')
  await losses.getByRole('button', { name: 'Keep it as today' }).click()
  await expect(losses).toContainText('Kept: it is on the field card.')

  // What is left is a hard descent should it not know its place: accepted, with the reason. Then every station is signed.
  for (const s of (await view(request)).line)
    for (const f of s.findings) {
      expect(f.weight, `${s.id}: ${f.rule}`).not.toBe('stop')
      if (f.weight === 'fix') await post(request, '/accept', { rule: f.rule, subject: f.subject, reason: 'over the mudflats alone' })
    }
  await post(request, '/rehearsal', {})
  for (const s of (await view(request)).line) {
    const now = await view(request)
    expect(now.line.find((x) => x.id === s.id)?.maySign, s.id).toBe(true)
    await post(request, '/sign', { station: s.id, seen: now.seen })
  }
  await page.goto('/quads/3/first-flight')
  await page.getByPlaceholder('where you are').fill('gravel field')
  await page.getByRole('button', { name: 'Release for hover in sight' }).click()
  await expect(page.getByText('Released for hover in sight at gravel field')).toBeVisible()

  await page.getByRole('link', { name: 'Card' }).click()
  await expect(page.getByRole('region', { name: 'May it fly' })).toContainText('Hover in sight at gravel field, until midnight')
  const today = page.getByRole('region', { name: "Today's line" })
  await expect(today.getByRole('img', { name: /along the tideline from above/ })).toBeVisible()
  await expect(today).toContainText('30 m up at 7 m/s, the wind from 230° at 3 m/s. Lost, it comes home.')
  await expect(today).not.toContainText('has changed since')
  await expect(page.getByRole('region', { name: 'When the radio goes quiet' })).toContainText('climb to 47 m, come home at 5 m/s, land')
})
