import { lazy, Suspense } from 'react'
import { Link, useParams } from 'react-router'
import { Button, buttonLook } from '../../kit/button'
import { Page } from '../../kit/page'
import { Facts } from '../../kit/table'
import { upper } from '../../kit/text'
import { useQuad } from '../../wire/client'
import { useFigures } from '../../wire/figures'
import { dateTime } from '../book/when'
import { words } from '../line/typed'

const CardMap = lazy(() => import('../../stations/link-loss/map/card-map').then((m) => ({ default: m.CardMap })))

/** What a pilot wants in the hand at the field: whether it may fly, how to stop it, the card, the limits. One sheet, on a phone or printed. */
export function FieldCard() {
  const id = Number(useParams().id)
  const quad = useQuad(id)
  const card = useFigures(quad.data, 'card')
  const q = card.quad
  const failed = quad.error ?? card.error
  if (!q) return <Page aria-busy={!failed}>{failed?.message ?? 'Writing the card…'}</Page>
  document.title = `Field card, ${q.name} · Vivid Perch`
  const accepted = q.line.flatMap((p) => p.findings).filter((f) => f.accepted)
  const estimates = q.line.at(-1)?.estimates ?? []
  const stops = [...new Set(q.next.filter((t) => t.kind === 'stop').map((t) => t.words))]
  const positions = q.switches.columns.filter((c) => c.captured).flatMap((c) => c.cells.filter((m) => m.words).map((m) => ({ ...m, switch: c.name })))
  const safe = positions.find((m) => m.held.some((h) => h.function === 'arm' && h.on === 'no'))
  return (
    <Page>
      <div className="max-w-280 columns-2 gap-x-10 phone:columns-1 [&>*]:mb-4.5 [&>*]:break-inside-avoid [&_dd]:text-right [&_dd]:font-semibold [&_dl]:grid [&_dl]:grid-cols-[1fr_auto] [&_dl]:gap-x-4 [&_dl]:gap-y-0.75 [&_dl>div]:contents [&_h2]:text-[17px]">
        <header>
          <h1>{q.name}</h1>
          <p className="text-soft">
            {q.words}. Revision {q.revision}
            {q.draft.words.length > 0 && ', with a draft on top'}.
          </p>
        </header>
        <section
          aria-label="May it fly"
          className="rounded-r-lg border-l-4 border-stop bg-stop-bg px-3.5 py-2 data-[go=true]:border-ok data-[go=true]:bg-ok-bg [&>b]:font-head [&>b]:text-[26px]/[normal] [&>b]:font-semibold"
          data-go={Boolean(q.release)}
        >
          <b>{q.release ? 'Go' : 'Not yet'}</b>
          <p>
            {q.release
              ? `Hover in sight at ${q.release.site}, until midnight: ${dateTime(q.release.until)}. Released by ${q.release.by}.`
              : q.against || 'Everything is proven; nobody has released it for today.'}
          </p>
          {stops.map((s) => (
            <p key={s} className="text-stop">
              Stop: {s}
            </p>
          ))}
          {estimates.length > 0 && <p>Leans on estimates: {estimates.join('; ')}.</p>}
          {accepted.map((f) => (
            <p key={f.title}>
              Flown in spite of: {f.title}. <span className="text-soft">{f.accepted?.reason}</span>
            </p>
          ))}
        </section>
        <section aria-label="To stop it">
          <h2>To stop it</h2>
          <p>
            {safe ? (
              <>
                <b>{upper(safe.switch)}</b> to <b>{safe.position}</b>. Anything you do not understand: switch it off first.
              </>
            ) : (
              'The arm switch is not captured: find it before you go.'
            )}
          </p>
        </section>
        <section aria-label="When the radio goes quiet">
          <h2>When the radio goes quiet</h2>
          <ol>
            {[...q.loss]
              .sort((a, b) => a.from - b.from)
              .map((s) => (
                <li key={`${s.part}${s.from}`} className={s.dangerous ? 'text-stop' : undefined}>
                  {`${s.from > 0 ? `After ${s.from} s` : 'At once'} the ${s.part} ${s.sentence}`}
                </li>
              ))}
          </ol>
        </section>
        {q.today && (
          <Suspense fallback={null}>
            <CardMap today={q.today} />
          </Suspense>
        )}
        <section aria-label="The card">
          <h2>The card</h2>
          <ol className="list-decimal pl-5 [&_li]:py-0.75">
            {q.steps.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ol>
        </section>
        <section aria-label="Limits of the day">
          <h2>Limits of the day</h2>
          <dl>
            {q.site.clearRadius > 0 && (
              <>
                <dt>Nobody nearer than</dt>
                <dd>{Math.ceil(q.site.clearRadius)} m</dd>
              </>
            )}
            {q.line
              .at(-1)
              ?.limits.filter((l) => l.key !== 'wind')
              .map((l) => (
                <div key={l.key}>
                  <dt>{l.label}</dt>
                  <dd>{l.stands}</dd>
                </div>
              ))}
            {q.site.windMost > 0 && (
              <>
                <dt>No first hover in wind or gusts above</dt>
                <dd>{q.site.windMost.toFixed(1).replace('.0', '')} m/s</dd>
              </>
            )}
            <dt>Land below, per cell</dt>
            <dd>{q.meant.sheet.watch.landPerCell} V</dd>
            {q.airframe.known && (
              <>
                <dt>Hover with pack {q.airframe.pack}</dt>
                <dd>{q.airframe.minutes.toFixed(0)} min</dd>
              </>
            )}
          </dl>
        </section>
        {positions.length > 0 && (
          <section aria-label="Switches">
            <h2>Switches</h2>
            <Facts>
              <tbody>
                {positions.map((m) => (
                  <tr key={m.switch + m.position}>
                    <th scope="row">
                      {m.switch}, {m.position}
                    </th>
                    <td>{m.words === m.position ? '' : words(m.words)}</td>
                  </tr>
                ))}
              </tbody>
            </Facts>
          </section>
        )}
        {q.profiles.length > 1 && (
          <section aria-label="Profiles">
            <h2>Profiles</h2>
            <Facts>
              <tbody>
                {q.profiles.map((p, i) => (
                  <tr key={p.at}>
                    <th scope="row">{upper(p.name || p.words.replace(/^the /, ''))}</th>
                    <td>
                      {i === 0 ? 'in every other position' : p.chosen.join('; or ') || 'no switch reaches it'}
                      {p.rest && ', at power-up'}
                      {p.figures.some((f) => f.differs) &&
                        `: ${p.figures
                          .filter((f) => f.differs)
                          .map((f) => `${f.label.toLowerCase()} ${f.words}`)
                          .join(', ')}`}
                    </td>
                  </tr>
                ))}
              </tbody>
            </Facts>
          </section>
        )}
        <div className="flex flex-wrap items-center gap-2.5 print:hidden">
          <Link className={buttonLook({ main: true })} to={`/quads/${id}/book`}>
            Note the flight
          </Link>
          <Button onClick={() => window.print()}>Print</Button>
        </div>
      </div>
    </Page>
  )
}
