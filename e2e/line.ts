// A line to a bench on which something happens before a message goes on: as when a cable is pulled in the middle of a word.
import { connect, createServer, type Server } from 'node:net'
import { createInterface } from 'node:readline'
import type { LoneBench } from './program.ts'

export class Line {
  private server: Server | undefined
  private before: { method: string; happens: () => Promise<void> } | undefined
  address = ''

  constructor(private readonly bench: LoneBench) {}

  async open(): Promise<void> {
    const server = createServer((near) => {
      const [host, port] = this.bench.address.split(':')
      const far = connect(Number(port), host)
      far.pipe(near)
      near.on('error', () => far.destroy())
      far.on('error', () => near.destroy())
      near.on('close', () => far.end())
      void (async () => {
        for await (const said of createInterface({ input: near })) {
          const b = this.before
          if (b && said.includes(`"method":"${b.method}"`)) {
            this.before = undefined
            await b.happens()
          }
          far.write(`${said}\n`)
        }
      })()
    })
    this.server = server
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
    const at = server.address()
    this.address = typeof at === 'object' && at ? `127.0.0.1:${at.port}` : ''
  }

  /** Once, before the next message of a method goes on, something happens; the promise ends when it has. */
  once(method: string, happens: () => Promise<void>): Promise<void> {
    return new Promise((resolve, reject) => {
      this.before = { method, happens: () => happens().then(resolve, reject) }
    })
  }

  close(): void {
    this.server?.close()
  }
}

/** Calls a bench past the program, as another hand at it, on a connection of its own. */
export async function call(bench: LoneBench, method: string, params: object): Promise<unknown> {
  const [host, port] = bench.address.split(':')
  const line = connect(Number(port), host)
  const answers = createInterface({ input: line })
  let waiting: ((said: string) => void) | undefined
  let ended: (why: Error) => void = () => undefined
  answers.on('line', (said) => waiting?.(said))
  line.on('error', (e) => ended(e))
  line.on('close', () => ended(new Error(`${method}: the bench ended the connection`)))
  const ask = (id: number, name: string, what: object) =>
    new Promise<unknown>((resolve, reject) => {
      ended = reject
      waiting = (said) => {
        const answer = JSON.parse(said) as { id?: number; result?: unknown; error?: { message: string } }
        if (answer.id !== id) return
        if (answer.error) reject(new Error(`${name}: ${answer.error.message}`))
        else resolve(answer.result)
      }
      line.write(`${JSON.stringify({ jsonrpc: '2.0', id, method: name, params: what })}\n`)
    })
  try {
    await ask(1, 'hello', { token: bench.token, protocol: 1 })
    return await ask(2, method, params)
  } finally {
    line.destroy()
  }
}
