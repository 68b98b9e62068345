import { useDeferredValue, useState } from 'react'
import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { ways } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { Select } from '../../kit/select'
import { Slider } from '../../kit/slider'
import { onConflict } from '../../places/line/conflict'
import { AsTable } from '../../shell/as-table'
import { acts, type Change, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import type { Path } from '../../wire/path'
import { useAlarm } from '../../wire/powerwatch'
import type { StationProps } from '../props'
import { figure } from '../senses/figure'
import { nothingPasted, PasteRun } from '../senses/pasted'
import { clock } from './clock'
import { FlightDrawn } from './flight'
import { AlarmMapDrawn } from './map'
import { Routes } from './routes'

type Effort = Schemas['AlarmAsk']['effort']

const efforts = [
  { value: 'hovering', words: 'Hovering' },
  { value: 'cruising', words: 'Cruising' },
  { value: 'punching', words: 'With punches' },
] as const

/** An alarm is moved over a flight of the model, or one that was recorded: what it would have said, when, and what it leaves. */
export function AlarmTuned({ quad, perch }: StationProps<QuadAt<'power-watch'>>) {
  const v = quad.watch
  const [pack, setPack] = useState(() => v.packs.find((p) => p.heaviest)?.name ?? '')
  const [effort, setEffort] = useState<Effort>('cruising')
  const [pasted, setPasted] = useState(nothingPasted)
  const [moved, setMoved] = useState<{ perCell?: number; delay?: number; repeat?: number }>({})
  const one = v.packs.find((p) => p.name === pack) ?? v.packs[0]
  const perCell = moved.perCell ?? (v.warn || 3.5)
  const delay = moved.delay ?? v.delay
  const repeat = moved.repeat ?? v.repeat
  const base = {
    pack: one?.name ?? '',
    effort,
    leave: v.leave,
    ...(pasted.text ? { text: pasted.text, columns: pasted.columns.length > 0 ? pasted.columns : undefined } : {}),
  }
  const whole = useAlarm(quad, { ...base, alarm: { perCell: 3.5, delay: 0, repeat: 0 } }, Boolean(one))
  const alarm = useDeferredValue({ perCell, delay, repeat })
  const replayed = useAlarm(quad, { ...base, alarm, brief: true }, Boolean(one))
  const edit = useAct(quad.id, (values: Change[]) => acts.edit(quad.id, quad.version, values))
  if (!one) return <p className="text-soft">No pack is assigned: at Airframe, Parts, say with which it flies.</p>
  const f = whole.error ? undefined : whole.data
  const r = replayed.error ? undefined : replayed.data?.replayed
  const advised = f?.advised
  const touched = perCell !== v.warn || delay !== v.delay || repeat !== v.repeat
  const take = () => {
    const values: Change[] = [
      { path: 'sheet.watch.warnPerCell' as Path, value: perCell },
      { path: 'radio.alarmDelay' as Path, value: delay },
      { path: 'radio.alarmRepeat' as Path, value: repeat },
    ]
    edit.mutate(values, { onError: onConflict(quad, 'The alarm', values), onSuccess: () => setMoved({}) })
  }
  return (
    <>
      {r && (
        <AsTable
          caption="What this alarm would have done"
          head={['at', 'what']}
          rows={r.rings.map((ring) => [clock(ring.at), ring.false ? 'false: the pack only sagged' : 'true'])}
        />
      )}
      <div className={ways}>
        <Select
          label="Pack flown"
          className="w-36"
          options={v.packs.map((p) => ({ value: p.name, words: `${p.name}, ${p.pack.cells} cells` }))}
          value={one.name}
          onChoose={setPack}
        />
        {!pasted.text && <Segments label="How it is flown" items={[...efforts]} value={effort} onChoose={setEffort} />}
        {pasted.text && <b>A flight that was recorded</b>}
        {!one.fits && <span className="text-fix">The alarm counts on {v.cells} cells.</span>}
      </div>
      {whole.error ? (
        <p role="alert" className="text-stop">
          {whole.error.message}
        </p>
      ) : f ? (
        <div className="grid grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
          <section aria-label="The flight">
            <FlightDrawn view={f} replayed={r} perCell={perCell} land={v.land} onPerCell={(x) => setMoved({ ...moved, perCell: x })} />
            {!pasted.text && <p className="text-[13px] text-soft">A whole pack flown in the model, with motors, sticks and sensors as they should be.</p>}
            <p aria-live="polite" className="text-[14.5px]">
              {r ? <Said r={r} leave={v.leave} /> : 'Working it out…'}
            </p>
          </section>
          <section aria-label="The alarm">
            {f.map && <AlarmMapDrawn map={f.map} leave={v.leave} at={{ perCell, delay }} advised={advised} onMove={(to) => setMoved({ ...moved, ...to })} />}
            <p className="mb-1 text-[13px] text-soft">
              Teal leaves {clock(v.leave)} or more, the deeper the less is wasted; brown leaves less; bare never says so. Struck through: with false ones.
            </p>
            <div className="grid grid-cols-[auto_minmax(0,1fr)_70px] items-center gap-x-3 text-[14px]">
              <span>Warns below, a cell</span>
              <Slider
                label="Warns below, V a cell"
                value={perCell}
                min={3.2}
                max={3.9}
                step={0.02}
                onMove={(x) => setMoved({ ...moved, perCell: Number(x.toFixed(2)) })}
              />
              <b className="tabular-nums">{perCell.toFixed(2)} V</b>
              <span>for longer than</span>
              <Slider label="Delay, s" value={delay} min={0} max={10} step={0.5} onMove={(x) => setMoved({ ...moved, delay: x })} />
              <b className="tabular-nums">{delay.toFixed(1)} s</b>
              <span>and again every</span>
              <Slider label="Repeat, s; 0 says it once" value={repeat} min={0} max={60} step={5} onMove={(x) => setMoved({ ...moved, repeat: x })} />
              <b className="tabular-nums">{repeat === 0 ? 'once' : `${repeat} s`}</b>
            </div>
            <OfThePack name={one.name} cells={f.cells} perCell={perCell} onPerCell={(x) => setMoved({ ...moved, perCell: x })} />
            <div className={ways}>
              <Button small main disabled={!touched || edit.isPending} onClick={take}>
                Take this alarm
              </Button>
              {advised && (
                <Button small disabled={edit.isPending} onClick={() => setMoved({ ...moved, ...advised })}>
                  Advised: {advised.perCell.toFixed(2)} V after {advised.delay} s
                </Button>
              )}
            </div>
            {!advised && <p className="text-[14px] text-fix">No alarm of the map leaves {v.leave.toFixed(0)} s on this flight.</p>}
          </section>
        </div>
      ) : (
        <p>Flying it empty…</p>
      )}
      <Routes quad={quad} perch={perch} />
      <section aria-label="A recorded flight" className="text-[14px]">
        <Subhead>A flight that was recorded</Subhead>
        <PasteRun pasted={pasted} onPaste={setPasted} table={f?.table} heads="as time (s), pack (V), pack (A)" />
        {pasted.text && f && !f.sorted && <p className="text-soft">Its rows were not in the order of time; they are now.</p>}
      </section>
    </>
  )
}

/** The same threshold for the whole pack, as radios want it told; typed, it moves the alarm. */
function OfThePack({ name, cells, perCell, onPerCell }: { name: string; cells: number; perCell: number; onPerCell: (volts: number) => void }) {
  const [typed, setTyped] = useState<string | null>(null)
  const volts = figure((typed ?? '').replace(/\s*V$/, ''))
  const wrong = typed !== null && (volts === null || volts < 3.2 * cells || volts > 3.9 * cells)
  return (
    <p className="text-[14px] text-soft">
      {perCell.toFixed(2)} V a cell is{' '}
      <input
        type="text"
        inputMode="decimal"
        className="w-18! py-0.5!"
        aria-label={`Warns below, V of ${name}`}
        aria-invalid={wrong}
        value={typed ?? (perCell * cells).toFixed(1)}
        onChange={(e) => {
          setTyped(e.target.value)
          const x = figure(e.target.value.replace(/\s*V$/, ''))
          if (x !== null && x >= 3.2 * cells && x <= 3.9 * cells) onPerCell(Number((x / cells).toFixed(3)))
        }}
        onBlur={() => setTyped(null)}
      />{' '}
      V of {name}
      {cells > 1 ? `; a pack of ${cells - 1} cells would be warned of at ${(perCell * (cells - 1)).toFixed(1)} V` : ''}.
      {wrong && (
        <span role="alert" className="text-stop">
          {' '}
          Of {cells} cells it lies between {(3.2 * cells).toFixed(1)} and {(3.9 * cells).toFixed(1)} V.
        </span>
      )}
    </p>
  )
}

function Said({ r, leave }: { r: Schemas['Replayed']; leave: number }) {
  const falses = r.false === 0 ? 'No false alarm.' : r.false === 1 ? 'One false alarm, at a sag.' : `${r.false} false alarms, at sags.`
  if (!r.true)
    return (
      <>
        {falses} <b className="text-fix">It never says that the pack is low: too late on this flight.</b>
      </>
    )
  return (
    <>
      {falses} The first true one comes at <b>{clock(r.at)}</b> and leaves{' '}
      <b className={r.seconds < leave ? 'text-fix' : undefined}>
        {r.atLeast ? 'at least ' : ''}
        {clock(r.seconds)}
      </b>{' '}
      to fly: {r.charge.toFixed(0)} mAh, {r.energy.toFixed(1)} Wh. Wanted are {clock(leave)}.
    </>
  )
}
