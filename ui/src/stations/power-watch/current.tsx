import { useState } from 'react'
import { Segments } from '../../kit/segments'
import type { QuadAt } from '../../wire/figures'
import type { StationProps } from '../props'
import { ModelOfCurrent } from './model'
import { ScaleOfSensor } from './scale'

/** How the board knows what flows: by a sensor whose scale charger figures tell, or by a model made of two readings. */
export function CurrentKnown({ quad, perch }: StationProps<QuadAt<'power-watch'>>) {
  const [by, setBy] = useState<'sensor' | 'none' | 'charger'>('none')
  return (
    <>
      <Segments
        label="How the board knows what flows"
        items={[
          { value: 'none', words: 'No sensor, by readings' },
          { value: 'charger', words: 'No sensor, by the charger' },
          { value: 'sensor', words: 'A current sensor' },
        ]}
        value={by}
        onChoose={setBy}
      />
      {by === 'none' ? <ModelOfCurrent quad={quad} perch={perch} /> : <ScaleOfSensor key={by} quad={quad} perch={perch} model={by === 'charger'} />}
    </>
  )
}
