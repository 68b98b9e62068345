import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Disclosure } from '../../kit/disclosure'
import { two, ways } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { useOwn } from '../../places/bench/whose'
import { onConflict } from '../../places/line/conflict'
import { showError } from '../../shell/message'
import { acts, answerOf, type QuadView, type Schemas, server, useAct } from '../../wire/client'
import { useLive } from '../../wire/live'
import { useLiveRun } from './live-run'
import { nothingPasted, type Pasted, PasteRun } from './pasted'

type Turning = Schemas['TurningView']

/**
 * A compass that is turned every way: the directions from which it has seen the earth's field cover a sphere, whose two halves are drawn; the fit comes
 * from the core while it is turned, and says which way to hold it for what is missing.
 */
export function CompassSphere({ quad }: { quad: QuadView }) {
  const own = useOwn()
  const shows = useLive((s) => own && (s.live?.compass?.length ?? 0) === 3)
  const [on, setOn] = useState(false)
  const [pasted, setPasted] = useState<Pasted>(nothingPasted)
  const run = useLiveRun(on, (l) => (l.compass?.length === 3 ? { shown: [...l.compass], turns: [...l.turns], time: l.time / 1000 } : undefined))
  const { count } = run
  const text = pasted.text.trim()
  const fit = useQuery({
    queryKey: ['turning', quad.id, text ? pasted : `${run.began}.${count}`],
    queryFn: () =>
      answerOf(
        server.POST('/api/quads/{id}/senses/turning', {
          params: { path: { id: quad.id } },
          body: text
            ? { text, columns: pasted.columns }
            : { samples: run.seen().map((s) => s.shown), turns: run.seen().map((s) => s.turns), times: run.seen().map((s) => s.time) },
        }),
      ),
    enabled: text !== '' || count > 0,
    retry: false,
    placeholderData: (before) => before,
  })
  const v = fit.error ? undefined : fit.data
  const keep = useAct(quad.id, (r: Turning['reading']) => acts.typeAll(quad.id, [{ path: 'readings.senses.compass', value: r }]))
  const tell = useAct(quad.id, (deg: number) => acts.edit(quad.id, quad.version, [{ path: 'sheet.senses.compassTurned', value: deg }]))
  const start = (byHand: boolean) => {
    run.clear()
    setPasted(nothingPasted)
    setOn(true)
    if (!byHand) void answerOf(server.POST('/api/quads/{id}/bench/turn', { params: { path: { id: quad.id } } })).catch(showError)
  }
  return (
    <div className={two}>
      <section aria-label="The compass turned every way">
        <p className="text-soft">
          Ten metres from cars and fences, nothing magnetic on you: turn the quad slowly through every direction, for about a minute. Each direction from which
          the compass sees the earth's field fills its place.
        </p>
        {shows ? (
          <div className={ways}>
            <Button main={!on} onClick={() => (on ? setOn(false) : start(false))}>
              {on ? 'Stop' : 'Turn it, and look'}
            </Button>
            {count > 0 && <span className="text-soft tabular-nums">{count} samples</span>}
            {count > 0 && !on && <TextButton onClick={() => start(false)}>Begin anew</TextButton>}
          </div>
        ) : (
          <p className="text-faint">With a board on the bench that uses its compass it is seen live. Without one, a run can be pasted, or the figures typed.</p>
        )}
        {fit.error && (
          <p role="alert" className="text-stop">
            {fit.error.message}
          </p>
        )}
        {v && (
          <div aria-live="polite" className="mt-2">
            {v.fit && v.reading ? (
              <>
                <p>
                  A field of <b>{v.reading.field} µT</b>, the samples <b>{v.reading.residual} µT</b> off it, <b>{v.reading.covered} %</b> of all directions
                  seen.
                </p>
                <p className="text-soft">
                  Beside it sits iron of {v.fit.offset.map((x) => x.toFixed(1).replace('-', '−')).join(', ')} µT ahead, right and down, to{' '}
                  {v.fit.offsetWithin.toFixed(1)}; that leaves the heading open by {v.heading.toFixed(1)}° in {v.ground}.
                  {v.fit.outliers > 0 && ` ${v.fit.outliers} samples count nothing: something moved by.`}
                </p>
              </>
            ) : (
              <p className="text-fix">{v.says}</p>
            )}
            {v.next && <p className="font-semibold text-act">{v.next}</p>}
            {v.mount && (
              <Mount
                mount={v.mount}
                told={quad.meant.sheet.senses.compassTurned ?? 0}
                busy={tell.isPending}
                onTell={(deg) =>
                  tell.mutate(deg, { onError: onConflict(quad, 'How the compass is turned', [{ path: 'sheet.senses.compassTurned', value: deg }]) })
                }
              />
            )}
            {v.motion && <p className="text-soft">How it lies on its mount its motion does not tell: {v.motion}</p>}
            {v.reading && (
              <Button small disabled={keep.isPending} onClick={() => keep.mutate(v.reading)}>
                Keep it as the compass reading
              </Button>
            )}
          </div>
        )}
        <PasteRun
          pasted={pasted}
          onPaste={setPasted}
          table={v?.table}
          heads="what the compass shows ahead, to the right and down, in µT or nT; with the gyro and the time beside it, how it lies is told too."
        />
        <Renewed quad={quad} />
      </section>
      <section aria-label="Directions seen">
        <Halves seen={v?.seen ?? []} missing={v?.missing ?? []} />
      </section>
    </div>
  )
}

/** How a compass lies on its mount by what the gyro felt meanwhile. */
function Mount(props: { mount: Schemas['CompassMount']; told: number; busy: boolean; onTell: (deg: number) => void }) {
  const { mount: m, told } = props
  return (
    <p className={m.onItsBack || m.tell !== told ? 'text-fix' : 'text-ok'}>
      By its motion against the gyro's it is turned by <b>{m.turned}°</b> on its mount{m.onItsBack && <b> and lies on its back</b>}
      {m.askew > 5 && `, askew by ${m.askew}°`}; both halves of the run agree to {m.agree}°.{' '}
      {m.onItsBack
        ? 'Turn it over: its board is not told of that.'
        : m.tell === told
          ? 'So the board is told.'
          : m.tell !== told && (
              <TextButton disabled={props.busy} onClick={() => props.onTell(m.tell)}>
                Tell the board {m.tell}°
              </TextButton>
            )}
    </p>
  )
}

const schools = { date: 'by date', event: 'after what moves parts alone' } as const

/** When it is to be found anew: both schools worked out, one of them judged by. */
function Renewed({ quad }: { quad: QuadView }) {
  const queries = useQueryClient()
  const seen = useQuery({
    queryKey: ['renewal', quad.id, quad.seen],
    queryFn: () => answerOf(server.GET('/api/quads/{id}/senses/renewal', { params: { path: { id: quad.id } } })),
    placeholderData: (before) => before,
  })
  const v = seen.data
  const choose = useMutation({
    mutationFn: (by: 'date' | 'event') => answerOf(server.POST('/api/pilot/compass', { body: { version: v?.version ?? 0, by } })),
    onError: showError,
    onSettled: () => {
      void queries.invalidateQueries({ queryKey: ['renewal'] })
      void queries.invalidateQueries({ queryKey: ['pilot'] })
      void queries.invalidateQueries({ queryKey: ['quad', quad.id] })
    },
  })
  if (!v) return null
  return (
    <Disclosure words="When to find it anew" className="mt-3">
      <Segments<'date' | 'event'>
        small
        label="When to find it anew"
        items={(['date', 'event'] as const).map((s) => ({ value: s, words: schools[s] }))}
        value={v.by as 'date' | 'event'}
        onChoose={(by) => choose.mutate(by)}
        disabled={choose.isPending}
      />
      <ul className="mt-1 text-[14px]">
        <li>
          <b>By date:</b> {v.due ? `found on ${date(v.taken)}, good until ${date(v.due)}, ${v.days} days.` : `good for ${v.days} days once it is found.`}
          {v.family && ' This firmware family has it so, whatever you choose.'}
        </li>
        <li>
          <b>By event:</b> {v.voided || (v.taken ? 'nothing has happened to it since.' : 'it was never found.')}
        </li>
        <li className="text-soft">{v.misses}</li>
      </ul>
    </Disclosure>
  )
}

const date = (at?: string) => (at ? new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' }) : '')

const r = 79

/** The sphere's two halves, each a disc with the nose up: where the field came in through the belly, and where through the back. */
function Halves({ seen, missing }: { seen: Schemas['Dot'][]; missing: Schemas['Dot'][] }) {
  const count = (back: boolean) => missing.filter((m) => m.back === back).length
  return (
    <div className="flex flex-wrap gap-1.5">
      {[false, true].map((back) => (
        <figure key={String(back)} className="m-0">
          <svg
            width={2 * r + 36}
            height={2 * r + 40}
            role="img"
            aria-label={`Through the ${back ? 'back' : 'belly'}: ${seen.filter((d) => d.back === back).length} samples drawn, ${count(back)} directions missing`}
          >
            <g transform={`translate(${r + 18} ${r + 20})`}>
              <circle r={r} fill="var(--panel)" stroke="var(--line)" strokeWidth="1.5" />
              <path d={`M0 ${-r}V${r}M${-r} 0H${r}`} stroke="var(--line)" />
              <circle r={r * Math.SQRT1_2} fill="none" stroke="var(--line)" strokeDasharray="3 4" />
              {missing
                .filter((d) => d.back === back)
                .map((d) => (
                  <circle
                    key={`${d.x} ${d.y}`}
                    cx={d.x * r}
                    cy={-d.y * r}
                    r="7"
                    fill="var(--fix-bg)"
                    stroke="var(--fix)"
                    strokeWidth="1.5"
                    strokeDasharray="3 2"
                  />
                ))}
              {seen
                .filter((d) => d.back === back)
                .map((d, i) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: samples have no names
                  <circle key={i} cx={d.x * r} cy={-d.y * r} r="2.2" fill="var(--act)" />
                ))}
              <g fontSize="12.5" fill="var(--soft)" textAnchor="middle">
                <text y={-r - 6}>nose</text>
                <text y={r + 15}>tail</text>
                <text transform={`translate(${r + 7} 0) rotate(90)`}>right</text>
                <text transform={`translate(${-r - 6} 0) rotate(-90)`}>left</text>
              </g>
            </g>
          </svg>
          <figcaption className="text-center text-[14px] text-soft">{back ? 'in through the back' : 'in through the belly'}</figcaption>
        </figure>
      ))}
    </div>
  )
}
