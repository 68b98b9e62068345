// Hold to run: a motion lasts only while the pilot holds. Each renewal is one message; when the hand, the
// focus, the tab or the line goes, the renewals end and the device stops by itself.
import { type ReactNode, useCallback, useEffect, useRef, useState } from 'react'
import { type Motion, now, say } from './live'

const renewEvery = 100

export function useHold(motion: (heldMs: number) => Motion, onEnd?: () => void) {
  const [held, setHeld] = useState(false)
  const timer = useRef(0)
  const began = useRef(0)
  const make = useRef(motion)
  make.current = motion
  const ended = useRef(onEnd)
  ended.current = onEnd

  const end = useCallback(() => {
    if (!timer.current) return
    window.clearInterval(timer.current)
    timer.current = 0
    say({ kind: 'rest' })
    setHeld(false)
    ended.current?.()
  }, [])

  const begin = useCallback(() => {
    if (timer.current) return
    began.current = performance.now()
    const renew = () => {
      if (now().line === 'gone' || document.hidden || !say({ kind: 'motion', motion: make.current(performance.now() - began.current) })) end()
    }
    timer.current = window.setInterval(renew, renewEvery)
    setHeld(true)
    renew()
  }, [end])

  useEffect(() => {
    const hidden = () => document.hidden && end()
    document.addEventListener('visibilitychange', hidden)
    window.addEventListener('blur', end)
    return () => {
      document.removeEventListener('visibilitychange', hidden)
      window.removeEventListener('blur', end)
      end()
    }
  }, [end])
  return { held, begin, end }
}

export function HoldButton(props: {
  motion: (heldMs: number) => Motion
  children: ReactNode
  disabled?: boolean
  className?: string
  label?: string
  onHeld?: (held: boolean) => void
}) {
  const { held, begin, end } = useHold(props.motion)
  const tell = useRef(props.onHeld)
  tell.current = props.onHeld
  useEffect(() => tell.current?.(held), [held])
  return (
    <button
      type="button"
      className={`btn hold ${props.className ?? ''}`}
      data-held={held}
      aria-pressed={held}
      aria-label={props.label}
      disabled={props.disabled}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        begin()
      }}
      onPointerUp={end}
      onPointerCancel={end}
      onLostPointerCapture={end}
      onKeyDown={(e) => {
        if (e.key === ' ') {
          e.preventDefault()
          if (!e.repeat) begin()
        }
      }}
      onKeyUp={(e) => {
        if (e.key === ' ') {
          e.preventDefault()
          end()
        }
      }}
      onBlur={end}
      onContextMenu={(e) => e.preventDefault()}
    >
      {props.children}
    </button>
  )
}
