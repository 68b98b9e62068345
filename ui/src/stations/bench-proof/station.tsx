import { useEffect, useRef, useState } from 'react'
import { showError } from '../../shell/message'
import { acts, type QuadView, type Schemas, useAct } from '../../wire/client'
import { HoldButton } from '../../wire/hold'
import { useLive } from '../../wire/live'
import type { Path } from '../../wire/path'

/** The switch of the radio that arms, and the position that does. */
export function armSwitch(quad: QuadView): { name: string; position: string } | null {
  const channel = quad.meant.sheet.sticks.arm.channel
  for (const [name, s] of Object.entries(quad.meant.radio.switches)) {
    const plan = s as Schemas['SwitchPlan']
    if (plan.channel === channel) return { name, position: plan.positions.find((p) => p !== plan.rest) ?? '' }
  }
  return null
}

/**
 * Holds the arm switch on; while it is held, asks the server once to take a reading that needs it. Then is where the throttle goes once it
 * is armed: with it up it would not arm.
 */
export function HoldArmed(props: { quad: QuadView; path: Path; level: number; label: string; whenTurning: boolean; then?: number }) {
  const { quad } = props
  const [held, setHeld] = useState(false)
  const asked = useRef(false)
  const arm = armSwitch(quad)
  const take = useAct(quad.id, () => acts.take(quad.id, props.path))
  const running = useLive((s) => s.live?.motion === 'arm' && (s.live.armed || !props.whenTurning))
  // What is needed to begin; while it is held the radio may well be off, and the button must stay.
  const armed = useLive((s) => s.live?.armed ?? false)
  const able = useLive((s) => Boolean(s.live?.pack && s.live.radio && !s.live.propellers))
  useEffect(() => {
    if (!held) asked.current = false
    else if (running && !asked.current) {
      asked.current = true
      take.mutate(undefined, { onError: showError })
    }
  }, [held, running, take])
  return (
    <HoldButton
      motion={() => ({ kind: 'arm', level: armed ? (props.then ?? props.level) : props.level, switch: arm?.name, position: arm?.position })}
      disabled={!held && (!able || !arm)}
      onHeld={setHeld}
    >
      {take.isPending ? 'Measuring: go on holding…' : props.label}
    </HoldButton>
  )
}

export function BenchProofWays({ quad }: { quad: QuadView }) {
  return (
    <div className="flex flex-wrap items-center gap-2.5">
      <HoldArmed quad={quad} path="readings.benchProof.gateRefuses" level={25} label="Hold: arm with throttle up" whenTurning={false} />
      <HoldArmed quad={quad} path="readings.benchProof.frameYaw" level={0} then={12} label="Hold: arm, then turn the frame" whenTurning />
      <HoldArmed quad={quad} path="readings.benchProof.stickYaw" level={0} then={12} label="Hold: arm, then yaw right" whenTurning />
      <HoldArmed quad={quad} path="readings.benchProof.radioOff" level={0} label="Hold: arm, then lose the radio" whenTurning />
      <span className="text-soft">
        Props off, pack in, radio on, Finger on Cut power. Hold each until it says so; with your own quad in your hands, type what you saw.
      </span>
    </div>
  )
}
