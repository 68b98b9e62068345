import { useState } from 'react'
import { useSearchParams } from 'react-router'
import { stage } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import type { QuadAt } from '../../wire/figures'
import type { StationProps } from '../props'
import { Hands } from './hands'
import { SwitchMap } from './map'
import { Modes } from './modes'
import { Profiles } from './profiles'
import { RadioPlan } from './radio'
import { RadioLook } from './radio-look'
import { useRadioHere, useSource } from './source'

const places = ['hands', 'map', 'profiles', 'radio', 'modes'] as const
type Place = (typeof places)[number]
const words: Record<Place, string> = { hands: 'Hands', map: 'Switch map', profiles: 'Profiles', radio: 'Radio plan', modes: 'Modes flown' }

/** From the hand to what the board does: captured, mapped and planned. */
export function SticksStation({ quad, perch }: StationProps<QuadAt<'sticks'>>) {
  const [query, setQuery] = useSearchParams()
  const at = places.find((p) => p === query.get('at')) ?? 'hands'
  const here = useRadioHere()
  const [kind, setKind] = useState<'bench' | 'radio'>('bench')
  const source = useSource(kind, here)
  return (
    <div className={stage} style={{ overflowY: 'auto' }}>
      <div className="flex flex-wrap items-center gap-2.5">
        <Segments
          items={places.map((p) => ({ value: p, words: words[p] }))}
          value={at}
          onChoose={(p) => setQuery(p === 'hands' ? {} : { at: p }, { replace: true })}
        />
        {(here || kind === 'radio') && (
          <Segments
            items={[
              { value: 'bench', words: 'as the board hears' },
              { value: 'radio', words: 'from the radio at this computer' },
            ]}
            value={kind}
            onChoose={setKind}
          />
        )}
        {kind === 'radio' && !here && (
          <span role="status" className="text-fix">
            No radio is plugged in here.
          </span>
        )}
      </div>
      {at === 'hands' && kind === 'radio' && here && <RadioLook />}
      {at === 'hands' && <Hands quad={quad} perch={perch} source={source} />}
      {at === 'map' && <SwitchMap quad={quad} source={source} />}
      {at === 'profiles' && <Profiles quad={quad} />}
      {at === 'radio' && <RadioPlan quad={quad} />}
      {at === 'modes' && <Modes quad={quad} />}
    </div>
  )
}
