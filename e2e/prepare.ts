// Prepares, once for all stories, a data folder with the database installed, migrated and the demo world in it. Every story starts on a
// copy of its own: what is the same for all of them is done once.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const root = join(import.meta.dirname, '..')

export default async function prepare(): Promise<() => void> {
  const folder = mkdtempSync(join(tmpdir(), 'perch-prepared-'))
  const p = spawn(join(root, 'build/perch'), ['serve', '--data', folder, '--port', '0', '--bench', 'none'], { stdio: ['ignore', 'pipe', 'inherit'] })
  await new Promise<void>((resolve, reject) => {
    p.stdout?.on('data', (d: Buffer) => /is at http:/.test(d.toString()) && resolve())
    p.once('exit', (code) => reject(new Error(`the program that prepares ended with ${code}`)))
  })
  const gone = new Promise((resolve) => p.once('exit', resolve))
  p.kill('SIGTERM')
  await gone
  process.env.PERCH_PREPARED = folder
  return () => rmSync(folder, { recursive: true, force: true })
}
