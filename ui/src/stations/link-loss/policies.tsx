import { TextButton } from '../../kit/button'
import { onConflict } from '../../places/line/conflict'
import { acts, type QuadView, type Schemas, useAct } from '../../wire/client'

export type Policy = Schemas['FlightLineLosses']['policy']

/** What it does without a radio, as it is told of one that does, and of one that should. */
export const doing: Record<string, string> = { drop: 'stops its motors', land: 'descends', return: 'comes home' }
const should: Record<string, string> = { drop: 'stop its motors', land: 'descend', return: 'come home' }

/** The policy that is advised somewhere, with its reason; one press sets it. */
export function Advised({ quad, where, advice }: { quad: QuadView; where: string; advice: { policy: string; why: string } }) {
  const { policy, why } = advice
  const set = useAct(quad.id, (to: string) => acts.edit(quad.id, quad.version, [{ path: 'sheet.loss.policy', value: to }]))
  return (
    <p className="mt-1.5 border-l-4 border-act bg-act-bg px-2.5 py-1.5">
      <b>
        {where} it should {should[policy]}.
      </b>{' '}
      {why}{' '}
      {quad.meant.sheet.loss.policy === policy ? (
        <span className="text-ok">So it is set.</span>
      ) : (
        <TextButton
          disabled={set.isPending}
          onClick={() => set.mutate(policy, { onError: onConflict(quad, 'Policy on radio loss', [{ path: 'sheet.loss.policy', value: policy }]) })}
        >
          Set it so
        </TextButton>
      )}
    </p>
  )
}
