import { lazy, Suspense } from 'react'
import { useSearchParams } from 'react-router'
import { join } from '../../kit/join'
import { stage } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import type { QuadAt } from '../../wire/figures'
import type { StationProps } from '../props'
import { AlarmTuned } from './alarm'

const views = {
  current: lazy(() => import('./current').then((m) => ({ default: m.CurrentKnown }))),
  reach: lazy(() => import('./reach').then((m) => ({ default: m.PacksAndReach }))),
}
const shown = [
  { value: 'alarm', words: 'Alarm' },
  { value: 'current', words: 'Current' },
  { value: 'reach', words: 'Packs and reach' },
] as const

/** Will it tell me in time: the alarm over a flight, how the board knows what flows, and how far a pack reaches. */
export function PowerWatchStation({ quad, perch }: StationProps<QuadAt<'power-watch'>>) {
  const [query, setQuery] = useSearchParams()
  const asked = query.get('at') ?? ''
  const at = asked in views ? (asked as keyof typeof views) : undefined
  const Shown = at && views[at]
  return (
    <div className={join(stage, 'overflow-y-auto *:flex-none')}>
      <div>
        <Segments items={[...shown]} value={at ?? 'alarm'} onChoose={(to) => setQuery(to === 'alarm' ? {} : { at: to }, { replace: true })} />
      </div>
      {Shown ? (
        <Suspense>
          <Shown quad={quad} perch={perch} />
        </Suspense>
      ) : (
        <AlarmTuned quad={quad} perch={perch} />
      )}
    </div>
  )
}
