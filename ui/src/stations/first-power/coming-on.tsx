import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { ways } from '../../kit/looks'
import { Tick } from '../../kit/tick'
import { useOwn } from '../../places/bench/whose'
import { showError } from '../../shell/message'
import { acts, bench, type QuadView, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { firstPower } from '../../wire/firstpower'
import { now, useLive } from '../../wire/live'
import { figure } from '../senses/figure'
import { Stairs } from './stairs'

type View = QuadAt<'first-power'>['power']

/** What was measured as one device came on after the other: typed, or what the bench shows. */
export function useComingOn(quad: QuadView, view: View) {
  const own = useOwn()
  const [typed, setTyped] = useState<string[]>([])
  const [noted, setNoted] = useState<number[]>([])
  const pack = useLive((s) => own && Boolean(s.live?.pack))
  const amps = useLive((s) => (own && s.live?.pack ? s.live.amps : null))
  const off = useLive((s) => (own ? (s.live?.unplugged ?? []).join('|') : ''))
  const unplugged = new Set(off.split('|').filter(Boolean))
  const measured: number[] = []
  if (pack && unplugged.size > 0 && noted.length === 0 && amps !== null) measured.push(amps)
  else if (noted.length > 0) measured.push(...noted.slice(0, view.steps.length - 1), ...(pack && amps !== null ? [amps] : []))
  else
    for (const t of typed) {
      const x = figure(t.replace(/\s*A$/, ''))
      if (x === null) break
      measured.push(x)
    }
  const judged = useQuery({
    queryKey: ['deviation', quad.id, quad.seen, measured],
    queryFn: () => firstPower.deviation(quad.id, measured),
    enabled: measured.length > 0,
    placeholderData: (before) => before,
  })
  return { own, typed, setTyped, noted, setNoted, pack, unplugged, measured, judged: measured.length > 0 ? judged.data : undefined }
}

type Coming = ReturnType<typeof useComingOn>

/** The pack goes in, and one device after the other, on the bench. */
function PowerByHand({ quad, view: v, coming: c }: { quad: QuadView; view: View; coming: Coming }) {
  const limiter = useLive((s) => s.live?.limiter ?? false)
  const limited = useLive((s) => s.live?.limited ?? false)
  const smoke = useLive((s) => s.live?.smoke ?? false)
  const on = useAct(quad.id, () => firstPower.powerOn(quad.id))
  const keep = useAct(quad.id, () => acts.take(quad.id, 'readings.firstPower.idleCurrent'))
  const plug = useMutation({
    mutationFn: async (device: string | null) => {
      if (device === null) {
        for (const s of v.steps.slice(1)) await firstPower.plug(s.device, false)
        c.setNoted([])
        return
      }
      const before = now().live?.amps ?? 0
      await firstPower.plug(device, true)
      c.setNoted([...c.noted, before])
    },
    onError: showError,
  })
  if (!c.own) return null
  const busy = on.isPending || keep.isPending || plug.isPending
  const nextOn = v.steps.slice(1).find((s) => c.unplugged.has(s.device))
  const wrong = (c.judged?.step ?? -1) >= 0
  return (
    <div className={ways}>
      <Tick checked={limiter} onChange={(limiter) => void bench.things({ limiter }).catch(showError)} disabled={busy || c.pack} className="text-[14px]">
        through a limiter
      </Tick>
      {!c.pack && v.steps.length > 1 && (
        <Button small disabled={busy || c.unplugged.size > 0} onClick={() => plug.mutate(null)}>
          Unplug what can be
        </Button>
      )}
      {!c.pack && (
        <Button small main disabled={busy} onClick={() => on.mutate(undefined, { onError: showError })}>
          Pack in
        </Button>
      )}
      {c.pack && nextOn && (
        <Button small main={!wrong} disabled={busy} onClick={() => plug.mutate(nextOn.device)}>
          Plug in the {nextOn.device}
        </Button>
      )}
      {c.pack && (
        <Button small main={!nextOn} disabled={busy || Boolean(nextOn)} onClick={() => keep.mutate(undefined, { onError: showError })}>
          Note the current
        </Button>
      )}
      {c.pack && (
        <Button small main={wrong} onClick={() => void bench.cut().catch(showError)}>
          Pack out
        </Button>
      )}
      <span role="status" className="basis-full text-[14px]">
        {smoke ? (
          <b className="text-stop">Smoke. The board is gone: another one on the bench.</b>
        ) : limited ? (
          <b className="text-stop">The limiter holds back: a short, or plus on minus. Pack out.</b>
        ) : (
          ''
        )}
      </span>
    </div>
  )
}

/** Devices that come on one after the other, each with its step of current: measured beside expected, the first that is off named. */
export function ComingOn({ quad, view: v, coming: c }: { quad: QuadView; view: View; coming: Coming }) {
  if (v.steps.length === 0) return <p className="text-soft">Nobody told what its devices draw: at Parts their data say it.</p>
  const d = c.judged
  return (
    <section aria-label="Devices coming on">
      <Subhead>Amps in the lead, as one device comes on after the other</Subhead>
      <div className="grid grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
        <Stairs view={v} measured={c.measured} wrong={d?.step ?? -1} />
        <div>
          <ol aria-label="Measured as each came on" className="grid gap-1 text-[14px]">
            {v.steps.map((s, i) => (
              <li key={s.device}>
                <label className="grid grid-cols-[minmax(0,1fr)_auto_70px] items-baseline gap-2">
                  <span className={d && d.step === i ? 'font-semibold text-fix' : undefined}>{s.device}</span>
                  <span className="text-soft tabular-nums">{s.sum.toFixed(2)} A</span>
                  <input
                    type="text"
                    inputMode="decimal"
                    aria-label={`Measured with the ${s.device} on, A`}
                    className="py-0.5!"
                    readOnly={c.noted.length > 0}
                    value={c.noted.length > 0 ? (c.measured[i]?.toFixed(2) ?? '') : (c.typed[i] ?? '')}
                    onChange={(e) => c.setTyped(v.steps.map((_, n) => (n === i ? e.target.value : (c.typed[n] ?? ''))))}
                  />
                </label>
              </li>
            ))}
          </ol>
          <PowerByHand quad={quad} view={v} coming={c} />
          <p aria-live="polite" className={d && d.step >= 0 ? 'mt-1 text-[14px] font-semibold text-fix' : 'mt-1 text-[14px] text-soft'}>
            {d?.says ?? 'Unplug what can be unplugged, and let it come on from the top down; note what the meter in the lead shows each time.'}
          </p>
        </div>
      </div>
    </section>
  )
}
