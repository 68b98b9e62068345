// Where the channels of a capture come from: the bench, or a radio that this browser sees as a game controller.
import { useEffect, useRef, useState } from 'react'
import { useOwnBench } from '../../places/bench/whose'
import { acts, captureHere, type QuadView, radioHealth, type Schemas } from '../../wire/client'
import { now, useLiveDraw } from '../../wire/live'
import type { Path } from '../../wire/path'

export type Source = {
  kind: 'bench' | 'radio'
  able: boolean
  capture: (quad: number, path: Path) => Promise<QuadView>
}

const lasts = 5000 // ms of a capture
const every = 10 // ms between two samples of it

/** Channels that were seen to move by themselves; they are left out of captures. */
let spinning: number[] = []

/** The radio at this browser, if there is one: the controller with the most axes. */
function radio(): Gamepad | null {
  const all = [...navigator.getGamepads()].filter((p): p is Gamepad => Boolean(p?.connected) && (p?.axes.length ?? 0) >= 4)
  return all.sort((a, b) => b.axes.length - a.axes.length)[0] ?? null
}

/** Its channels in µs: axes first, then buttons, as radios send them. */
const channelsOf = (p: Gamepad) => [...p.axes.map((v) => 1500 + 500 * v), ...p.buttons.map((b) => 1000 + 1000 * b.value)].slice(0, 16)

/** Collects what the radio sends while a hand moves something. A radio that goes away keeps nothing. */
function collect(time = lasts): Promise<Schemas['Sample'][]> {
  const index = radio()?.index
  return new Promise((resolve, reject) => {
    const samples: Schemas['Sample'][] = []
    const began = performance.now()
    const step = () => {
      const p = navigator.getGamepads()[index ?? -1]
      if (!p?.connected) {
        reject(new Error('The radio was unplugged meanwhile. Nothing was saved; plug it in and capture again.'))
        return
      }
      const at = performance.now() - began
      samples.push({ at, channels: channelsOf(p).map((x) => Math.round(x * 10) / 10) })
      // By a timer and not by what is drawn: a page that draws late would miss what was sent meanwhile.
      if (at < time && samples.length < 2000) setTimeout(step, every)
      else resolve(samples)
    }
    step()
  })
}

const fromBench = (quad: number, path: Path) => acts.take(quad, path)
const fromRadio = async (quad: number, path: Path) => captureHere(quad, path, await collect(), spinning)

const handsOff = 2000 // ms

/** Looks at every channel: first with the hands off, then while everything is moved; says says which of the two it is. */
export async function lookAtRadio(says: (phase: 'rest' | 'move') => void) {
  says('rest')
  const rest = await collect(handsOff)
  says('move')
  const health = await radioHealth(rest, await collect(lasts))
  spinning = health.filter((h) => h.state === 'spinning').map((h) => h.channel)
  return health
}

/** Whether a radio is plugged into this computer. */
export function useRadioHere(): boolean {
  const [here, setHere] = useState(() => radio() !== null)
  useEffect(() => {
    const look = () => setHere(radio() !== null)
    const timer = setInterval(look, 700)
    window.addEventListener('gamepadconnected', look)
    window.addEventListener('gamepaddisconnected', look)
    return () => {
      clearInterval(timer)
      window.removeEventListener('gamepadconnected', look)
      window.removeEventListener('gamepaddisconnected', look)
    }
  }, [])
  return here
}

export function useSource(kind: 'bench' | 'radio', here: boolean): Source {
  const benchable = useOwnBench((s) => (s.live?.channels.length ?? 0) > 0)
  return kind === 'radio' ? { kind, able: here, capture: fromRadio } : { kind, able: benchable, capture: fromBench }
}

const within = 20 // µs of a cell's pulse

/** The position in which a switch lies now, by what its channel sends; none while nothing arrives or it lies in none. */
export function useNearest(source: Source, column: Schemas['Column'] | undefined): string | undefined {
  const [at, setAt] = useState<string>()
  useChannels(source, (c) => {
    const us = c[(column?.channel ?? 0) - 1]
    setAt(us === undefined ? undefined : column?.cells.find((x) => us > x.low - within && us < x.high + within)?.position)
  })
  return at
}

/** Calls draw with the channels as they arrive, without rendering. */
export function useChannels(source: Source, draw: (channels: number[]) => void) {
  const latest = useRef(draw)
  latest.current = draw
  const kind = source.kind
  useLiveDraw((s) => {
    if (kind === 'bench') latest.current(s.live?.channels ?? [])
  })
  useEffect(() => {
    if (kind !== 'radio') {
      latest.current(now().live?.channels ?? [])
      return
    }
    let frame = 0
    const step = () => {
      const p = radio()
      latest.current(p ? channelsOf(p) : [])
      frame = requestAnimationFrame(step)
    }
    step()
    return () => cancelAnimationFrame(frame)
  }, [kind])
}
