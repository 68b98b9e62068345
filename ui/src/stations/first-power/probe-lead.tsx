import { useMutation, useQuery } from '@tanstack/react-query'
import { useCallback, useEffect, useState } from 'react'
import { Button } from '../../kit/button'
import { ways } from '../../kit/looks'
import { Tick } from '../../kit/tick'
import { useOwn } from '../../places/bench/whose'
import { showError } from '../../shell/message'
import { acts, type QuadView, useAct } from '../../wire/client'
import { firstPower, type Ohm } from '../../wire/firstpower'
import { type Live, useLive } from '../../wire/live'
import { useLiveRun } from '../senses/live-run'

/** How long probes are held on a lead, s. */
const holds = 10

/** What an ohmmeter shows while its probes are held on the lead of the quad on the bench, and what that looks like, in the core's words. */
export function useLeadHeld(quad: QuadView) {
  const [held, setHeld] = useState(false)
  const run = useLiveRun(
    held,
    useCallback(
      (l: Live): Ohm | undefined =>
        l.meter?.where === 'lead' && l.meter.since <= 1000 * holds ? { time: l.meter.since / 1000, ohms: l.meter.ohms } : undefined,
      [],
    ),
  )
  const done = useLive((s) => held && (s.live?.meter?.since ?? 0) > 1000 * holds)
  const seen = run.seen()
  const whole = !held && run.all().length > 10
  const figures = whole ? run.all() : seen
  const looks = useQuery({
    queryKey: ['lead', quad.id, quad.seen, run.began, figures.length, whole],
    queryFn: () => firstPower.leadLooks(quad.id, figures),
    enabled: whole,
    retry: false,
  })
  useEffect(() => {
    if (!done) return
    setHeld(false)
    void firstPower.probes({ where: '' }).catch(showError)
  }, [done])
  return { held, setHeld, run, figures, looks: whole ? looks.data : undefined }
}

/** Holding the probes, by hand and by the bench. */
export function ProbeLead({ quad, lead }: { quad: QuadView; lead: ReturnType<typeof useLeadHeld> }) {
  const own = useOwn()
  const pack = useLive((s) => Boolean(s.live?.pack))
  const [fixed, setFixed] = useState(false)
  const begin = useMutation({
    mutationFn: () => firstPower.probes({ where: 'lead', fixed }),
    onSuccess: () => {
      lead.run.clear()
      lead.setHeld(true)
    },
    onError: showError,
  })
  const drain = useMutation({ mutationFn: () => firstPower.drain(), onSuccess: () => lead.run.clear(), onError: showError })
  const keep = useAct(quad.id, () => acts.take(quad.id, 'readings.firstPower.leadResistance'))
  if (!own) return null
  const busy = lead.held || begin.isPending || drain.isPending || keep.isPending || pack
  return (
    <div className={ways}>
      <Button small main disabled={busy} onClick={() => begin.mutate()}>
        {lead.held ? 'Holding…' : 'Hold the probes on the lead'}
      </Button>
      <Button small disabled={busy} onClick={() => drain.mutate()}>
        Discharge it
      </Button>
      <Button small disabled={busy || !lead.looks} onClick={() => keep.mutate(undefined, { onError: showError })}>
        Note it
      </Button>
      <Tick checked={fixed} onChange={setFixed} disabled={busy} className="text-[14px]">
        range set by hand
      </Tick>
    </div>
  )
}
