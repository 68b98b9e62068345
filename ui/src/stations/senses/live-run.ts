import { useCallback, useEffect, useRef, useState } from 'react'
import { useOwn } from '../../places/bench/whose'
import { type Live, useLiveDraw } from '../../wire/live'

/** No more than a minute of a fast board is kept: more tells nothing new. */
const most = 6000

/**
 * What the quad's own board shows while it is looked at: of each new message what is picked from it, nothing of one that has none. How many there are is told
 * every now and then, not with each; `began` names a run, so that two of one length are not taken for each other.
 */
export function useLiveRun<T>(on: boolean, pick: (live: Live) => T | undefined) {
  const own = useOwn()
  const run = useRef<T[]>([])
  const last = useRef(-1)
  const [count, setCount] = useState(0)
  const [began, setBegan] = useState(0)
  useLiveDraw((s) => {
    const l = s.live
    if (!on || !own || !l || l.sequence === last.current || run.current.length >= most) return
    const seen = pick(l)
    if (seen === undefined) return
    last.current = l.sequence
    run.current.push(seen)
  })
  useEffect(() => {
    if (!on) return
    const every = setInterval(() => setCount(run.current.length), 700)
    return () => clearInterval(every)
  }, [on])
  const clear = useCallback(() => {
    run.current = []
    setCount(0)
    setBegan((n) => n + 1)
  }, [])
  const all = useCallback(() => [...run.current], [])
  return { count, began, clear, all, seen: () => run.current.slice(0, count) }
}
