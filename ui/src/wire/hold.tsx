// Hold to run: a motion lasts only while the pilot holds. Each renewal is one message; when the hand, the
// focus, the tab or the line goes, the renewals end and the device stops by itself.
import { type ReactNode, useCallback, useEffect, useRef, useState } from 'react'
import { useMatch } from 'react-router'
import { Button } from '../kit/button'
import { join } from '../kit/join'
import { useOwn } from '../places/bench/whose'
import { show as tellPilot } from '../shell/message'
import { type LiveState, type Motion, now, say, useLiveDraw } from './live'

const renewEvery = 100

/** Holds a motion of the quad that is shown. It ends, and says so, when a renewal came too late for the device: to go on is the pilot's to say. */
export function useHold(motion: (heldMs: number) => Motion, onEnd?: () => void, onRanOut?: () => void) {
  const quad = Number(useMatch('/quads/:id/*')?.params.id ?? 0)
  const whose = useRef(quad)
  whose.current = quad
  const [held, setHeld] = useState(false)
  const timer = useRef(0)
  const began = useRef(0)
  const renewed = useRef(0)
  const runs = useRef(false)
  const make = useRef(motion)
  make.current = motion
  const ended = useRef(onEnd)
  ended.current = onEnd
  const ranOut = useRef(onRanOut)
  ranOut.current = onRanOut

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
    began.current = renewed.current = performance.now()
    runs.current = false
    const renew = () => {
      const late = performance.now() - renewed.current > (now().status?.lease ?? Number.POSITIVE_INFINITY)
      renewed.current = performance.now()
      if (late) {
        end()
        ranOut.current?.()
      } else if (
        now().line === 'gone' ||
        document.hidden ||
        !say({ kind: 'motion', quad: whose.current, motion: make.current(performance.now() - began.current) })
      )
        end()
    }
    timer.current = window.setInterval(renew, renewEvery)
    setHeld(true)
    renew()
  }, [end])

  useLiveDraw((s: LiveState) => {
    if (!timer.current || !s.live) return
    if (s.live.motion) runs.current = true
    else if (runs.current) {
      end()
      if (s.live.pack) ranOut.current?.()
    }
  })

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
  const { held, begin, end } = useHold(props.motion, undefined, () => tellPilot('The hold ran out: a renewal came too late, so it has stopped. Hold again.'))
  const tell = useRef(props.onHeld)
  tell.current = props.onHeld
  // Motors of another quad are never turned from here.
  const disabled = !useOwn() || props.disabled
  useEffect(() => tell.current?.(held), [held])
  return (
    <Button
      className={join('touch-none select-none data-[held=true]:border-ink data-[held=true]:bg-ink data-[held=true]:text-panel', props.className)}
      data-held={held}
      aria-pressed={held}
      aria-label={props.label}
      // Not the attribute: what disables it may come and go while a key rests on it, and must not take the focus along.
      aria-disabled={disabled || undefined}
      onPointerDown={(e) => {
        if (disabled) return
        e.currentTarget.setPointerCapture(e.pointerId)
        begin()
      }}
      onPointerUp={end}
      onPointerCancel={end}
      onLostPointerCapture={end}
      onKeyDown={(e) => {
        if (e.key === ' ') {
          e.preventDefault()
          if (!e.repeat && !disabled) begin()
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
    </Button>
  )
}
