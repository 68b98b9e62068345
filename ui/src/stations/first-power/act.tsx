import { useEffect, useRef } from 'react'
import { Button, TextButton } from '../../kit/button'
import { steps as stepsLook, ways } from '../../kit/looks'
import { useOwn } from '../../places/bench/whose'
import { showError } from '../../shell/message'
import { acts, type QuadView, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { firstPower } from '../../wire/firstpower'
import { useLive } from '../../wire/live'
import type { Path } from '../../wire/path'
import type { StationProps } from '../props'

type View = QuadAt<'first-power'>['power']
type Name = 'propellersOff' | 'antennasOn' | 'leadResistance' | 'frameResistance' | 'polarity' | 'idleCurrent'

/** The order of the act: each with its caution, the reading that it leaves, and what a look at the bench is called. */
const act: readonly { name: Name; what: string; caution: string; look?: string }[] = [
  { name: 'propellersOff', what: 'All four propellers off', caution: 'A motor that starts by mistake has fingers next to it.', look: 'Look at the motors' },
  {
    name: 'antennasOn',
    what: 'An antenna on every transmitter',
    caution: 'Without one it destroys its own output stage within seconds.',
    look: 'Look at the antennas',
  },
  { name: 'leadResistance', what: 'Meter across the lead, pack out', caution: 'Discharged first; watched for ten seconds.' },
  {
    name: 'frameResistance',
    what: 'Meter from the lead to bare carbon',
    caution: 'Either pole; carbon conducts.',
    look: 'Hold the probes on lead and frame',
  },
  {
    name: 'polarity',
    what: 'Meter from the plug’s plus to the board’s plus',
    caution: 'Crossed, everything behind it burns the moment the pack goes in.',
    look: 'Hold the probes on both plus',
  },
  {
    name: 'idleCurrent',
    what: 'Pack on through a limiter, or a meter in series',
    caution: 'A hand at the plug, and out at the first warmth.',
  },
]

const pathOf = (name: Name) => `readings.firstPower.${name}` as Path

/** The first power, one step at a time; what was confirmed before an interruption is asked anew. */
export function GuidedAct({ quad, perch, view }: StationProps & { view: View }) {
  const own = useOwn()
  const asked = new Set(perch.asks.map((a) => a.path as string))
  const read = (name: Name) => (asked.has(pathOf(name)) ? undefined : perch.readings.find((r) => r.path === pathOf(name)))
  const next = act.find(({ name }) => !read(name))?.name
  const take = useAct(quad.id, (path: Path) => acts.take(quad.id, path))
  const type = useAct(quad.id, (path: Path) => acts.type(quad.id, path, true))
  const interrupted = useInterruption(quad, next === 'idleCurrent')
  const busy = take.isPending || type.isPending
  return (
    <section aria-label="In this order">
      <ol className={stepsLook} aria-label="The first power, in this order">
        {act.map(({ name, what, caution, look }, i) => {
          const got = read(name)
          const now = name === next
          return (
            <li key={name} data-is={got ? 'done' : now ? 'now' : undefined} aria-current={now ? 'step' : undefined}>
              <span>{got ? '✓' : i + 1}</span>
              <span>
                {what}
                {got && <b> {got.words}</b>}
              </span>
              {!got && <span className="text-[13px] text-soft">{caution}</span>}
              {name === 'idleCurrent' && view.video.length > 0 && !got && (
                <span className={view.allowed ? 'text-[13px] text-soft' : 'text-[13px] font-semibold text-fix'}>
                  The video first on its lowest power. {view.channel}
                </span>
              )}
              {now && look && (
                <span className={ways}>
                  {own && (
                    <Button small main disabled={busy} onClick={() => take.mutate(pathOf(name), { onError: showError })}>
                      {look}
                    </Button>
                  )}
                  {(name === 'propellersOff' || name === 'antennasOn' || name === 'polarity') && !own && (
                    <Button small disabled={busy} onClick={() => type.mutate(pathOf(name), { onError: showError })}>
                      Seen: it is so
                    </Button>
                  )}
                </span>
              )}
            </li>
          )
        })}
      </ol>
      <p className="text-[13px] text-soft">
        <TextButton disabled={interrupted.isPending} onClick={() => interrupted.mutate('told by the pilot', { onError: showError })}>
          I was interrupted
        </TextButton>
        : propellers and antennas are asked anew. A limiter stops a short that a meter only shows; a meter shows what creeps under a limit: either proves, both
        is better.
      </p>
    </section>
  )
}

/** A pack that comes out while it was being looked at is an interruption, whoever pulled it. */
function useInterruption(quad: QuadView, measuring: boolean) {
  const own = useOwn()
  const pack = useLive((s) => own && Boolean(s.live?.pack))
  const was = useRef(false)
  const note = useAct(quad.id, (why: string) => firstPower.interrupted(quad.id, why))
  const mutate = useRef(note.mutate)
  mutate.current = note.mutate
  useEffect(() => {
    if (was.current && !pack && measuring) mutate.current('the pack came out', { onError: showError })
    was.current = pack
  }, [pack, measuring])
  return note
}
