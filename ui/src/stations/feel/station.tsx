import { lazy, Suspense } from 'react'
import { useSearchParams } from 'react-router'
import { Button } from '../../kit/button'
import { join } from '../../kit/join'
import { stage, ways } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { onConflict } from '../../places/line/conflict'
import { acts, type Change, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import type { StationProps } from '../props'
import { StickCurves } from './stick'
import { useTried } from './tried'

const views = {
  throttle: lazy(() => import('./throttle').then((m) => ({ default: m.ThrottleStick }))),
  gains: lazy(() => import('./gains').then((m) => ({ default: m.GainsTried }))),
  filters: lazy(() => import('./filters').then((m) => ({ default: m.FiltersTried }))),
  lean: lazy(() => import('./lean').then((m) => ({ default: m.SpeedAndLean }))),
  borrow: lazy(() => import('./borrow').then((m) => ({ default: m.BorrowedFeel }))),
  tune: lazy(() => import('./self-tune').then((m) => ({ default: m.SelfTune }))),
}
const shown = [
  { value: 'stick', words: 'Stick' },
  { value: 'throttle', words: 'Throttle' },
  { value: 'gains', words: 'Gains' },
  { value: 'filters', words: 'Filters' },
  { value: 'lean', words: 'Speed and lean' },
  { value: 'borrow', words: 'Borrow' },
] as const

/** How it answers the hands, from stick to motor: everything is tried first, flown in the model, and taken as one act. */
export function FeelStation({ quad }: StationProps<QuadAt<'feel'>>) {
  const [query, setQuery] = useSearchParams()
  const asked = query.get('at') ?? ''
  const at = asked in views ? (asked as keyof typeof views) : undefined
  const tried = useTried(quad)
  const edit = useAct(quad.id, (values: Change[]) => acts.edit(quad.id, quad.version, values))
  const take = () => edit.mutate(tried.list, { onError: onConflict(quad, 'What was tried', tried.list), onSuccess: () => tried.clear() })
  const Shown = at && views[at]
  const items = quad.hands.tune ? [...shown, { value: 'tune' as const, words: 'Self-tune' }] : [...shown]
  const n = tried.list.length
  return (
    <div className={join(stage, 'overflow-y-auto *:flex-none')}>
      <div className={join(ways, 'justify-between pr-24')}>
        <Segments items={items} value={at ?? 'stick'} onChoose={(to) => setQuery(to === 'stick' ? {} : { at: to }, { replace: true })} />
      </div>
      <div className={join(ways, 'min-h-8 rounded-lg bg-sunk px-3 py-1 text-[14px]')} aria-live="polite">
        <span className="grow">
          {n === 0
            ? 'Everything here is tried first, and changes nothing until you take it.'
            : `${n === 1 ? 'One setting is' : `${n} settings are`} tried, and not taken yet.`}
        </span>
        <Button small main disabled={n === 0 || edit.isPending} onClick={take}>
          Take what is tried
        </Button>
        <Button small disabled={n === 0 || edit.isPending} onClick={tried.clear}>
          Back to the settings
        </Button>
      </div>
      {Shown ? (
        <Suspense>
          <Shown quad={quad} tried={tried} />
        </Suspense>
      ) : (
        <StickCurves quad={quad} tried={tried} />
      )}
    </div>
  )
}
