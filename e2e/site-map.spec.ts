// A place drawn, a line over it flown a thousand times without a radio, and what came of it taken to the field.
import { expect, test } from './program.ts'

test('Whimbrel’s line over the path is judged, kept and printed on the card', async ({ page, request }) => {
  expect((await request.post('/api/quads/3/type', { data: { path: 'readings.firstFlight.wind', value: 5 } })).ok()).toBe(true)
  await page.goto('/quads/3/link-loss')
  await page.getByRole('button', { name: 'On the map' }).click()

  // Where the wind comes from nobody told: that is asked, and nothing is flown by a nought.
  await expect(page.getByText('Tell where the wind comes from')).toBeVisible()
  const from = page.getByLabel('the wind comes from')
  await from.fill('400')
  await expect(page.getByRole('alert')).toContainText('up to 360')
  await from.fill('300')
  const losses = page.getByRole('region', { name: 'Losses along the line' })
  await expect(losses).toContainText('1000 losses by each policy')
  await expect(losses).toContainText('In 5 m/s of wind, as you read it.')
  await expect(losses).toContainText('On this line it should come home.')
  // Beside the place: what each part does from the moment on.
  await expect(page.getByRole('region', { name: 'From the loss on' })).toContainText(
    'motors keep the last throttle; after 1 s climb to 40 m, come home at 5 m/s, land',
  )

  // A line of his own, by keys: from home across the path to the boathouse, at walking height over people.
  await page.getByRole('button', { name: 'What lies there' }).click()
  await page.getByRole('button', { name: 'Line', exact: true }).click()
  const map = page.getByRole('application')
  await map.focus()
  await page.keyboard.press('Space')
  for (let i = 0; i < 14; i++) await page.keyboard.press('ArrowRight')
  await expect(map).toHaveAccessibleName(/70 m east, 0 m north of home/)
  await page.keyboard.press('Space')
  await page.keyboard.press('Enter')
  const things = page.getByRole('region', { name: 'On the map' })
  await things.getByLabel('name').fill('over the path')
  await things.getByLabel('name').press('Enter')
  await expect(things.getByRole('button', { name: 'over the path' })).toBeVisible()
  await things.getByLabel('at, m/s').fill('5')
  await things.getByLabel('at, m/s').press('Enter')
  await expect(things).toContainText('line, 20 m up at 5 m/s')
  await page.getByRole('button', { name: 'Losses along a line' }).click()
  await page.getByLabel('line', { exact: true }).click()
  await page.getByRole('option', { name: 'over the path' }).click()
  await expect(losses).toContainText('1000 losses by each policy')
  await expect(losses).toContainText(/none comes down among people where it comes home; where it (stops its motors|descends), \d+/)
  await expect(losses.getByRole('row', { name: /among people at \d+ J/ }).first()).toBeVisible()

  // Set against the advice, it is kept with a reason alone; then the station says what that comes to.
  expect(
    (await request.post('/api/quads/3/edit', { data: { version: await version(request), values: [{ path: 'sheet.loss.policy', value: 'drop' }] } })).ok(),
  ).toBe(true)
  await page.reload()
  await from.fill('300')
  await page.getByLabel('line', { exact: true }).click()
  await page.getByRole('option', { name: 'over the path' }).click()
  await expect(losses).toContainText('1000 losses by each policy')
  await expect(losses).toContainText(/Not from \d+ to \d+ m along it: lost there, up to \d+ % come down among people/)
  const keep = losses.getByRole('button', { name: 'Keep it as today' })
  await expect(keep).toBeDisabled()
  await losses.getByLabel('why it stays as it is set').fill('nobody walks there today, the gate is shut')
  await keep.click()
  await expect(losses).toContainText('Kept: it is on the field card.')
  await expect(page.getByRole('complementary')).toContainText("Lost on today's line it comes down among people")

  await page.getByRole('link', { name: 'Card' }).click()
  const today = page.getByRole('region', { name: "Today's line" })
  await expect(today.getByRole('img', { name: /over the path from above, and the outline/ })).toBeVisible()
  await expect(today).toContainText('20 m up at 5 m/s, the wind from 300° at 5 m/s. Lost, it stops its motors.')
  await expect(today).toContainText('Nobody inside the broken outline')
  await expect(today).toContainText('nobody walks there today, the gate is shut')
  await expect(today).not.toContainText('has changed since')
  // The wind turns out stronger: the card says that it was kept for another.
  expect((await request.post('/api/quads/3/type', { data: { path: 'readings.firstFlight.wind', value: 8 } })).ok()).toBe(true)
  await page.reload()
  await expect(today).toContainText('has changed since it was kept')
})

const version = async (request: import('@playwright/test').APIRequestContext) => (await (await request.get('/api/quads/3')).json()).version as number

test('a site is drawn, brought and kept whole against bad maps and a second window', async ({ page, context }) => {
  await page.goto('/quads/3/link-loss?at=map')
  await page.getByRole('button', { name: 'New site' }).click()
  await page.getByRole('textbox', { name: 'name' }).fill('signal station')
  await page.getByRole('button', { name: 'Begin the map' }).click()
  await expect(page.getByText('Nothing yet.')).toBeVisible()

  // An area whose outline crosses itself is refused, and stands as it was drawn until it is mended.
  await page.getByRole('button', { name: 'Water', exact: true }).click()
  const map = page.getByRole('application')
  await map.focus()
  const go = async (key: string, times: number) => {
    for (let i = 0; i < times; i++) await page.keyboard.press(key)
  }
  await page.keyboard.press('Space')
  await go('ArrowRight', 4)
  await go('ArrowUp', 4)
  await page.keyboard.press('Space')
  await go('ArrowDown', 4)
  await page.keyboard.press('Space')
  await go('ArrowLeft', 4)
  await go('ArrowUp', 4)
  await page.keyboard.press('Space')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert')).toContainText('crosses itself: side 1 meets side 3')
  await expect(page.getByText('4 corners.')).toBeVisible()
  await map.focus()
  await page.keyboard.press('Backspace')
  await page.keyboard.press('Enter')
  const things = page.getByRole('region', { name: 'On the map' })
  await expect(things.getByRole('button', { name: 'water' })).toBeVisible()

  // An obstacle of which nobody told how high it is: said on the map, and no height is made up.
  await things.getByRole('combobox', { name: 'what it is' }).click()
  await page.getByRole('option', { name: 'Obstacle' }).click()
  await expect(page.getByRole('application')).toContainText('obstacle, how high?')
  await things.getByLabel('height, m').fill('high')
  await things.getByLabel('height, m').press('Enter')
  await expect(things.getByRole('alert')).toContainText('A height is a figure')
  await things.getByLabel('height, m').fill('12')
  await things.getByLabel('height, m').press('Enter')
  await expect(page.getByRole('application')).toContainText('obstacle, 12 m')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('application')).toContainText('obstacle, how high?')

  // Files that are no maps are said plainly, and change nothing; a good one is taken by a press.
  const bring = page.getByLabel('Or bring it as GeoJSON')
  const file = (text: string) => ({ name: 'place.geojson', mimeType: 'application/geo+json', buffer: Buffer.from(text) })
  await bring.setInputFiles(file('east 4 north 5'))
  await expect(page.getByRole('alert')).toContainText('no GeoJSON')
  const point = (lat: number) => `{"type":"Feature","properties":{"name":"home"},"geometry":{"type":"Point","coordinates":[10.5,${lat}]}}`
  const field = (lat: number) =>
    `{"type":"Feature","properties":{"kind":"people","name":"stand"},"geometry":{"type":"Polygon","coordinates":[[[10.501,${lat + 0.001}],[10.502,${lat + 0.001}],[10.502,${lat + 0.002}],[10.501,${lat + 0.001}]]]}}`
  const whole = (...features: string[]) => `{"type":"FeatureCollection","features":[${features.join(',')}]}`
  await bring.setInputFiles(file(whole(field(52))))
  await expect(page.getByRole('alert')).toContainText('It tells no home')
  await bring.setInputFiles(file(whole(point(0), field(0))))
  await expect(page.getByText('on the equator: is that so?')).toBeVisible()
  await bring.setInputFiles(file(whole(point(52), field(52), '{"type":"Feature","properties":{"kind":"lava"},"geometry":{"type":"Polygon","coordinates":[]}}')))
  await expect(page.getByText('1 areas, 0 lines')).toBeVisible()
  await page.getByRole('button', { name: 'Put it in the place of this map' }).click()
  await expect(things.getByRole('button', { name: 'stand' })).toBeVisible()

  // Another window changes the site meanwhile: what is done here is refused, and theirs is shown.
  const other = await context.newPage()
  await other.goto(page.url())
  await other.getByRole('button', { name: 'stand' }).click()
  await other.getByRole('region', { name: 'On the map' }).getByLabel('name').fill('grandstand')
  await other.getByRole('region', { name: 'On the map' }).getByLabel('name').press('Enter')
  await expect(other.getByRole('button', { name: 'grandstand' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('alert')).toContainText('changed in another window')
  await expect(things.getByRole('button', { name: 'grandstand' })).toBeVisible()
})
