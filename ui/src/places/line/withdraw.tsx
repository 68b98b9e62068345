import { lazy, Suspense, useState } from 'react'
import { TextButton } from '../../kit/button'
import { acts, type QuadView, type Schemas, useAct } from '../../wire/client'

// Asked for seldom: it comes when it is.
const Reason = lazy(() => import('../../kit/reason').then((m) => ({ default: m.Reason })))

type Props = { quad: QuadView; kind: Schemas['WithdrawBody']['kind']; name: string; what: string }

/** Withdraws what counts, with a reason that stays beside it. */
export function Withdraw({ quad, kind, name, what }: Props) {
  const [asking, setAsking] = useState(false)
  const withdraw = useAct(quad.id, (why: string) => acts.withdraw(quad.id, { kind, name, seen: quad.seen, why }))
  return (
    <>
      <TextButton quiet aria-label={`Withdraw ${what}`} onClick={() => setAsking(true)}>
        Withdraw
      </TextButton>
      {asking && (
        <Suspense>
          <Reason
            title={`Withdraw ${what}`}
            words="It stays to be seen, struck through; nothing relies on it any more."
            act="Withdraw it"
            busy={withdraw.isPending}
            error={withdraw.error?.message}
            onDone={(why) => withdraw.mutate(why, { onSuccess: () => setAsking(false) })}
            onClose={() => setAsking(false)}
          />
        </Suspense>
      )}
    </>
  )
}
