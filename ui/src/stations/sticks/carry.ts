// A meaning that is being carried from one position of a switch to another: by a pointer, or picked up and moved by keys.
import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from 'react'
import { onConflict } from '../../places/line/conflict'
import { assignMeaning, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'

export type MeaningId = Schemas['AssignBody']['function']
/** Where a meaning can be put: a position of a switch, or on none. */
export type Spot = { switch: string; position: string }
export const offSwitches: Spot = { switch: '', position: '' }

const same = (a: Spot | null, b: Spot) => a !== null && a.switch === b.switch && a.position === b.position
const farEnough = 5 // px that a pointer moves before it carries

/** How a meaning is named by its id and its spot, so that the keyboard finds it again where it was put. */
export const meaningKey = (id: MeaningId, spot: Spot) => `${id} ${spot.switch} ${spot.position}`

export type Carry = ReturnType<typeof useCarry>

export function useCarry(quad: QuadAt<'sticks'>) {
  const map = quad.switches.map
  const [carried, setCarried] = useState<MeaningId | ''>('')
  const [over, setOver] = useState<Spot | null>(null)
  const [words, setWords] = useState('')
  const begun = useRef<{ x: number; y: number } | null>(null)
  const follow = useRef('') // the meaning that the keyboard goes along with
  const put = useAct(quad.id, (to: Spot & { function: MeaningId }) =>
    assignMeaning(quad.id, { version: quad.version, function: to.function, switch: to.switch, positions: to.position ? [to.position] : [] }),
  )
  const named = (id: MeaningId | '') => map.meanings.find((m) => m.id === id)?.on ?? ''
  const spotWords = (s: Spot) => (s.switch ? `${s.switch} at ${s.position}` : 'no switch')
  const leave = () => {
    begun.current = null
    setCarried('')
    setOver(null)
  }
  const drop = (id: MeaningId, from: Spot, to: Spot | null, byKeys: boolean) => {
    leave()
    if (to === null || same(to, from)) {
      setWords(`${named(id)} stays where it is`)
      return
    }
    if (byKeys) follow.current = meaningKey(id, to)
    put.mutate(
      { ...to, function: id },
      {
        onError: onConflict(quad, 'The meaning', []),
        onSuccess: () => setWords(`${named(id)} is on ${spotWords(to)}`),
      },
    )
  }
  useEffect(() => {
    if (!follow.current) return
    const el = document.querySelector<HTMLElement>(`[data-meaning="${CSS.escape(follow.current)}"]`)
    if (!el) return
    follow.current = ''
    el.focus()
  })
  const spotAt = (x: number, y: number): Spot | null => {
    const el = document.elementFromPoint(x, y)?.closest<HTMLElement>('[data-position], [data-off]')
    if (!el) return null
    return el.dataset.position === undefined ? offSwitches : { switch: el.dataset.switch ?? '', position: el.dataset.position }
  }
  const open = map.columns.filter((c) => c.switch && c.shared.length === 0 && c.cells.length > 0)
  /** The spot that an arrow leads to. */
  const next = (from: Spot, key: string): Spot => {
    const at = open.findIndex((c) => c.switch === from.switch)
    const column = open[at]
    if (!column) return spotIn(open[0], 0)
    const row = column.cells.findIndex((c) => c.position === from.position)
    const beside = { ArrowLeft: -1, ArrowRight: 1 }[key]
    if (beside) return spotIn(open[Math.min(Math.max(at + beside, 0), open.length - 1)], row)
    return spotIn(column, row + (key === 'ArrowUp' ? 1 : -1))
  }
  return {
    carried,
    words,
    over: (spot: Spot) => carried !== '' && same(over, spot),
    /** What the meaning's button listens to. */
    listen: (id: MeaningId, from: Spot) => ({
      onPointerDown: (e: PointerEvent<HTMLElement>) => {
        if (e.button !== 0) return
        begun.current = { x: e.clientX, y: e.clientY }
        // At once: a quick hand has left the button before it has moved far enough.
        e.currentTarget.setPointerCapture(e.pointerId)
      },
      onPointerMove: (e: PointerEvent<HTMLElement>) => {
        const b = begun.current
        if (!b) return
        if (carried === '') {
          if (Math.hypot(e.clientX - b.x, e.clientY - b.y) < farEnough) return
          setCarried(id)
        }
        // It goes along with the pointer, and lets what lies below it be found.
        e.currentTarget.style.transform = `translate(${e.clientX - b.x}px, ${e.clientY - b.y}px)`
        e.currentTarget.style.pointerEvents = 'none'
        setOver(spotAt(e.clientX, e.clientY))
      },
      onPointerUp: (e: PointerEvent<HTMLElement>) => {
        const carrying = carried !== ''
        begun.current = null
        home(e.currentTarget)
        if (carrying) drop(id, from, spotAt(e.clientX, e.clientY), false)
      },
      onPointerCancel: (e: PointerEvent<HTMLElement>) => {
        home(e.currentTarget)
        leave()
      },
      onBlur: () => begun.current === null && carried === id && leave(),
      onKeyDown: (e: KeyboardEvent<HTMLElement>) => {
        const held = carried === id && over !== null
        if (e.key === ' ') {
          e.preventDefault()
          if (held) drop(id, from, over, true)
          else {
            setCarried(id)
            setOver(from)
            setWords(`${named(id)} is picked up; the arrows move it, the space bar puts it down, Escape leaves it`)
          }
        } else if (held && e.key.startsWith('Arrow')) {
          e.preventDefault()
          const to = next(over, e.key)
          setOver(to)
          setWords(`over ${spotWords(to)}`)
        } else if (held && e.key === 'Enter') {
          e.preventDefault()
          drop(id, from, over, true)
        } else if (held && e.key === 'Escape') {
          e.stopPropagation()
          leave()
          setWords(`${named(id)} stays where it is`)
        } else if (!held && from.switch && (e.key === 'Delete' || e.key === 'Backspace')) {
          e.preventDefault()
          drop(id, from, offSwitches, true)
        } else return
        e.stopPropagation()
      },
      // The space bar presses a button as it is let go.
      onKeyUp: (e: KeyboardEvent<HTMLElement>) => e.key === ' ' && e.preventDefault(),
    }),
  }
}

/** Puts a button back where it stands. */
function home(el: HTMLElement) {
  el.style.transform = ''
  el.style.pointerEvents = ''
}

const spotIn = (c: Schemas['Column'] | undefined, row: number): Spot => {
  const cell = c?.cells[Math.min(Math.max(row, 0), c.cells.length - 1)]
  return c && cell ? { switch: c.switch, position: cell.position } : offSwitches
}
