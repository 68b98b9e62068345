import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../kit/button'
import { two } from '../../kit/looks'
import { acts, answerOf, type QuadView, type Schemas, server, useAct } from '../../wire/client'
import { nothingPasted, type Pasted, PasteRun } from './pasted'

/** What the motors' current adds to the compass: a line over the current, axis by axis, and what it comes to in a hover of this quad. */
export function MotorCurrent({ quad }: { quad: QuadView }) {
  const [pasted, setPasted] = useState<Pasted>(nothingPasted)
  const text = pasted.text.trim()
  const fit = useQuery({
    queryKey: ['currents', quad.id, quad.seen, pasted],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/senses/currents', { params: { path: { id: quad.id } }, body: { text, columns: pasted.columns } })),
    enabled: text !== '',
    retry: false,
    placeholderData: (before) => before,
  })
  const v = text && !fit.error ? fit.data : undefined
  const keep = useAct(quad.id, (value: Schemas['Disturbance']) => acts.typeAll(quad.id, [{ path: 'readings.senses.interference', value }]))
  return (
    <div className={two}>
      <section aria-label="The motors' current">
        <p className="text-soft">
          Strapped down outdoors to something heavy that is no iron, eyes protected, nobody near: leave the nose where it is and raise the throttle in steps.
          Recorded with the current, it shows how far the compass moves for each ampere.
        </p>
        {text && fit.error && (
          <p role="alert" className="text-stop">
            {fit.error.message}
          </p>
        )}
        {v && (
          <div aria-live="polite" className="mt-2">
            <p>
              It moves by <b>{v.length.toFixed(3)} µT</b> for each ampere, to {v.within.toFixed(3)}. In a hover of {v.hover.toFixed(1)} A that is{' '}
              <b>{v.reading.atHover} µT</b> beside {v.ground}: up to <b className={v.turns <= v.most ? 'text-ok' : 'text-stop'}>{v.turns.toFixed(1)}°</b> of
              heading; {v.most.toFixed(1)}° is the most.
            </p>
            <Button small disabled={keep.isPending} onClick={() => keep.mutate(v.reading)}>
              Keep it as the reading
            </Button>
          </div>
        )}
        <PasteRun
          open
          pasted={pasted}
          onPaste={setPasted}
          table={v?.table}
          heads="the current in A, and what the compass shows ahead, to the right and down."
        />
      </section>
      <section aria-label="The compass over the current">{v && <Lines view={v} />}</section>
    </div>
  )
}

const box = { w: 400, h: 250 }
const axes = [
  ['ahead', 'var(--act)'],
  ['right', 'var(--fix)'],
  ['down', 'var(--soft)'],
] as const

/** The three axes over the current, each from where it stood at the least of it. */
function Lines({ view }: { view: Schemas['CurrentsView'] }) {
  const list = [...view.drawn].sort((a, b) => a.amperes - b.amperes)
  const first = list[0]?.shown ?? [0, 0, 0]
  const most = Math.max(1, view.hover, ...list.map((s) => s.amperes))
  const far = Math.max(1, ...list.flatMap((s) => s.shown.map((x, i) => Math.abs(x - (first[i] ?? 0)))))
  const x = (a: number) => 44 + (a / most) * (box.w - 70)
  const y = (b: number) => box.h / 2 - 8 - (b / far) * (box.h / 2 - 30)
  return (
    <svg width={box.w} height={box.h} role="img" aria-label={`What the compass shows from none to ${Math.round(most)} A, ${view.drawn.length} samples`}>
      {[-far, 0, far].map((b) => (
        <g key={b}>
          <path d={`M44 ${y(b)}H${box.w - 26}`} stroke="var(--line)" />
          <text x="38" y={y(b) + 4} fontSize="12.5" textAnchor="end" fill="var(--soft)">
            {b.toFixed(1)}
          </text>
        </g>
      ))}
      <path d={`M${x(view.hover)} 14V${box.h - 30}`} stroke="var(--ok)" strokeDasharray="5 4" />
      <text x={x(view.hover)} y={box.h - 18} fontSize="12.5" textAnchor="middle" fill="var(--ok)">
        hover
      </text>
      {axes.map(([name, tone], axis) => (
        <g key={name}>
          {list.map((s, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: samples have no names
            <circle key={i} cx={x(s.amperes)} cy={y((s.shown[axis] ?? 0) - (first[axis] ?? 0))} r="2.2" fill={tone} />
          ))}
          <text x={60 + 80 * axis} y={box.h - 2} fontSize="12.5" style={{ fill: tone }}>
            {name}
          </text>
        </g>
      ))}
      <text x={box.w - 26} y={box.h - 2} fontSize="12.5" textAnchor="end" fill="var(--soft)">
        µT over A
      </text>
    </svg>
  )
}
