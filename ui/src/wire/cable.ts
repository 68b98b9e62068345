// A serial port as a pipe: the browser's own, or the one of the board on the bench; and the conversation that the server leads through it.
import { useEffect, useRef, useState } from 'react'
import { answerOf, type Schemas, server } from './client'

export type CableView = Schemas['CableView']

/** Bytes are text here, each the character of its number. */
export type Port = {
  open: (baud: number, heard: (text: string) => void, gone: () => void) => Promise<void>
  send: (text: string) => Promise<void>
  close: () => void
}

type NativePort = {
  open: (how: { baudRate: number }) => Promise<void>
  close: () => Promise<void>
  readable: ReadableStream<Uint8Array> | null
  writable: WritableStream<Uint8Array> | null
}

const native = () => (navigator as unknown as { serial?: { requestPort: () => Promise<NativePort> } }).serial

/** Whether this browser has serial ports for pages. */
export const hasSerial = () => native() !== undefined

/** A port that the pilot chooses in the browser's own dialog. */
export function serialPort(): Port {
  let port: NativePort | null = null
  let reader: ReadableStreamDefaultReader<Uint8Array> | null = null
  return {
    open: async (baud, heard, gone) => {
      port = (await native()?.requestPort()) ?? null
      if (!port) throw new Error('This browser has no serial ports for pages.')
      await port.open({ baudRate: baud })
      reader = port.readable?.getReader() ?? null
      void (async () => {
        try {
          for (;;) {
            const { value, done } = (await reader?.read()) ?? { done: true }
            if (done) break
            heard(Array.from(value ?? [], (b) => String.fromCharCode(b)).join(''))
          }
        } catch {
          // The cable is out: what follows says so.
        }
        gone()
      })()
    },
    send: async (text) => {
      const writer = port?.writable?.getWriter()
      await writer?.write(Uint8Array.from(text, (c) => c.charCodeAt(0)))
      writer?.releaseLock()
    },
    close: () => {
      void reader?.cancel().finally(() => port?.close().catch(() => undefined))
    },
  }
}

/** How often the bench's port is looked at, ms. */
const look = 60

/** The port of the board that lies on the bench. */
export function benchPort(): Port {
  let out = ''
  let timer = 0
  let over = false
  return {
    open: async (_baud, heard, gone) => {
      const ask = async () => {
        const text = out
        out = ''
        try {
          const s = await answerOf(server.POST('/api/bench/serial', { body: { text } }))
          if (over) return
          if (s.text) heard(s.text)
          if (s.gone) {
            over = true
            gone()
            return
          }
        } catch {
          over = true
          gone()
          return
        }
        timer = window.setTimeout(() => void ask(), look)
      }
      await answerOf(server.POST('/api/bench/serial', { body: { text: '' } })) // a cable that is out is told before anything is begun
      void ask()
    },
    send: async (text) => {
      out += text
    },
    close: () => {
      over = true
      clearTimeout(timer)
    },
  }
}

/** A conversation with the board behind a port, for one quad. */
export function useCable(quad: number, onKept: () => void) {
  const [view, setView] = useState<CableView | null>(null)
  const [open, setOpen] = useState(false)
  const socket = useRef<WebSocket | null>(null)
  const port = useRef<Port | null>(null)
  const kept = useRef('')
  const tell = (said: Schemas['CableSaid']) => socket.current?.readyState === WebSocket.OPEN && socket.current.send(JSON.stringify(said))
  const end = () => {
    port.current?.close()
    socket.current?.close()
    port.current = null
    socket.current = null
    setOpen(false)
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: the place is left
  useEffect(() => end, [])
  return {
    view,
    open,
    /** Asks what would be sent; nothing is. */
    prepare: (family: string, where: 'bench' | 'serial') => {
      end()
      setView(null)
      port.current = where === 'bench' ? benchPort() : serialPort()
      const query = new URLSearchParams({ quad: String(quad), family, port: where, propellersOff: 'true' })
      const s = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/cable?${query}`)
      socket.current = s
      s.onmessage = (e) => {
        const v = JSON.parse(String(e.data)) as CableView
        if (v.send) void port.current?.send(v.send)
        setView(v)
        const now = `${v.read} ${v.kept}`
        if (now !== kept.current && (v.read > 0 || v.kept)) onKept()
        kept.current = now
      }
      s.onclose = () => setOpen(false)
    },
    /** Opens the port, and lets the conversation begin. */
    begin: async () => {
      await port.current?.open(
        view?.baud ?? 115200,
        (heard) => tell({ kind: 'heard', heard }),
        () => tell({ kind: 'gone' }),
      )
      setOpen(true)
      tell({ kind: 'heard', heard: '' })
    },
    write: (seen: string) => tell({ kind: 'write', seen }),
    end: () => {
      end()
      setView(null)
    },
  }
}
