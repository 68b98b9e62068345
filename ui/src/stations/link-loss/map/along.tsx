import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Button, TextButton } from '../../../kit/button'
import { fieldRow, ways } from '../../../kit/looks'
import { Bar } from '../../../kit/progress'
import { Facts } from '../../../kit/table'
import { showError } from '../../../shell/message'
import { acts, type QuadView, type Schemas, useAct } from '../../../wire/client'
import { keepLine, lineLosses } from '../../../wire/sites'
import { Advised, doing, type Policy } from '../policies'

export type Flown = Schemas['LineLossesView']
const ends: Record<Schemas['FlightLineEnds']['end'], string> = {
  people: 'among people',
  obstacle: 'strike an obstacle',
  roof: 'strike or lie on a roof',
  water: 'in water',
  air: 'not down',
  open: 'on open ground',
  soft: 'on soft ground',
}

/** How many are flown before the picture is drawn again. */
const batch = 250

/** The losses along a line: more and more of them, until a thousand by each policy are flown or nobody wants more. */
export function useLine(quad: QuadView, site: number, version: number, line: string, from: number | null) {
  const [asked, setAsked] = useState(batch)
  const [stopped, setStopped] = useState(false)
  const what = [quad.id, quad.seen, site, version, line, from].join('|')
  const [flying, setFlying] = useState(what)
  if (flying !== what) {
    setFlying(what)
    setAsked(batch)
    setStopped(false)
  }
  const flown = useQuery({
    queryKey: ['line', what, asked],
    queryFn: ({ signal }) => lineLosses(quad.id, { site, line, from: from ?? 0 }, asked, signal),
    enabled: line !== '' && from !== null && !stopped,
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before) => before,
  })
  const done = flown.data && !flown.isPlaceholderData ? flown.data.flown : 0
  const of = flown.data?.of ?? batch
  useEffect(() => {
    if (done >= asked && asked < of && !stopped) setAsked(Math.min(of, asked + batch))
  }, [done, asked, of, stopped])
  return {
    view: flown.error || from === null || line === '' ? undefined : flown.data,
    error: flown.error,
    done,
    whole: done > 0 && done >= of,
    stop: () => setStopped(true),
    again: () => setStopped(false),
    stopped,
  }
}

type Props = {
  quad: QuadView
  site: number
  line: string
  from: number
  flown: ReturnType<typeof useLine>
  shown: Policy
  onShow: (p: Policy) => void
}

/** What each policy makes of the losses along the line, what is advised, and the line kept as today's. */
export function Along({ quad, site, line, from, flown, shown, onShow }: Props) {
  const v = flown.view
  if (flown.error)
    return (
      <p role="alert" className="text-stop">
        {flown.error.message}
      </p>
    )
  if (!v) return <p className="text-soft">It is being flown.</p>
  return (
    <section aria-label="Losses along the line">
      <div className="flex items-center gap-2.5">
        <span className="min-w-0 flex-1">
          <Bar percent={(100 * flown.done) / v.of} label="Losses flown" />
        </span>
        <span className="text-[13.5px] text-soft" aria-live="polite">
          {flown.whole ? `${v.of} losses by each policy` : `${v.flown} of ${v.of}`}
        </span>
        <Button small quiet disabled={flown.whole} onClick={flown.stopped ? flown.again : flown.stop}>
          {flown.stopped ? 'Go on' : 'Cancel'}
        </Button>
      </div>
      <p className="mt-1 text-[14px] text-soft">{v.told ? `In ${v.wind} m/s of wind, as you read it.` : 'In still air: nobody told the wind.'}</p>
      <Advised quad={quad} where="On this line" advice={v.advice} />
      <Facts>
        <caption className="sr-only">What each policy makes of it</caption>
        <thead>
          <tr>
            <th scope="col">It</th>
            <th scope="col">harmless</th>
            <th scope="col">95 % within</th>
            <th scope="col">at the ground</th>
          </tr>
        </thead>
        {v.losses.map((l) => (
          <tbody key={l.policy} className={l.policy === shown ? 'bg-act-bg' : undefined}>
            <tr>
              <th scope="row" className="text-left align-top whitespace-nowrap">
                <TextButton aria-pressed={l.policy === shown} onClick={() => onShow(l.policy)}>
                  {doing[l.policy]}
                </TextButton>
              </th>
              <td className="align-top">{Math.round(l.unharmed)} %</td>
              <td className="align-top">{Math.round(l.drifts)} m</td>
              <td className="align-top whitespace-nowrap">
                {l.speed.toFixed(1)} m/s, {l.energy} J
              </td>
            </tr>
            <tr>
              <td colSpan={4} className="text-[13.5px] text-soft">
                {l.set && 'As it is set. '}
                {badly(l).map((e, i) => (
                  <span key={e.end} className={e.end === 'people' ? 'text-stop' : undefined}>
                    {i > 0 && ', '}
                    {e.count} {ends[e.end]}
                    {e.energy > 0 && ` at ${e.energy} J`}
                  </span>
                ))}
                {badly(l).length === 0 && 'None among people, in water or against anything'}. After {Math.round(l.after)} s
                {l.charge >= 1 && ` and ${l.charge} mAh`}
                {l.charge >= 1 && l.ofPack > 0 && `, ${l.ofPack} % of its pack`}.
              </td>
            </tr>
          </tbody>
        ))}
      </Facts>
      <ul className="mt-1.5 text-[14px]">
        <li className="border-t border-line py-1">{v.back.words}</li>
        <Avoid stretches={v.avoid} />
        {v.tallest > 0 && <Tallest quad={quad} view={v} />}
        {v.lacks.map((l) => (
          <li key={l} className="border-t border-line py-1 text-fix">
            {l}
          </li>
        ))}
      </ul>
      <Keep quad={quad} ask={{ site, line, from }} view={v} whole={flown.whole} />
    </section>
  )
}

const badly = (l: Schemas['FlightLineLosses']) => l.ends.filter((e) => e.end !== 'open' && e.end !== 'soft')

/** The stretches of the line to keep away from. */
function Avoid({ stretches }: { stretches: Schemas['FlightLinePiece'][] }) {
  return stretches.map((s) => (
    <li key={s.from} className="border-t border-line py-1">
      <b className="text-stop">
        Not from {Math.round(s.from)} to {Math.round(s.to)} m along it:
      </b>{' '}
      lost there, up to {s.people > 0 ? `${Math.round(s.people)} % come down among people` : `${Math.round(s.lost)} % are lost for good`}.
    </li>
  ))
}

function Tallest({ quad, view }: { quad: QuadView; view: Flown }) {
  const type = useAct(quad.id, (height: number) => acts.type(quad.id, 'readings.loss.obstacle', height))
  return (
    <li className="border-t border-line py-1">
      The highest thing in its way home is {view.tallestName}, {view.tallest} m.{' '}
      <TextButton disabled={type.isPending} onClick={() => type.mutate(view.tallest, { onError: showError })}>
        Note that height
      </TextButton>
    </li>
  )
}

/** The line kept as today's: what it comes to goes on the field card. */
function Keep({ quad, ask, view, whole }: { quad: QuadView; ask: { site: number; line: string; from: number }; view: Flown; whole: boolean }) {
  const [why, setWhy] = useState('')
  const keep = useAct(quad.id, () => keepLine(quad.id, ask, why))
  const other = quad.meant.sheet.loss.policy !== view.advice.policy
  return (
    <div className={ways}>
      {other && (
        <span className={fieldRow}>
          <label>
            why it stays as it is set
            <input type="text" className="w-75!" value={why} maxLength={200} onChange={(e) => setWhy(e.target.value)} />
          </label>
        </span>
      )}
      <Button main small disabled={!whole || keep.isPending || (other && why.trim() === '')} onClick={() => keep.mutate(undefined, { onError: showError })}>
        Keep it as today's line
      </Button>
      <span className="text-[13.5px] text-soft" aria-live="polite">
        {keep.isSuccess ? 'Kept: it is on the field card.' : 'It is printed on the field card.'}
      </span>
    </div>
  )
}
