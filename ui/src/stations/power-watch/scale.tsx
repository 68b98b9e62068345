import { useDeferredValue, useState } from 'react'
import { TextButton } from '../../kit/button'
import { fieldRow, two } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import type { Schemas } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { useCurrentScale } from '../../wire/powerwatch'
import type { StationProps } from '../props'
import { figure } from '../senses/figure'

type Row = { id: number; logged: string; put: string; minutes: string }

const kinds = {
  multiplies: 'Its scale multiplies: twice of it shows twice the current. New = old × charger / logged.',
  model: 'Its model grows by what the charger put back over what was logged, less what it draws at rest meanwhile.',
  divides: 'Its scale is a sensitivity: twice of it shows half the current. New = old × logged / charger.',
}

/** A current sensor's scale, or that of a board's model without one, from what chargers put back after some flights: over several packs, with how far they differ. */
export function ScaleOfSensor({ quad, model }: StationProps<QuadAt<'power-watch'>> & { model: boolean }) {
  const m = quad.watch.meter
  const [own, setOwn] = useState<'multiplies' | 'divides'>('multiplies')
  const [typed, setTyped] = useState('')
  const [rows, setRows] = useState<Row[]>([
    { id: 0, logged: '', put: '', minutes: '' },
    { id: 1, logged: '', put: '', minutes: '' },
    { id: 2, logged: '', put: '', minutes: '' },
  ])
  const [rest, setRest] = useState(String(m.seen?.idle ?? m.idle))
  const kind = model ? 'multiplies' : m.kind || own
  const idle = model ? (figure(rest) ?? 0) : 0
  const was = figure(typed) ?? (typed === '' ? (m.held ?? null) : null)
  const packs = rows.flatMap((r) => {
    const logged = figure(r.logged)
    const put = figure(r.put)
    const minutes = figure(r.minutes) ?? 0
    return logged !== null && put !== null ? [{ logged, put, minutes: model ? minutes : 0 }] : []
  })
  const ask = useDeferredValue({ was: was ?? 0, kind, packs, idle })
  const got = useCurrentScale(quad, ask, was !== null && packs.length > 0)
  const v = got.error || was === null || packs.length === 0 ? undefined : got.data
  const set = (id: number, to: Partial<Row>) => setRows(rows.map((r) => (r.id === id ? { ...r, ...to } : r)))
  return (
    <div className={two}>
      <section aria-label="Charger figures">
        <p className="text-[14px] text-soft">
          Fly some packs, each as you fly. Note what the board logged of each, and what the charger put back into it. {kinds[model ? 'model' : kind]}
        </p>
        <div className={fieldRow}>
          <label>
            the board’s scale now{m.setting ? `, ${m.setting}` : ''}
            <input
              type="text"
              inputMode="decimal"
              value={typed || (m.held === undefined ? '' : String(m.held))}
              placeholder="not read"
              onChange={(e) => setTyped(e.target.value)}
            />
          </label>
          {model && (
            <label>
              at rest, A
              <input type="text" inputMode="decimal" value={rest} onChange={(e) => setRest(e.target.value)} />
            </label>
          )}
          {!m.kind && !model && (
            <Segments
              small
              label="What its scale does"
              items={[
                { value: 'multiplies', words: 'multiplies' },
                { value: 'divides', words: 'is a sensitivity' },
              ]}
              value={own}
              onChoose={setOwn}
            />
          )}
        </div>
        {m.unit && !model && <p className="text-[13px] text-soft">In this family it is in {m.unit}.</p>}
        <ol aria-label="Packs flown" className="mt-2 grid gap-1">
          {rows.map((r, i) => (
            <li key={r.id} className="flex flex-wrap items-center gap-2 text-[14px]">
              <span className={model ? 'w-full text-soft' : 'w-14 text-soft'}>pack {i + 1}</span>
              <input
                type="text"
                inputMode="decimal"
                className="w-17!"
                aria-label={`Pack ${i + 1}: logged, mAh`}
                value={r.logged}
                onChange={(e) => set(r.id, { logged: e.target.value })}
              />
              mAh logged,
              <input
                type="text"
                inputMode="decimal"
                className="w-17!"
                aria-label={`Pack ${i + 1}: put back, mAh`}
                value={r.put}
                onChange={(e) => set(r.id, { put: e.target.value })}
              />
              mAh put back
              {model && (
                <>
                  , on for
                  <input
                    type="text"
                    inputMode="decimal"
                    className="w-16!"
                    aria-label={`Pack ${i + 1}: minutes on`}
                    value={r.minutes}
                    onChange={(e) => set(r.id, { minutes: e.target.value })}
                  />
                  min
                </>
              )}
            </li>
          ))}
        </ol>
        <TextButton onClick={() => setRows([...rows, { id: rows.length, logged: '', put: '', minutes: '' }])}>One pack more</TextButton>
      </section>
      <section aria-label="The scale" aria-live="polite">
        {got.error && was !== null && packs.length > 0 && (
          <p role="alert" className="text-stop">
            {got.error.message}
          </p>
        )}
        {v && <Scaled was={was ?? 0} view={v} />}
        {!v && !got.error && <p className="text-soft">With the first pack noted the scale is worked out; three say how sure it is.</p>}
      </section>
    </div>
  )
}

const box = { w: 360, h: 120 }

function Scaled({ view: v, was }: { view: Schemas['ScaleView']; was: number }) {
  const s = v.scaled
  const ratios = s.ratios
  const least = Math.min(0.9, ...ratios)
  const most = Math.max(1.1, ...ratios)
  const x = (r: number) => 16 + ((r - least) / (most - least)) * (box.w - 32)
  return (
    <>
      <svg
        viewBox={`0 0 ${box.w} ${box.h}`}
        className="w-full"
        role="img"
        aria-label={`Charger over logged of each pack: ${ratios.map((r) => r.toFixed(2)).join(', ')}`}
      >
        <path d={`M16 70H${box.w - 16}`} stroke="var(--wire)" />
        <path d={`M${x(1)} 30V82`} stroke="var(--line)" strokeWidth="2" />
        <text x={x(1)} y="98" textAnchor="middle" fontSize="12" style={{ fill: 'var(--soft)' }}>
          as logged
        </text>
        {ratios.map((r, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: packs have no other name
          <g key={i}>
            <circle cx={x(r)} cy="70" r="6" fill="var(--act)" fillOpacity="0.6" />
            <text x={x(r)} y={54 - (i % 3) * 15} textAnchor="middle" fontSize="12">
              {r.toFixed(2)}
            </text>
          </g>
        ))}
        <text x={box.w - 16} y="116" textAnchor="end" fontSize="12" style={{ fill: 'var(--soft)' }}>
          charger over logged
        </text>
      </svg>
      <p>
        The scale should be <b>{v.setting?.value ?? s.scale.toPrecision(4)}</b> instead of {was}
        {s.packs > 1 && (
          <>
            , 19 times of 20 between {s.least.toPrecision(4)} and {s.most.toPrecision(4)}; single packs differ by {(100 * s.spread).toFixed(1)} %
          </>
        )}
        . {s.words}
      </p>
      {v.setting && (
        <p className="text-[14px] text-soft">
          In its list: <code className="text-ink">{v.setting.name}</code> is <code className="text-ink">{v.setting.value}</code>.
        </p>
      )}
      {v.says && <p className="text-fix">{v.says}</p>}
    </>
  )
}
