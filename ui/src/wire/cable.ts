// A serial port as a pipe: the browser's own, or the one of the board on the bench; and the conversation that the server leads through it.
import { useEffect, useRef, useState } from 'react'
import { answerOf, type Schemas, server } from './client'

export type CableView = Schemas['CableView']

/** Bytes are text here, each the character of its number. */
export type Port = {
  /** Again is the same port after its board started anew: nobody is asked which it is. */
  open: (baud: number, heard: (text: string) => void, gone: () => void, again?: boolean) => Promise<void>
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
    open: async (baud, heard, gone, again) => {
      if (!again) port = (await native()?.requestPort()) ?? null
      else await port?.close().catch(() => undefined) // what is left of it
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
      over = false
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

/** How long until a port is tried again whose board starts anew, ms. */
const retry = 700

/** A conversation with the board behind a port, for one quad. */
export function useCable(quad: number, onKept: () => void) {
  const [view, setView] = useState<CableView | null>(null)
  const [isOpen, setOpen] = useState(false)
  const socket = useRef<WebSocket | null>(null)
  const port = useRef<Port | null>(null)
  const kept = useRef('')
  const reopening = useRef(0)
  const tell = (said: Schemas['CableSaid']) => socket.current?.readyState === WebSocket.OPEN && socket.current.send(JSON.stringify(said))
  const open = async (baud: number, again?: boolean) => {
    await port.current?.open(
      baud,
      (heard) => tell({ kind: 'heard', heard }),
      () => tell({ kind: 'gone' }),
      again,
    )
    tell({ kind: 'opened' })
  }
  // A board that starts anew is away for a while: its port is tried until it is there, or the conversation has given up.
  const reopen = (baud: number) => {
    clearTimeout(reopening.current)
    reopening.current = window.setTimeout(() => void open(baud, true).catch(() => port.current && reopen(baud)), retry)
  }
  const end = () => {
    clearTimeout(reopening.current)
    reopening.current = 0
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
    open: isOpen,
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
        if (v.apart && !reopening.current) reopen(v.baud)
        if (!v.apart) {
          clearTimeout(reopening.current)
          reopening.current = 0
        }
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
      await open(view?.baud ?? 115200)
      setOpen(true)
    },
    write: (seen: string) => tell({ kind: 'write', seen }),
    end: () => {
      end()
      setView(null)
    },
  }
}
