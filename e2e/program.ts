// Starts the real program for one story: its own data folder, database and bench; nothing shared, nothing kept.
import { type ChildProcess, spawn } from 'node:child_process'
import { constants, cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { test as base, expect, type Page } from '@playwright/test'

const root = join(import.meta.dirname, '..')

export class Program {
  private process: ChildProcess | undefined
  readonly folder = mkdtempSync(join(tmpdir(), 'perch-story-'))
  address = ''

  constructor(private readonly more: string[] = []) {}

  get pid(): number {
    return this.process?.pid ?? 0
  }

  /** The process of its database. */
  get databasePid(): number {
    return Number(readFileSync(join(this.folder, 'mariadb.pid'), 'utf8'))
  }

  /** Starts it, or starts it again where it was. The first start with the demo world is on a copy of the prepared folder. */
  async start(): Promise<void> {
    const prepared = process.env.PERCH_PREPARED
    if (!this.address && prepared && !this.more.includes('--no-demo')) cpSync(prepared, this.folder, { recursive: true, mode: constants.COPYFILE_FICLONE })
    const port = this.address ? new URL(this.address).port : '0'
    const p = spawn(join(root, 'build/perch'), ['serve', '--data', this.folder, '--port', port, ...this.more], {
      stdio: ['ignore', 'pipe', 'inherit'],
    })
    this.process = p
    this.address = await new Promise<string>((resolve, reject) => {
      let said = ''
      p.stdout?.on('data', (d: Buffer) => {
        said += d.toString()
        const at = /is at (http:\S+)/.exec(said)
        if (at?.[1]) resolve(at[1])
      })
      p.once('exit', (code) => reject(new Error(`the program ended with ${code}: ${said}`)))
    })
  }

  /** Ends it the hard way, as a crash would. The database is its child and ends with it. */
  async kill(signal: 'SIGKILL' | 'SIGTERM' = 'SIGTERM'): Promise<void> {
    const p = this.process
    if (!p || p.exitCode !== null) return
    const gone = new Promise((resolve) => p.once('exit', resolve))
    p.kill(signal)
    await gone
  }

  async end(): Promise<void> {
    await this.kill()
    rmSync(this.folder, { recursive: true, force: true })
  }
}

/** A bench that runs by itself, and can be taken away and put back at its address. */
export class LoneBench {
  private process: ChildProcess | undefined
  address = ''
  token = ''

  constructor(private readonly more: string[] = []) {}

  async start(): Promise<void> {
    const p = spawn(
      join(root, 'build/perch'),
      ['bench', '--listen', this.address || '127.0.0.1:0', ...(this.token ? ['--token', this.token] : []), ...this.more],
      {
        stdio: ['ignore', 'pipe', 'inherit'],
      },
    )
    this.process = p
    await new Promise<void>((resolve, reject) => {
      p.stdout?.on('data', (d: Buffer) => {
        const said = /is at (\S+), its token is (\S+)/.exec(d.toString())
        if (said?.[1] && said[2]) {
          this.address = said[1]
          this.token = said[2]
          resolve()
        }
      })
      p.once('exit', (code) => reject(new Error(`the bench ended with ${code}`)))
    })
  }

  async kill(): Promise<void> {
    const p = this.process
    if (!p || p.exitCode !== null) return
    const gone = new Promise((resolve) => p.once('exit', resolve))
    p.kill('SIGKILL')
    await gone
  }
}

/** A story has the program running and fails on any request to another host and on any error of the page. */
export const test = base.extend<{ program: Program; errors: string[] }>({
  // biome-ignore lint/correctness/noEmptyPattern: Playwright wants the pattern
  program: async ({}, use) => {
    const p = new Program()
    await p.start()
    await use(p)
    await p.end()
  },
  baseURL: async ({ program }, use) => use(program.address),
  errors: [
    async ({ page, program }, use) => {
      const list: string[] = []
      page.on('pageerror', (e) => list.push(e.message))
      page.on('console', (m) => m.type() === 'error' && !/status of 4\d\d|WebSocket/.test(m.text()) && list.push(m.text()))
      page.on('request', (r) => {
        const url = new URL(r.url())
        if (url.protocol !== 'data:' && url.protocol !== 'blob:' && `${url.protocol}//${url.host}` !== program.address) list.push(`request to ${r.url()}`)
      })
      await use(list)
      expect(list).toEqual([])
    },
    { auto: true },
  ],
})

export { expect }

/** The stations in the order of the line, as their addresses name them. */
export const stations = [
  'airframe',
  'first-power',
  'firmware',
  'wiring',
  'link',
  'sticks',
  'motors',
  'senses',
  'feel',
  'power-watch',
  'link-loss',
  'picture',
  'bench-proof',
  'first-flight',
]

/** The words a screen reader gets of one perch on the wire. */
export const perch = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: new RegExp(`\\d+\\. ${name}: `) })

/** Opens a station from the wire. */
export async function station(page: Page, name: string): Promise<void> {
  await perch(page, name).click()
  await expect(page.getByRole('navigation', { name: 'Stations' }).locator('[aria-current=step]')).toHaveAttribute('aria-label', new RegExp(` ${name}: `))
}

/** What was refused, as it stands at the foot of the page. */
export const refusal = (page: Page) => page.getByRole('region', { name: /^What was refused/ }).getByRole('listitem')
