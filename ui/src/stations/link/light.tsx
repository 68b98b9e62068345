import { useEffect, useRef } from 'react'
import type { Schemas } from '../../wire/client'
import { useLive } from '../../wire/live'

export type Gear = Schemas['Gear']
export type State = Schemas['BindingState']['light']

const stateWords: Record<State, string> = {
  off: 'off',
  searching: 'hears nothing of its link',
  stranger: 'hears a radio that is not its own',
  binding: 'binding',
  page: 'on its wireless page',
  bound: 'bound',
}

/** What the receiver's light means now, by the gear's own patterns; nothing without a bench. */
export function useLight(gear: Gear | undefined): { state: State | ''; words: string; blink: number[] } {
  const beats = useLive((s) => (s.live ? s.live.link.light.join(' ') : null))
  if (beats === null || beats === undefined || !gear) return { state: '', words: '', blink: [] }
  const hit = gear.lights.find((l) => l.blink.join(' ') === beats)
  const blink = beats ? beats.split(' ').map(Number) : []
  if (!hit) return { state: '', words: 'blinks in a way that is not among its lights', blink }
  return { state: hit.state as State, words: hit.words, blink }
}

export const meaning = (s: State | '') => (s ? stateWords[s] : '')

const span = 2600 // ms that a strip shows

/** A pattern as an eye sees it over two and a half seconds: lit above the line, dark on it. Its words stand beside it. */
export function Strip({ beats, sound }: { beats: number[]; sound?: boolean }) {
  const lit: [number, number][] = []
  if (beats.length === 1 && !sound) lit.push([0, span])
  else if (beats.length > 0)
    for (let at = 0, i = 0; at < span; i++) {
      const long = beats[i % beats.length] ?? span
      if (i % 2 === 0 || beats.length === 1) lit.push([at, Math.min(at + long, span)])
      at += long
      if (sound && beats.length === 1) break
    }
  const x = (ms: number) => (ms / span) * 126
  return (
    <svg className="flex-none" width="128" height="14" viewBox="0 0 128 14" aria-hidden="true">
      <path d="M0 12.5H128" stroke="var(--line)" />
      {lit.map(([a, b]) => (
        <rect key={a} x={x(a)} y="3" width={Math.max(x(b) - x(a), 1.5)} height="9" fill={sound ? 'var(--note)' : 'var(--act)'} />
      ))}
    </svg>
  )
}

/** The light itself, blinking as it does; still for who asked for no motion, whose words say it. */
export function Lamp({ blink, size = 9 }: { blink: number[]; size?: number }) {
  const dot = useRef<SVGCircleElement>(null)
  const key = blink.join(' ')
  useEffect(() => {
    const el = dot.current
    if (!el) return
    const beats = key ? key.split(' ').map(Number) : []
    el.style.opacity = beats.length === 0 ? '0' : '1'
    if (beats.length < 2 || matchMedia('(prefers-reduced-motion: reduce)').matches) return
    const whole = beats.reduce((a, b) => a + b, 0)
    let at = 0
    const frames = beats.map((b, i) => {
      const f = { opacity: i % 2 ? 0 : 1, offset: at / whole, easing: 'steps(1, end)' }
      at += b
      return f
    })
    const run = el.animate([...frames, { opacity: 0, offset: 1 }], { duration: whole, iterations: Number.POSITIVE_INFINITY })
    return () => run.cancel()
  }, [key])
  return (
    <g>
      <circle r={size} fill="var(--panel)" stroke="var(--wire)" strokeWidth="1.5" />
      <circle ref={dot} r={size - 2.5} fill="var(--act)" stroke="none" />
    </g>
  )
}
