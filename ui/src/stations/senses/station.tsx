import { useSearchParams } from 'react-router'
import { stage } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import type { QuadAt } from '../../wire/figures'
import { LitStation } from '../lit'
import type { StationProps } from '../props'
import { LevelPlate } from './plate'

const places = { quad: 'On the quad', plate: 'Level plate' } as const
type Place = keyof typeof places

/** What the board knows of up, drawn on the quad; and the plate that it is told by. */
export function SensesStation({ quad, perch }: StationProps<QuadAt<'drawing'>>) {
  const [query, setQuery] = useSearchParams()
  const at: Place = query.get('at') === 'plate' ? 'plate' : 'quad'
  return (
    <div className={stage} style={{ overflowY: 'auto' }}>
      <div>
        <Segments
          items={(Object.keys(places) as Place[]).map((p) => ({ value: p, words: places[p] }))}
          value={at}
          onChoose={(p) => setQuery(p === 'quad' ? {} : { at: p }, { replace: true })}
        />
      </div>
      {at === 'quad' ? <LitStation quad={quad} perch={perch} /> : <LevelPlate quad={quad} />}
    </div>
  )
}
