// The level plate: a bench that leans is told from a board that does, and made level with what is at hand.
import type { APIRequestContext, Page } from '@playwright/test'
import { expect, test } from './program.ts'

test('a bench that leans is made level with shims, and the board’s own error is kept', async ({ page }) => {
  await page.goto('/quads/1/senses')
  await page.getByRole('button', { name: 'Level plate' }).click()
  const seen = page.getByRole('region', { name: 'What was seen on the plate' })
  const plate = page.getByRole('region', { name: 'The plate made level' })
  const type = async (when: string, roll: string, pitch: string) => {
    await seen.getByRole('group', { name: when }).getByLabel('roll').fill(roll)
    await seen.getByRole('group', { name: when }).getByLabel('pitch').fill(pitch)
  }
  await type('as it stands', '1.4', '−0,9')
  await expect(seen).toContainText('With all of them told')
  await type('turned half round', '-0.8', '0.3')
  await expect(plate.getByRole('img', { name: /^Seen from behind: the bench leans by 1\.10°; 2 mm \+ 2 mm \+ 1 mm under the right/ })).toBeVisible()
  await expect(
    plate.getByRole('img', { name: /^Seen from its left: the bench leans by −0\.60°; 2 mm \+ 0\.1 mm under the front, which leaves 0\.00°/ }),
  ).toBeVisible()
  await expect(seen).toContainText('The board itself is off by roll 0.30°, pitch −0.30°')

  // Other shims, another stack; a thickness that is none, and a fall instead of a bench, are said, and nothing typed is lost.
  await seen.getByLabel('shims, mm').fill('4.8')
  await expect(plate.getByRole('img', { name: /^Seen from behind: .*; 4\.8 mm under the right, which leaves 0\.00°/ })).toBeVisible()
  await seen.getByLabel('shims, mm').fill('0')
  await expect(seen.getByRole('alert')).toContainText('A shim is up to 100 mm thick')
  await seen.getByLabel('shims, mm').fill('1')
  await type('as it stands', '80', '0')
  await expect(seen.getByRole('alert')).toContainText('no plate but a fall')
  await type('as it stands', '1.4', '-0.9')
  await seen.getByRole('button', { name: 'Keep it as the level reading' }).click()
  const readings = page.getByRole('complementary', { name: 'Ledger' }).getByRole('list', { name: 'Readings' })
  await expect(readings).toContainText('roll 0.3°, pitch -0.3°')
  await expect(readings).toContainText('typed')
})

test('what the board on the bench shows is taken over by a press', async ({ page, request }) => {
  expect((await request.post('/api/bench/things', { data: { usb: true } })).ok()).toBe(true)
  await page.goto('/quads/1/senses?at=plate')
  const shown = (when: string) => page.getByRole('group', { name: when })
  await shown('as it stands').getByRole('button', { name: 'As the board shows it' }).click()
  await expect(shown('as it stands').getByLabel('roll')).not.toHaveValue('')
  await shown('turned half round').getByRole('button', { name: 'As the board shows it' }).click()
  await expect(page.getByRole('region', { name: 'What was seen on the plate' })).toContainText('The board itself is off by')
  await seenLevel(page)
})

test('Godwit’s plate is made level on a bench that leans, and its accelerometer laid on six faces', async ({ page, request }) => {
  const post = (path: string, data: object) => request.post(path, { data })
  await post('/api/bench/place', { quad: 'Godwit' })
  await expect.poll(async () => ((await (await request.get('/api/bench')).json()) as { board?: { quad: string } }).board?.quad).toBe('Godwit')
  await expect.poll(async () => (await post('/api/bench/things', { usb: true })).ok()).toBe(true)
  await page.goto('/quads/4/senses?at=plate')
  const seen = page.getByRole('region', { name: 'What was seen on the plate' })
  const look = async (when: string) => {
    const group = seen.getByRole('group', { name: when })
    await group.getByRole('button', { name: 'As the board shows it' }).click()
    const shown = Number((await group.getByLabel('roll').inputValue()).replace('−', '-'))
    await seen.getByRole('button', { name: 'Have the hand turn it half round' }).click()
    // The hand has turned it once the board shows something else.
    await expect
      .poll(async () => {
        await group.getByRole('button', { name: 'As the board shows it' }).click()
        const now = await group.getByLabel('roll').inputValue()
        await group.getByLabel('roll').fill(String(shown))
        return Math.abs(Number(now.replace('−', '-')) - shown)
      })
      .toBeGreaterThan(1)
  }
  const pitch = async () => Number((await seen.getByRole('group', { name: 'as it stands' }).getByLabel('pitch').inputValue()).replace('−', '-'))
  await seen.getByRole('group', { name: 'as it stands' }).getByRole('button', { name: 'As the board shows it' }).click()
  const before = await pitch()
  await look('as it stands')
  await seen.getByRole('group', { name: 'as it stands' }).getByLabel('pitch').fill(String(before))
  await look('turned half round')
  const plate = page.getByRole('region', { name: 'The plate made level' })
  await expect(plate.getByRole('img', { name: /^Seen from behind: the bench leans by 1\.\d\d°; .* under the right/ })).toBeVisible()

  // Its family wants six faces: the board takes in what they tell, and the second time there is little left of it.
  await expect(page.getByRole('complementary', { name: 'Ledger' })).toContainText('Accelerometer on its six faces')
  await page.getByRole('button', { name: 'Six faces' }).click()
  const laid = page.getByRole('region', { name: 'The accelerometer on its six faces' })
  await laid.getByRole('button', { name: 'Lay it down, and look' }).click()
  await expect(laid).toContainText('and leave it for two seconds')
  await expect(laid).toContainText(/It is off by 0\.3\d+ m\/s²/, { timeout: 40_000 })
  await expect(page.getByRole('img', { name: /on its feet: seen, on its back: seen, on its nose: seen/ })).toBeVisible()
  await laid.getByRole('button', { name: 'Stop' }).click()
  await expect.poll(async () => ((await (await request.get('/api/bench')).json()) as { connected: boolean }).connected).toBe(true)
  await laid.getByRole('button', { name: 'Begin anew' }).click()
  await expect(laid).toContainText(/It is off by 0\.0\d+ m\/s²/, { timeout: 40_000 })
  await laid.getByRole('button', { name: 'Keep it as the reading of its faces' }).click()
  await expect(page.getByRole('complementary', { name: 'Ledger' }).getByRole('list', { name: 'Readings' })).toContainText(/off by 0\.0\d+ m\/s²/)
})

/** Nothing was turned here: the bench is told as level. */
async function seenLevel(page: Page) {
  await expect(page.getByRole('img', { name: /^Seen from behind: the bench leans by 0\.00°; level as it stands/ })).toBeVisible()
}

/** Puts Whimbrel on the bench, powered. */
async function whimbrel(request: APIRequestContext) {
  const post = (path: string, data: object) => request.post(path, { data })
  await post('/api/bench/place', { quad: 'Whimbrel' })
  await expect.poll(async () => ((await (await request.get('/api/bench')).json()) as { board?: { quad: string } }).board?.quad).toBe('Whimbrel')
  await expect.poll(async () => (await post('/api/bench/things', { usb: true, pack: true })).ok()).toBe(true)
  await post('/api/quads/3/take', { path: 'readings.firmware.identity' })
}

const readings = (page: Page) => page.getByRole('complementary', { name: 'Ledger' }).getByRole('list', { name: 'Readings' })

test('Whimbrel’s compass is turned every way, found turned on its mount, told so, and shows north', async ({ page, request }) => {
  await whimbrel(request)
  await page.goto('/quads/3/senses?at=compass')
  const sphere = page.getByRole('region', { name: 'The compass turned every way' })
  await sphere.getByRole('button', { name: 'Turn it, and look' }).click()
  // While one side is missing it says how to hold it; in the end nothing is.
  await expect(sphere).toContainText(/Hold it with its .* along the field/)
  await expect(page.getByRole('img', { name: /^Through the back: \d+ samples drawn, 0 directions missing/ })).toBeVisible({ timeout: 40_000 })
  await sphere.getByRole('button', { name: 'Stop' }).click()
  await expect(sphere).toContainText(/A field of 4[789](\.\d+)? µT/)
  await sphere.getByRole('button', { name: 'Keep it as the compass reading' }).click()
  await expect(readings(page)).toContainText(/of all directions/)

  // Against two known directions it is a quarter of a turn off, and a hold of the model circles away.
  await page.getByRole('button', { name: 'Heading', exact: true }).click()
  const looked = page.getByRole('region', { name: 'Headings looked at' })
  const look = async (across: boolean, deg: number) => {
    expect((await request.post('/api/bench/things', { data: { nose: deg } })).ok()).toBe(true)
    const group = looked.getByRole('group', { name: across ? 'Turned across it' : 'Pointed at something whose direction is known' })
    await group.getByLabel('direction, °').fill(String(deg))
    await expect.poll(async () => ((await (await request.get('/api/bench')).json()) as { live?: { nose: number } }).live?.nose ?? deg).toBe(deg)
    await expect(async () => {
      await group.getByRole('button', { name: 'As the board shows it' }).click()
      const shown = Number(await group.getByLabel('heading shown').inputValue())
      expect(Number.isFinite(shown) && shown !== 0).toBe(true)
    }).toPass()
  }
  await look(false, 60)
  await look(true, 150)
  await expect(looked).toContainText('The compass is turned on its mount')
  await expect(page.getByRole('img', { name: /^A hold with it, seen from above: (It does not come to rest|After)/ })).toBeVisible()
  await looked.getByRole('button', { name: 'Tell it: turned by 90°' }).click()
  await expect(looked.getByRole('button', { name: 'Tell it: turned by 90°' })).toBeHidden()

  // Written to the board, it shows both directions to five degrees.
  await page.getByRole('button', { name: 'Write your settings to the board' }).first().click()
  await expect(page.getByRole('button', { name: 'Write your settings to the board' })).toHaveCount(0)
  await look(false, 60)
  await look(true, 150)
  await expect(looked.locator('b.text-stop')).toHaveCount(0)
  await looked.getByRole('button', { name: 'Keep both as the heading readings' }).click()
  await expect(readings(page)).toContainText(/shown for 150°/)
})

test('how the board lies is found by three moves, and by eye', async ({ page, request }) => {
  expect((await request.post('/api/bench/things', { data: { usb: true } })).ok()).toBe(true)
  await page.goto('/quads/1/senses?at=mount')
  const lies = page.getByRole('region', { name: 'How the board lies' })
  for (const [i, says] of ['nose down', 'right side down', 'turned to the right'].entries()) {
    await lies.getByRole('button', { name: 'Move it' }).nth(i).click()
    await expect(lies.getByRole('listitem').nth(i)).toContainText(`the board says: ${says}`)
  }
  await expect(lies).toContainText(/It lies .*which agrees/)
  await lies.getByRole('button', { name: 'Keep it as the reading' }).click()
  await expect(readings(page)).toContainText('How the board lies on the frame')

  // By eye, as on a quad that is no bench's: turned by a quarter it is not as it is told, and one press tells it.
  await lies.getByRole('button', { name: 'By eye' }).click()
  await lies.getByLabel('the arrow points').fill('90')
  await expect(lies).toContainText('turned by 90°; it is told flat, its arrow ahead, 90° apart')
  await lies.getByRole('button', { name: 'Tell it: turned by 90°' }).click()
  await expect(lies).toContainText('which agrees')
  await lies.getByRole('button', { name: 'its top is down' }).click()
  await expect(page.getByRole('img', { name: /^The board lies turned by 90°, rolled by 180°/ })).toBeVisible()
})

test('when a compass is to be found anew is worked out by date and by event', async ({ page, request }) => {
  const post = async (path: string, data: object) => expect((await request.post(path, { data })).ok(), path).toBe(true)
  await post('/api/quads/1/edit', {
    version: (await (await request.get('/api/quads/1')).json()).version,
    values: [{ path: 'sheet.senses.compass', value: true }],
  })
  await post('/api/quads/1/type', { path: 'readings.senses.compass', value: { field: 48, residual: 0.4, covered: 93 } })
  await page.goto('/quads/1/senses?at=compass')
  await page.getByRole('button', { name: 'When to find it anew' }).click()
  const schools = page.getByRole('group', { name: 'When to find it anew' })
  await expect(page.getByRole('listitem').filter({ hasText: 'By date:' })).toContainText(/good until .*, 90 days/)
  await expect(page.getByRole('listitem').filter({ hasText: 'By event:' })).toContainText('nothing has happened to it since')
  await schools.getByRole('button', { name: 'after what moves parts alone' }).click()
  await expect(page.getByText('What moves on the quad without anybody noting it')).toBeVisible()
  await post('/api/quads/1/event', { event: 'crash', note: 'into the poplars' })
  await page.reload()
  await page.getByRole('button', { name: 'When to find it anew' }).click()
  await expect(page.getByRole('listitem').filter({ hasText: 'By event:' })).toContainText('came after it was found')
  // Whimbrel's family takes it for sixty days, whatever its pilot would rather.
  await page.goto('/quads/3/senses?at=compass')
  await page.getByRole('button', { name: 'When to find it anew' }).click()
  await expect(page.getByRole('listitem').filter({ hasText: 'By date:' })).toContainText('60 days once it is found. This firmware family has it so')
})

test('satellites are counted by turns, with the video off and on, and a sky is told with its interval', async ({ page, request }) => {
  await whimbrel(request)
  await page.goto('/quads/3/senses?at=sky')
  const trial = page.getByRole('region', { name: 'Satellites by turns' })
  await expect(trial).toContainText(/Now [89] satellites/, { timeout: 60_000 })
  await trial.getByLabel('wait before each').fill('1')
  // The video is on at first; after that each count leaves it as the next one wants it.
  await trial.getByRole('button', { name: 'Put the video off, and wait' }).click()
  const counts = async (times: number) => {
    for (let i = 0; i < times; i++) {
      await trial.getByRole('button', { name: `Count with the video ${i % 2 ? 'on' : 'off'}` }).click()
      await expect(trial.getByRole('list', { name: 'Counts' }).getByRole('listitem')).toHaveCount(i + 1)
    }
  }
  await counts(9)
  await expect(trial).toContainText(/The video costs [2-6](\.\d)? satellites: [\d.]+ to [\d.]+, 95 %/)
  await trial.getByRole('button', { name: 'Keep it as the reading' }).click()
  await expect(readings(page)).toContainText('lost to the video')

  // On a mast it stands away from the transmitter: by turns again, the video costs next to nothing, and more satellites are left.
  await trial.getByRole('button', { name: 'Have the hand put it on a mast' }).click()
  await expect(trial).toContainText('Its receiver stands 120 mm from the video transmitter')
  await expect(trial.getByRole('listitem').filter({ hasText: 'video' })).toHaveCount(0)
  await expect(trial).toContainText('By count:')
  await trial
    .getByRole('button', { name: 'Put the video off, and wait' })
    .click({ timeout: 2000 })
    .catch(() => {})
  await counts(9)
  await expect(trial).toContainText(
    /(No difference that these counts could show|The video costs (0\.\d satellites|1 satellite)|more with the video on): -?[\d.]+ to [\d.]+, 95 %/,
  )
})

test('a pilot of a real quad types and brings his runs: nonsense is said plainly, and nothing is lost', async ({ page }) => {
  await page.goto('/quads/3/senses?at=compass')
  await page.getByRole('button', { name: 'Or bring a run that was recorded' }).click()
  const bring = (rows: string[]) =>
    page.getByLabel('Choose a recorded run').setInputFiles({ name: 'run.csv', mimeType: 'text/csv', buffer: Buffer.from(rows.join('\n')) })
  const sphere = page.getByRole('region', { name: 'The compass turned every way' })
  // A spiral over the sphere, 47 µT about iron, told in nanotesla; then its upper end alone, then words.
  const spiral = (to: number) =>
    Array.from({ length: 400 }, (_, i) => {
      const z = 1 - to * (i / 399)
      const r = Math.sqrt(Math.max(0, 1 - z * z))
      return [47000 * r * Math.cos(i * 0.7) + 9000, 47000 * r * Math.sin(i * 0.7) - 3000, 47000 * z + 12000].map((x) => x.toFixed(0)).join(',')
    })
  await bring(['mag x (nT),mag y (nT),mag z (nT)', ...spiral(2)])
  await expect(sphere).toContainText('A field of 47 µT')
  await expect(sphere).toContainText('9.0, −3.0, 12.0 µT ahead, right and down')
  await bring(['mag x (nT),mag y (nT),mag z (nT)', ...spiral(0.5)])
  await expect(sphere).toContainText('the far side would be a guess')
  await expect(sphere).toContainText(/Hold it with its .*back.* along the field/)
  await bring(['mag x (nT),mag y (nT),mag z (nT)', 'north,8,9', ...spiral(2)])
  await expect(page.getByRole('list', { name: 'What cannot be read' })).toContainText('Line 2')
  await expect(sphere).toContainText('A field of 47 µT')
  await bring(['not a table at all'])
  await expect(sphere.getByRole('alert')).toBeVisible()

  // Strapped down: a tenth of a microtesla an ampere, aside.
  await page.getByRole('button', { name: 'Motor current', exact: true }).click()
  const current = page.getByRole('region', { name: "The motors' current" })
  await expect(current.getByLabel('Choose a recorded run')).toBeVisible()
  await bring(['current (A),x,y,z', ...Array.from({ length: 40 }, (_, i) => `${i / 2},${(18 + 0.01 * (i % 3)).toFixed(2)},${(0.05 * i).toFixed(3)},45`)])
  await expect(current).toContainText(/It moves by 0\.1\d\d µT for each ampere/)
  await current.getByRole('button', { name: 'Keep it as the reading' }).click()
  await expect(readings(page)).toContainText(/Compass moved by the motors' current/)
  await bring(['current (A),x,y,z', '3,1,1,1', '3,1,1,1', '3,1,1,2', '3,1,1,1', '3,1,1,1'])
  await expect(current.getByRole('alert')).toContainText('The current hardly changed')

  // A height that drifts by a metre and jumps as the motors spin up.
  await page.getByRole('button', { name: 'Height', exact: true }).click()
  await page.getByRole('button', { name: 'Or bring a run that was recorded' }).click()
  await bring(['time,altitude', ...Array.from({ length: 600 }, (_, i) => `${i / 2},${(i / 600 + (i % 2 ? 0.1 : -0.1) + (i >= 560 ? 2 : 0)).toFixed(3)}`)])
  await page.getByLabel(/^spun up at/).fill('280')
  const height = page.getByRole('region', { name: 'A height that should stay' })
  await expect(height).toContainText(/drifts by 1(\.0\d)? m in five minutes and jumps by (2|1\.9\d|2\.0\d) m/)
  await height.getByRole('button', { name: 'Keep it as the height reading' }).click()
  await expect(readings(page)).toContainText('jumps')

  // No direction: said, and what was typed stays.
  await page.getByRole('button', { name: 'Heading', exact: true }).click()
  const looked = page.getByRole('region', { name: 'Headings looked at' })
  const first = looked.getByRole('group', { name: 'Pointed at something whose direction is known' })
  await first.getByLabel('direction, °').fill('700')
  await first.getByLabel('heading shown').fill('12')
  await expect(looked.getByRole('alert')).toContainText('A direction is 0 to 360°')
  await expect(first.getByLabel('heading shown')).toHaveValue('12')
})
