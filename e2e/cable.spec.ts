// A real board by its cable: identified, read, one by one its lines written, read again and kept; a cable pulled in the middle loses nothing. The
// bench's board stands in for it, through one more port in the page's list.
import type { Page } from '@playwright/test'
import { choose } from './choose.ts'
import { expect, station, test } from './program.ts'

const cable = (page: Page) => page.getByRole('region', { name: 'By cable' })
const ledger = (page: Page) => page.getByRole('complementary', { name: 'Ledger' })
const sent = (page: Page) => page.getByRole('region', { name: 'What is sent' })

async function prepare(page: Page, quad = 1): Promise<void> {
  await page.goto(`/quads/${quad}/firmware?at=cable`)
  await choose(cable(page).getByRole('combobox', { name: 'Port' }), 'the board on the bench (simulated)')
  await expect(cable(page).getByRole('button', { name: 'Show what would be sent' })).toBeDisabled()
  await cable(page).getByRole('checkbox', { name: 'The propellers are off' }).check()
  await cable(page).getByRole('button', { name: 'Show what would be sent' }).click()
  await expect(sent(page).getByRole('listitem')).toHaveText(['#', 'which', 'every setting'])
}

test('a board is read and set by its cable, and a pulled cable loses nothing', async ({ page, request }) => {
  const things = async (data: object) => expect((await request.post('/api/bench/things', { data })).ok()).toBe(true)
  const quad = (await (await request.get('/api/quads/1')).json()) as { version: number }
  expect(
    (
      await request.post('/api/quads/1/edit', {
        data: {
          version: quad.version,
          values: [
            { path: 'sheet.sticks.deadband', value: 5 },
            { path: 'sheet.feel.angleLimit', value: 42 },
            { path: 'sheet.loss.guard', value: 0.8 },
          ],
        },
      })
    ).ok(),
  ).toBe(true)

  // Without the cable in, it is said; nothing is begun.
  await prepare(page)
  await cable(page).getByRole('button', { name: 'Open the port and send it' }).click()
  await expect(page.getByRole('region', { name: /^What was refused/ }).getByRole('listitem')).toContainText('The USB cable is out')

  await things({ usb: true })
  await prepare(page)
  await cable(page).getByRole('button', { name: 'Open the port and send it' }).click()
  await expect(cable(page)).toContainText('Marram 7.0.2 on HARRIER4, number 2041: ')
  await expect(cable(page)).toContainText('settings read and saved.')
  const changes = cable(page).getByRole('table', { name: 'What would be written' })
  await expect(changes.getByRole('row', { name: /hear\.dead/ })).toContainText('5')
  await expect(sent(page).getByText('hear.dead = 5')).toBeVisible()
  await expect(sent(page).getByText('keep', { exact: true })).toBeVisible()

  // The cable is pulled as the second line goes out: nothing was kept, and that is said.
  let lines = 0
  const pull = async (r: { url: () => string; postData: () => string | null }) => {
    if (r.url().endsWith('/api/bench/serial') && / = /.test(r.postData() ?? '') && ++lines === 2) await things({ usb: false })
  }
  page.on('request', (r) => void pull(r))
  await cable(page)
    .getByRole('button', { name: /^Write these/ })
    .click()
  await expect(cable(page).getByRole('alert')).toContainText(/The connection broke with \d of \d changes written, and nothing kept; read the board again/)

  // Taken up again: it is read anew, what is missing is written, read back and kept.
  await things({ usb: true })
  await prepare(page)
  await cable(page).getByRole('button', { name: 'Open the port and send it' }).click()
  await expect(changes.getByRole('row', { name: /hear\.dead/ })).toBeVisible()
  await cable(page)
    .getByRole('button', { name: /^Write these/ })
    .click()
  await expect(cable(page)).toContainText('What was written was read once more, and the board keeps it.')
  await things({ usb: false })
  await things({ usb: true })
  await prepare(page)
  await cable(page).getByRole('button', { name: 'Open the port and send it' }).click()
  await expect(cable(page)).toContainText('It holds what your settings say.')

  // What was read counts as read by cable, and the lists before and after are saved.
  await page.goto('/quads/1/firmware')
  await expect(page.getByRole('complementary', { name: 'Ledger' }).getByRole('list', { name: 'Readings' })).toContainText('bench, by cable')
  await page.goto('/quads/1/firmware?at=saved')
  await expect(page.getByRole('button', { name: /^what was written by cable/ }).first()).toBeVisible()
})

test('a console that takes its time over every answer is waited for, and another quad’s board cannot be chosen', async ({ page, request }) => {
  await page.goto('/')
  await page.getByRole('article', { name: 'Turnstone' }).getByRole('link', { name: 'Turnstone', exact: true }).click()
  await expect(page).toHaveURL(/quads\/\d+/)
  const turnstone = Number(/quads\/(\d+)/.exec(page.url())?.[1])
  expect((await request.post('/api/bench/place', { data: { quad: 'Turnstone' } })).ok()).toBe(true)
  await expect.poll(async () => ((await (await request.get('/api/bench')).json()) as { board: { quad: string } }).board.quad).toBe('Turnstone')
  expect((await request.post('/api/bench/things', { data: { usb: true, pack: false } })).ok()).toBe(true)
  await prepare(page, turnstone)
  await cable(page).getByRole('button', { name: 'Open the port and send it' }).click()
  await expect(cable(page)).toContainText('Marram 7.0.2 on SKERRY3, number 7719: ')

  // On Dunlin's page that board is none to choose: it is another quad's.
  await page.goto('/quads/1/firmware?at=cable')
  await cable(page).getByRole('combobox', { name: 'Port' }).click()
  await expect(page.getByRole('option', { name: 'this quad is not on the bench' })).toHaveAttribute('data-disabled')
})

test('Knot is read by its cable, one setting of it is changed, written over a console that echoes, and read back', async ({ page, request }) => {
  await page.goto('/')
  await page.getByRole('article', { name: 'Knot' }).getByRole('link', { name: 'Knot', exact: true }).click()
  await expect(page).toHaveURL(/quads\/\d+/)
  const knot = Number(/quads\/(\d+)/.exec(page.url())?.[1])
  expect((await request.post('/api/bench/place', { data: { quad: 'Knot' } })).ok()).toBe(true)
  await expect.poll(async () => ((await (await request.get('/api/bench')).json()) as { board: { quad: string } }).board.quad).toBe('Knot')
  expect((await request.post('/api/bench/things', { data: { usb: true, pack: false } })).ok()).toBe(true)

  // The console says again whatever it hears; none of that is taken for an answer.
  const echo = page.waitForResponse(async (r) => r.url().endsWith('/api/bench/serial') && /which\r\n/.test(((await r.json()) as { text: string }).text))
  await prepare(page, knot)
  await cable(page).getByRole('button', { name: 'Open the port and send it' }).click()
  await echo
  await expect(cable(page)).toContainText('Marram 7.1.0 on LIMPET1, number 0312: ')
  await expect(cable(page)).toContainText('It holds what your settings say.')

  // One change at its station, and one line to write.
  await station(page, 'Feel')
  await ledger(page)
    .getByText(/^Intended settings/)
    .click()
  await ledger(page)
    .getByRole('button', { name: /^Throttle limit, compressed: 80 %\. Change it/ })
    .click()
  await ledger(page).getByRole('textbox').fill('65 %')
  await ledger(page).getByRole('textbox').press('Enter')
  await expect(page.getByRole('button', { name: /^Undo: Throttle limit, compressed: 80 % becomes 65 %/ })).toBeVisible()
  await prepare(page, knot)
  await cable(page).getByRole('button', { name: 'Open the port and send it' }).click()
  await expect(
    cable(page)
      .getByRole('table', { name: 'What would be written' })
      .getByRole('row', { name: /push\.most/ }),
  ).toContainText('65')
  await expect(sent(page).getByText('push.most = 65')).toBeVisible()
  await cable(page).getByRole('button', { name: 'Write these 1, line by line' }).click()
  await expect(cable(page)).toContainText('What was written was read once more, and the board keeps it.')
  expect(await sent(page).getByRole('listitem').allTextContents()).toEqual([
    ...['#', 'which', 'every setting', 'push.most = 65', 'every setting', 'keep'],
    ...['#', 'which', 'every setting'],
  ])
  await page.goto(`/quads/${knot}/firmware`)
  await expect(ledger(page).getByRole('list', { name: 'Readings' })).toContainText('bench, by cable')
})

/** A serial port as the browser gives one, whose cable ends at the board on the bench: bytes in two streams, gone when the board starts anew. */
function serialOfTheBench() {
  let asked = 0
  const port = {
    readable: null as ReadableStream<Uint8Array> | null,
    writable: null as WritableStream<Uint8Array> | null,
    tries: 0,
    async open({ baudRate }: { baudRate: number }) {
      if (port.readable) throw new DOMException('The port is already open.', 'InvalidStateError')
      if (baudRate !== 115200) throw new Error(`opened at ${baudRate}`)
      // After a new start it is not there at once.
      if (++port.tries === 2) throw new DOMException('Failed to open serial port.', 'NetworkError')
      let out = ''
      let over = false
      port.writable = new WritableStream({
        write: (bytes) => {
          out += Array.from(bytes, (b: number) => String.fromCharCode(b)).join('')
        },
      })
      port.readable = new ReadableStream<Uint8Array>({
        async pull(to) {
          for (;;) {
            const text = out
            out = ''
            const answer = await fetch('/api/bench/serial', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ text }) })
            if (over) return
            const said = (await answer.json()) as { text?: string; gone?: boolean }
            if (!answer.ok || said.gone) {
              to.error(new DOMException('The device has been lost.', 'NetworkError'))
              return
            }
            if (said.text) {
              to.enqueue(Uint8Array.from(said.text, (c) => c.charCodeAt(0)))
              return
            }
            await new Promise((r) => setTimeout(r, 40))
          }
        },
        cancel: () => {
          over = true
        },
      })
    },
    async close() {
      port.readable = null
      port.writable = null
    },
  }
  Object.defineProperty(navigator, 'serial', {
    value: {
      requestPort: async () => {
        if (++asked > 1) throw new DOMException('Asked twice.', 'SecurityError')
        return port
      },
    },
  })
}

test('through the browser’s own serial port a board is read, written, starts anew and is read again', async ({ page, request }) => {
  await page.addInitScript(serialOfTheBench)
  expect((await request.post('/api/bench/things', { data: { usb: true } })).ok()).toBe(true)
  await page.goto('/quads/1/sticks')
  const quad = (await (await request.get('/api/quads/1')).json()) as { version: number }
  expect((await request.post('/api/quads/1/edit', { data: { version: quad.version, values: [{ path: 'sheet.sticks.deadband', value: 6 }] } })).ok()).toBe(true)
  await page.goto('/quads/1/firmware?at=cable')
  await expect(cable(page).getByRole('combobox', { name: 'Port' })).toHaveText('a serial port of this computer')
  await cable(page).getByRole('checkbox', { name: 'The propellers are off' }).check()
  await cable(page).getByRole('button', { name: 'Show what would be sent' }).click()
  await cable(page).getByRole('button', { name: 'Open the port and send it' }).click()
  await expect(cable(page)).toContainText('Marram 7.0.2 on HARRIER4, number 2041: ')
  await cable(page)
    .getByRole('button', { name: /^Write these/ })
    .click()
  await expect(cable(page)).toContainText('What was written was read once more, and the board keeps it.')
  await page.goto('/quads/1/firmware')
  const readings = page.getByRole('complementary', { name: 'Ledger' }).getByRole('list', { name: 'Readings' })
  await expect(readings).toContainText('cable')
  await expect(readings).not.toContainText('bench, by cable')
})
