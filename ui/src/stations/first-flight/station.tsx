import { useState } from 'react'
import { useNavigate } from 'react-router'
import { Button, TextButton } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { stage } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { lower } from '../../kit/text'
import { Tick } from '../../kit/tick'
import { useOwn } from '../../places/bench/whose'
import { dateTime } from '../../places/book/when'
import { onConflict } from '../../places/line/conflict'
import { words } from '../../places/line/typed'
import { AsTable } from '../../shell/as-table'
import { showError } from '../../shell/message'
import { acts, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { useLive } from '../../wire/live'
import type { Path } from '../../wire/path'
import { type Corner, cornerOf, corners, cornerWords } from '../drawing'
import type { StationProps } from '../props'

/** Today and here: the propellers, the place, the rehearsal, and whether it may fly. */
export function FlightStation({ quad, perch }: StationProps<QuadAt<'first-flight'>>) {
  const said = (path: Path) => perch.readings.find((r) => r.path === path)?.words
  const figure = (path: Path) => {
    const v = perch.readings.find((r) => r.path === path)?.value
    return typeof v === 'number' ? v : Number.NaN
  }
  return (
    <div className={stage} style={{ overflowY: 'auto' }}>
      <AsTable
        caption="Propellers and place"
        head={['what', 'is']}
        rows={[
          ...corners.map((c) => [`Propeller ${cornerWords[c].toLowerCase()}`, said(`readings.firstFlight.propellers.${c}`) ?? 'not looked at']),
          ['Wind', said('readings.firstFlight.wind') ?? 'not read'],
          ['Gusts', said('readings.firstFlight.gust') ?? 'not read'],
          ['Clear radius', said('readings.firstFlight.clear') ?? 'not paced'],
          ['Clear radius wanted', quad.site.clearRadius > 0 ? `${Math.ceil(quad.site.clearRadius)} m` : 'rehearse it first'],
        ]}
      />
      <div className="grid grid-cols-[330px_minmax(0,1fr)] gap-5.5 phone:grid-cols-1 phone:gap-3">
        <Propellers quad={quad} perch={perch} />
        <Site
          wind={figure('readings.firstFlight.wind')}
          gust={figure('readings.firstFlight.gust')}
          clear={figure('readings.firstFlight.clear')}
          need={quad.site.clearRadius}
          verdict={quad.site.clear}
        />
      </div>
      <Go quad={quad} perch={perch} rehearsed={said('readings.firstFlight.rehearsal')} />
    </div>
  )
}

/** One blade, drawn with its thick leading edge, turning the way it pushes down. */
function Edge({ clockwise, lit }: { clockwise: boolean; lit: boolean }) {
  const blade = 'M0 -3C14 -14 34 -13 46 -4C34 -3 16 1 0 4Z'
  return (
    <svg width="104" height="62" viewBox="-52 -31 104 62" aria-hidden="true">
      <g transform={clockwise ? 'scale(1 -1)' : undefined} opacity={lit ? 1 : 0.45}>
        {[0, 180].map((r) => (
          <g key={r} transform={`rotate(${r})`}>
            <path d={blade} fill="var(--sunk)" stroke="var(--soft)" />
            <path d="M0 -3C14 -14 34 -13 46 -4" fill="none" stroke="var(--ink)" strokeWidth="3" />
          </g>
        ))}
        <path d="M40 -16A44 30 0 0 0 16 -27" fill="none" stroke="var(--act)" strokeWidth="2.5" />
        <path d="M13 -27l9 -4 -2 8z" fill="var(--act)" />
      </g>
      <circle r="5" fill="var(--ink)" />
    </svg>
  )
}

const hands = ['clockwise', 'counterClockwise'] as const

/** Each corner with the propeller that was fitted there. Nobody touches one with a pack in: the bench knows, or the pilot says so. */
function Propellers({ quad, perch }: StationProps<QuadAt<'first-flight'>>) {
  const own = useOwn()
  const packIn = useLive((s) => s.live?.pack ?? false)
  const [said, setSaid] = useState(false)
  const out = own ? !packIn : said
  const fit = useAct(quad.id, (v: { corner: Corner; hand: string }) =>
    acts.type(quad.id, `readings.firstFlight.propellers.${v.corner}`, { hand: v.hand, packOut: out }),
  )
  return (
    <section aria-label="Propellers">
      <Subhead>Propellers: lettering up, dark edge first; nuts {quad.meant.parts.propeller.nutTorque} N·m.</Subhead>
      {own ? (
        <p className={out ? 'text-soft' : 'text-stop'} style={{ fontSize: 13 }}>
          {out ? 'The pack is out on the bench.' : 'The pack is in on the bench: take it out before your fingers are at a propeller.'}
        </p>
      ) : (
        <Tick className="text-[13px]" checked={said} onChange={setSaid}>
          The pack is out, and lies away from the quad
        </Tick>
      )}
      <div style={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 6 }}>
        {corners.map((c) => {
          const reading = perch.readings.find((r) => r.path === `readings.firstFlight.propellers.${c}`)
          const fitted = (reading?.value as Schemas['Fitted'] | undefined)?.hand ?? ''
          const wants = cornerOf(quad, c)?.wants ?? ''
          return (
            <fieldset key={c} style={{ background: 'var(--panel)', border: '1px solid var(--line)', borderRadius: 8, padding: '2px 8px 6px' }}>
              <legend style={{ fontSize: 13, fontWeight: 600 }}>{cornerWords[c]}</legend>
              {fitted || wants ? <Edge clockwise={(wants || fitted) === 'clockwise'} lit={Boolean(fitted)} /> : <div style={{ height: 62 }} />}
              <div className="text-soft" style={{ fontSize: 13 }}>
                {reading ? <b>{reading.words}</b> : wants ? `wants ${words(wants)}` : 'no rotation plan says which'}
              </div>
              <Segments
                small
                items={hands.map((hand) => ({
                  value: hand,
                  words: hand === 'clockwise' ? 'clockwise' : 'counter',
                  label: `${cornerWords[c]}: ${words(hand)} propeller fitted`,
                }))}
                value={fitted as '' | (typeof hands)[number]}
                disabled={fit.isPending || !out}
                onChoose={(hand) => fit.mutate({ corner: c, hand }, { onError: showError })}
              />
            </fieldset>
          )
        })}
      </div>
    </section>
  )
}

/** The place from above: the clear radius to scale, the wind as it blows over the quad. */
function Site(props: { wind: number; gust: number; clear: number; need: number; verdict: Schemas['SiteView']['clear'] }) {
  const { wind, gust, clear, need } = props
  const tone = { enough: 'ok', short: 'stop', wanted: 'note', untried: 'note' }[props.verdict]
  const most = Math.max(20, need, Number.isNaN(clear) ? 0 : clear)
  const scale = 120 / most
  const arrow = (v: number) => Math.min(150, v * 11)
  return (
    <section aria-label="The place">
      <Subhead>The place, from above. The nose stands north, the wind comes from its left.</Subhead>
      <svg
        className="max-h-56 w-full phone:max-h-none"
        viewBox="105 6 280 256"
        role="img"
        aria-label={`Clear radius ${Number.isNaN(clear) ? 'not paced' : `${clear} m`}, wind ${Number.isNaN(wind) ? 'not read' : `${wind} m/s`}, gusts ${Number.isNaN(gust) ? 'not read' : `${gust} m/s`}`}
      >
        {!Number.isNaN(clear) && (
          <circle cx="245" cy="134" r={clear * scale} fill={`var(--${tone}-bg)`} fillOpacity="0.6" stroke={`var(--${tone})`} strokeWidth="2.5" />
        )}
        {[5, 10, 20, 40]
          .filter((r) => r <= most && Math.abs(r - need) > 2)
          .map((r) => (
            <g key={r}>
              <circle cx="245" cy="134" r={r * scale} fill="none" stroke="var(--line)" />
              <text
                x="245"
                y={134 - r * scale - 3 + (r * scale > 112 ? 16 : 0)}
                textAnchor="middle"
                fontSize="12.5"
                stroke="var(--paper)"
                strokeWidth="4"
                paintOrder="stroke"
                style={{ fill: 'var(--soft)' }}
              >
                {r} m
              </text>
            </g>
          ))}
        {need > 0 && <circle cx="245" cy="134" r={need * scale} fill="none" stroke="var(--ink)" strokeWidth="1.5" strokeDasharray="6 5" />}
        <path d="M235 144l20 -20m-20 0l20 20" stroke="var(--ink)" strokeWidth="3" />
        {[124, 144].map((y) => [235, 255].map((x) => <circle key={`${x}${y}`} cx={x} cy={y} r="6" fill="var(--panel)" stroke="var(--ink)" strokeWidth="2" />))}
        {!Number.isNaN(gust) && <path d={`M112 100h${arrow(gust)}`} stroke="var(--note)" strokeWidth="3" strokeDasharray="5 5" />}
        {!Number.isNaN(wind) && <path d={`M112 84h${arrow(wind)}l-9 -6m9 6l-9 6`} stroke="var(--note)" strokeWidth="4" fill="none" />}
      </svg>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 pt-1 text-[14px] [&_dt]:text-soft">
        <dt>Wind (arrow)</dt>
        <dd>{Number.isNaN(wind) ? 'not read' : `${wind} m/s`}</dd>
        <dt>Gusts (dashes)</dt>
        <dd>{Number.isNaN(gust) ? 'not read' : `${gust} m/s`}</dd>
        <dt>Clear</dt>
        <dd>{Number.isNaN(clear) ? 'pace the clear radius' : `${clear} m${props.verdict === 'wanted' ? ' once; pace it again' : ''}`}</dd>
        <dt>To keep clear (dashed)</dt>
        <dd>
          {need > 0 ? `${Math.ceil(need)} m, a quarter more than any flight got in this wind` : 'rehearse it: it tells the crash distance with a slow reaction'}
        </dd>
      </dl>
    </section>
  )
}

function Go({ quad, perch, rehearsed }: StationProps<QuadAt<'first-flight'>> & { rehearsed?: string }) {
  const go = useNavigate()
  const [site, setSite] = useState(quad.release?.site ?? '')
  const rehearse = useAct(quad.id, () => acts.keepRehearsal(quad.id))
  const release = useAct(quad.id, () => acts.release(quad.id, site, quad.seen))
  const accepted = quad.line.flatMap((p) => p.findings).filter((f) => f.accepted)
  const wanted = perch.asks.some((a) => a.path === 'readings.firstFlight.rehearsal')
  return (
    <section aria-label="Go or not" style={{ background: 'var(--sunk)', borderRadius: 8, padding: '10px 16px', display: 'grid', gap: 8 }}>
      <div className="flex flex-wrap items-center gap-2.5">
        <b style={{ fontFamily: 'var(--head)', fontSize: 17 }}>{quad.release ? 'Go' : 'Not yet'}</b>
        <span className="flex-1 phone:flex-none phone:basis-full">
          {quad.release
            ? `Released for hover in sight at ${quad.release.site}, until midnight: ${dateTime(quad.release.until)}.`
            : quad.against || 'Everything is proven: release it for today.'}
        </span>
      </div>
      {accepted.length > 0 && <p>Flown in spite of: {accepted.map((f) => `${lower(f.title)} (${f.accepted?.reason})`).join('; ')}.</p>}
      <div className="flex flex-wrap items-center gap-2.5">
        <Button disabled={rehearse.isPending} onClick={() => rehearse.mutate(undefined, { onError: showError })}>
          {rehearse.isPending ? 'Flying…' : wanted ? 'Rehearse the hover' : 'Rehearse again'}
        </Button>
        <TextButton onClick={() => go(`/quads/${quad.id}/rehearsal`)}>Watch it fly</TextButton>
        <span className="flex-1 text-soft phone:flex-none phone:basis-full">
          {rehearsed ?? 'Arm, lift to 1 m, hold, land: with this board and the quad as observed; then a hundred by a beginner in the wind of today.'}
        </span>
      </div>
      <div className="flex flex-wrap items-center gap-2.5">
        <label>
          Site <input value={site} placeholder="where you are" onChange={(e) => setSite(e.target.value)} maxLength={120} />
        </label>
        <Button
          main
          disabled={release.isPending || quad.against !== '' || site.trim() === ''}
          onClick={() => release.mutate(undefined, { onError: onConflict(quad, 'Your release', []) })}
        >
          Release for hover in sight
        </Button>
        <Button onClick={() => go(`/quads/${quad.id}/book`)}>Note the flight</Button>
      </div>
    </section>
  )
}
