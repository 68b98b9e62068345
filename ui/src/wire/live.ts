// What the bench shows, outside of React's state: one socket that comes back by itself, the newest message,
// and whether it is still fresh.
import { useEffect, useRef, useSyncExternalStore } from 'react'
import type { Schemas } from './client'

export type Live = Schemas['ProtocolLive']
export type Motion = Schemas['ProtocolMotion']
type Frame = Schemas['LiveFrame']

export type LiveState = {
  live: Live | null
  status: Schemas['BenchStatus'] | null
  flash: Schemas['FlashState'] | null
  binding: Schemas['BindingState'] | null
  refused: { says: string; n: number } | null
  /** 'fresh', 'old' (nothing for a second) or 'gone' (no socket). */
  line: 'fresh' | 'old' | 'gone'
}

let state: LiveState = { live: null, status: null, flash: null, binding: null, refused: null, line: 'gone' }
let socket: WebSocket | null = null
let lastAt = 0
let wait = 250
const listeners = new Set<() => void>()

function set(next: Partial<LiveState>) {
  state = { ...state, ...next }
  for (const l of listeners) l()
}

function hear(f: Frame) {
  lastAt = performance.now()
  if (f.kind === 'live' && f.live) set({ live: f.live, line: 'fresh' })
  else if (f.kind === 'status' && f.status) set({ status: f.status, line: 'fresh', ...(f.status.connected ? {} : { live: null }) })
  else if (f.kind === 'flash' && f.flash) set({ flash: f.flash })
  else if (f.kind === 'binding' && f.binding) set({ binding: f.binding })
  else if (f.kind === 'refused') set({ refused: { says: f.says ?? '', n: (state.refused?.n ?? 0) + 1 } })
}

function open() {
  const s = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/live`)
  socket = s
  s.onopen = () => {
    wait = 250
  }
  s.onmessage = (e) => hear(JSON.parse(String(e.data)) as Frame)
  s.onclose = () => {
    if (socket === s) socket = null
    set({ line: 'gone' })
    setTimeout(open, wait)
    wait = Math.min(wait * 2, 4000)
  }
}

let started = false
export function startLive() {
  if (started) return
  started = true
  open()
  setInterval(() => {
    const old = performance.now() - lastAt > 1000
    if (old && state.line === 'fresh' && state.status?.connected) set({ line: 'old' })
  }, 500)
}

export function say(message: Schemas['Said']): boolean {
  if (socket?.readyState !== WebSocket.OPEN) return false
  socket.send(JSON.stringify({ ...message, at: performance.now() }))
  return true
}

const subscribe = (l: () => void) => {
  listeners.add(l)
  return () => listeners.delete(l)
}

export const now = () => state

/** Re-renders only when what is selected changes; select must give a primitive. */
export function useLive<T extends string | number | boolean | null | undefined>(select: (s: LiveState) => T): T {
  return useSyncExternalStore(subscribe, () => select(state))
}

/** Calls draw with every message, without rendering: for what moves. */
export function useLiveDraw(draw: (s: LiveState) => void) {
  const latest = useRef(draw)
  latest.current = draw
  useEffect(() => {
    const l = () => latest.current(state)
    l()
    return subscribe(l) as unknown as () => void
  }, [])
}
