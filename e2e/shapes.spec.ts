// Lists in three unlike shapes, of families that the program never heard of: each is taught, one setting is changed, and exactly one line is to
// be typed, as that family writes it.
import { expect, test } from './program.ts'

const families = [
  {
    line: 'Driftwood',
    looks: 'let {name} be {value}',
    list: '% board: WRACK1\n% line: Driftwood\n% version: 1.0.0\nlet motorIdle be 5 % while armed\nlet warnPerCell be 3.5\nlet failsafeDelay be 1\nlet title be Plover\nthus ends it\n',
    typed: 'let warnPerCell be 3.6\n',
  },
  {
    line: 'Shoal',
    looks: '[{section}]',
    list: '// line: Shoal\n// version: 1.0.0\n[watch]\nwarnPerCell: 3.5\nlandPerCell: 3.3\n[motors]\nidle: 5\n',
    typed: '[watch]\nwarnPerCell: 3.6\n',
  },
  {
    line: 'Tideline',
    looks: '{name};{value};{*}',
    list: '# line: Tideline\n# version: 1.0.0\nwarnPerCell;3.5V;per cell\nmotorIdle;5;per cent\n',
    typed: 'warnPerCell;3.6V;\n',
  },
]

test('three unlike shapes are taught, and one change is one line', async ({ page, request }) => {
  for (const f of families) {
    const begun = await request.post('/api/quads', {
      data: {
        name: `Plover ${f.line}`,
        words: '',
        line: f.line,
        version: '1.0.0',
        target: 'WRACK1',
        list: '',
        parts: { frame: 1, motors: 1, propeller: 1, power: 1, board: 1, radio: 1, video: 1 },
      },
    })
    expect(begun.ok()).toBe(true)
    const { id } = await begun.json()
    const bring = async () => {
      await page.goto(`/quads/${id}/firmware?at=saved&bring`)
      await page.getByRole('textbox', { name: 'Settings list' }).fill(f.list)
      await page.getByRole('button', { name: 'Read it' }).click()
    }
    await bring()
    await expect(page.getByText(`${f.line} is a line that is not known here.`)).toBeVisible()
    await page.getByRole('button', { name: 'Describe it' }).click()
    await expect(page.getByRole('textbox', { name: 'How its lines look' })).toHaveValue(new RegExp(f.looks.replace(/[{}[\]*;]/g, (c) => `\\${c}`)))
    const row = page.getByRole('row', { name: /^(watch\.)?warnPerCell / })
    await row.getByRole('button', { name: /Warn below, per cell/ }).click()
    const outcome = page.getByRole('region', { name: 'What comes of it' })
    await expect(outcome).toContainText('Through your settings and back, every setting comes back as it went in.')
    await outcome.getByRole('button', { name: `Save the dictionary of ${f.line}` }).click()
    await expect(outcome.getByRole('button', { name: 'Saved' })).toBeVisible()

    await bring()
    await page.getByRole('button', { name: 'It is what the board holds' }).click()
    await expect(page).toHaveURL(/at=board/)
    await bring()
    await page.getByRole('button', { name: 'Apply to settings' }).click()
    await expect(page.getByRole('button', { name: /^write/ })).toContainText('nothing differs')
    const now = async () => (await request.get(`/api/quads/${id}`)).json()
    await expect.poll(async () => (await now()).meant.sheet.watch.warnPerCell).toBe(3.5)
    const quad = await now()
    const edit = await request.post(`/api/quads/${id}/edit`, { data: { version: quad.version, values: [{ path: 'sheet.watch.warnPerCell', value: 3.6 }] } })
    expect(edit.ok()).toBe(true)
    await page.goto(`/quads/${id}/firmware?at=write`)
    const link = page.getByRole('link', { name: 'Download what to type' })
    await expect(link).toBeVisible()
    expect(decodeURIComponent((await link.getAttribute('href')) ?? '')).toBe(`data:text/plain;charset=utf-8,${f.typed}`)
    // The whole list comes back with one line that differs.
    const whole = page.getByRole('link', { name: 'Download the whole list, changed' })
    const text = await (await request.get((await whole.getAttribute('href')) ?? '')).text()
    const before = f.list.split('\n')
    expect(text.split('\n')).toHaveLength(before.length)
    expect(text.split('\n').filter((l, i) => l !== before[i])).toEqual([expect.stringContaining('3.6')])
  }
})
