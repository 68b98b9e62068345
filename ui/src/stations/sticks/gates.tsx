import type { Schemas } from '../../wire/client'
import { HoldButton } from '../../wire/hold'
import { useLive } from '../../wire/live'

const groups: Record<string, string> = { hands: 'your hands', body: 'how it lies', senses: 'what it senses', machine: 'the board' }

/** Why it will not arm: the gates that hold, in the board's own order, each with what its lights or tones tell. */
export function Gates({ byStick }: { byStick: boolean }) {
  const list = useLive((s) => JSON.stringify((s.live?.gates ?? []).filter((g) => g.holds)))
  const armed = useLive((s) => s.live?.armed ?? false)
  const board = useLive((s) => s.live?.board === 'running')
  const calibration = useLive((s) => s.live?.calibration ?? '')
  const able = useLive((s) => Boolean(s.live?.pack && s.live.radio && !s.live.propellers))
  const gates = JSON.parse(list) as Schemas['Gate'][]
  return (
    <section aria-label="Why it will not arm" className="rounded-lg bg-sunk px-3.5 py-2">
      <b>Would it arm?</b>{' '}
      {!board
        ? 'The board does not run.'
        : armed
          ? 'It is armed.'
          : gates.length === 0
            ? 'Yes: nothing blocks it.'
            : `No: ${gates.length === 1 ? 'blocked by 1 thing' : `blocked by ${gates.length} things`}.`}
      {byStick && (
        <div className="flex flex-wrap items-center gap-2.5">
          <HoldButton motion={() => ({ kind: 'gesture', level: 0 })} disabled={!able}>
            Hold: throttle down, yaw right
          </HoldButton>
          <span role="status" className={calibration === 'failed' ? 'text-stop' : 'text-soft'}>
            {calibration === 'running'
              ? 'Its gyro is being calibrated: do not touch it.'
              : calibration === 'failed'
                ? 'It was moved: let go, put it down, hold again.'
                : 'Propellers off. It arms after a second, and a calibration.'}
          </span>
        </div>
      )}
      <ol>
        {gates.map((g, i) => (
          <li key={g.name}>
            {i + 1}. <span className="text-soft">{groups[g.group]}:</span> {g.sentence} <span className="text-soft">{g.remedy}</span>
            {g.signal && <span className="text-note"> {g.signal}</span>}
          </li>
        ))}
      </ol>
    </section>
  )
}
