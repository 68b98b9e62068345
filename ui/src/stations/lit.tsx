import { stage } from '../kit/looks'
import type { QuadView } from '../wire/client'
import type { QuadAt } from '../wire/figures'
import type { Path } from '../wire/path'
import { BenchProofWays } from './bench-proof/station'
import { type Callout, CalloutMark, CalloutTable } from './callout'
import { type Part, PlainRotors, QuadBody } from './drawing'
import type { Station, StationProps } from './props'

/** What is meant at a place, in the core's words. */
const told = (q: QuadView, path: Path) => q.leaves[path]?.words ?? 'not told'
const reading = (p: StationProps['perch'], path: Path) => p.readings.find((r) => r.path === path)?.words ?? 'not yet read'

/** What a station is about: which parts are lit, and what is known of them, at their places. */
const about: Partial<Record<Station, (quad: QuadView, p: StationProps['perch']) => { lit: Part[]; callouts: Callout[] }>> = {
  senses: (_, p) => ({
    lit: ['board'],
    callouts: [
      {
        at: [0, 0.05],
        side: 'right',
        row: 1,
        name: 'On the level plate',
        lines: [reading(p, 'readings.senses.level'), 'positive is right side', 'down, and nose up'],
      },
      { at: [0.1, -0.1], side: 'right', row: 3, name: 'Gyro at rest', lines: [reading(p, 'readings.senses.gyroStill')] },
      { at: [-0.1, -0.1], side: 'left', row: 3, name: 'How it lies', lines: [reading(p, 'readings.senses.boardLies'), 'found by three moves of the frame'] },
    ],
  }),
  picture: (q, p) => ({
    lit: ['video', 'camera'],
    callouts: [
      {
        at: [0.16, -0.3],
        side: 'right',
        row: 3,
        name: 'Transmitter',
        lines: [`${told(q, 'sheet.picture.frequency')}, ${told(q, 'sheet.picture.power')}`, `on the unit: ${reading(p, 'readings.picture.frequency')}`],
      },
      { at: [0, 0.52], side: 'right', row: 1, name: 'Clear picture', lines: [reading(p, 'readings.picture.seen')] },
      {
        at: [0.14, -0.36],
        side: 'left',
        row: 3,
        name: 'Allowed here',
        lines: [`from ${told(q, 'limits.videoLow')} to ${told(q, 'limits.videoHigh')}`, told(q, 'limits.videoPower')],
      },
    ],
  }),
  'bench-proof': (_, p) => ({
    lit: ['motors', 'board', 'receiver'],
    callouts: [
      { at: [-0.12, 0.05], side: 'left', row: 1, name: 'Refuses throttle up', lines: [reading(p, 'readings.benchProof.gateRefuses')] },
      { at: [0.12, 0.05], side: 'right', row: 1, name: 'Frame turned: answered', lines: [reading(p, 'readings.benchProof.frameYaw')] },
      { at: [0.12, -0.1], side: 'right', row: 3, name: 'Yaw stick twists its way', lines: [reading(p, 'readings.benchProof.stickYaw')] },
      { at: [-0.1, -0.3], side: 'left', row: 3, name: 'Radio off: as set', lines: [reading(p, 'readings.benchProof.radioOff')] },
    ],
  }),
}

/** A station told on the shared drawing: its parts lit, its figures where they belong. */
export function LitStation({ quad, perch }: StationProps<QuadAt<'drawing'>>) {
  const { lit, callouts } = (perch.id ? about[perch.id] : undefined)?.(quad, perch) ?? { lit: [], callouts: [] }
  return (
    <div className={stage}>
      <CalloutTable callouts={callouts} />
      <svg viewBox="0 0 852 500" role="img" aria-label={callouts.map((c) => `${c.name}: ${c.lines.join(', ')}`).join('. ')}>
        <QuadBody quad={quad} lit={lit}>
          <PlainRotors quad={quad} lit={lit.includes('motors')} />
          {callouts.map((c) => (
            <CalloutMark key={c.name} c={c} />
          ))}
        </QuadBody>
      </svg>
      {perch.id === 'bench-proof' && <BenchProofWays quad={quad} />}
    </div>
  )
}
