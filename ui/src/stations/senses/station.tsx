import { useSearchParams } from 'react-router'
import { stage } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import type { QuadAt } from '../../wire/figures'
import { LitStation } from '../lit'
import type { StationProps } from '../props'
import { CompassSphere } from './compass'
import { MotorCurrent } from './currents'
import { SixFaces } from './faces'
import { HeightAtRest } from './heights'
import { BoardMount } from './mount'
import { LevelPlate } from './plate'
import { HeadingRose } from './rose'
import { SkyTrial } from './sky'

const places = {
  quad: 'On the quad',
  mount: 'Board',
  plate: 'Level plate',
  faces: 'Six faces',
  compass: 'Compass',
  heading: 'Heading',
  current: 'Motor current',
  sky: 'Sky',
  height: 'Height',
} as const
type Place = keyof typeof places

/** What the board knows of up, north, where it is and how high: drawn on the quad, and the instruments that it is told by. */
export function SensesStation({ quad, perch }: StationProps<QuadAt<'drawing'>>) {
  const [query, setQuery] = useSearchParams()
  const asked = query.get('at') ?? ''
  const at: Place = asked in places ? (asked as Place) : 'quad'
  return (
    <div className={stage} style={{ overflowY: 'auto' }}>
      <div>
        <Segments
          items={(Object.keys(places) as Place[]).map((p) => ({ value: p, words: places[p] }))}
          value={at}
          onChoose={(p) => setQuery(p === 'quad' ? {} : { at: p }, { replace: true })}
        />
      </div>
      {at === 'quad' && <LitStation quad={quad} perch={perch} />}
      {at === 'mount' && <BoardMount quad={quad} />}
      {at === 'plate' && <LevelPlate quad={quad} />}
      {at === 'faces' && <SixFaces quad={quad} />}
      {at === 'compass' && <CompassSphere quad={quad} />}
      {at === 'heading' && <HeadingRose quad={quad} />}
      {at === 'current' && <MotorCurrent quad={quad} />}
      {at === 'sky' && <SkyTrial quad={quad} />}
      {at === 'height' && <HeightAtRest quad={quad} />}
    </div>
  )
}
