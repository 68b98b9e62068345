import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { two, ways } from '../../kit/looks'
import { useOwn } from '../../places/bench/whose'
import { showError } from '../../shell/message'
import { acts, answerOf, type QuadView, type Schemas, server, useAct } from '../../wire/client'
import { useLive } from '../../wire/live'
import { useLiveRun } from './live-run'
import { nothingPasted, type Pasted, PasteRun } from './pasted'

type Name = Schemas['Face']['name']

/** Where each attitude stands in the drawing, and how it is called. */
const places: [Name, string][] = [
  ['belly', 'on its feet'],
  ['back', 'on its back'],
  ['nose', 'on its nose'],
  ['tail', 'on its tail'],
  ['right', 'on its right side'],
  ['left', 'on its left side'],
]

/** An accelerometer laid on its six faces, in any order: which were seen, what each showed, and what it is off by. */
export function SixFaces({ quad }: { quad: QuadView }) {
  const own = useOwn()
  const shows = useLive((s) => own && (s.live?.accel?.length ?? 0) === 3)
  const [on, setOn] = useState(false)
  const [pasted, setPasted] = useState<Pasted>(nothingPasted)
  const run = useLiveRun(on, (l) => (l.accel?.length === 3 ? [...l.accel] : undefined))
  const { count } = run
  const text = pasted.text.trim()
  const laid = useQuery({
    queryKey: ['faces', text ? pasted : `${run.began}.${count}`],
    queryFn: () => answerOf(server.POST('/api/senses/faces', { body: text ? { text, columns: pasted.columns } : { samples: run.seen() } })),
    enabled: text !== '' || count > 0,
    retry: false,
    placeholderData: (before) => before,
  })
  const v = laid.error ? undefined : laid.data
  const keep = useAct(quad.id, (r: Schemas['FacesRun']) => acts.typeAll(quad.id, [{ path: 'readings.senses.faces', value: r }]))
  const start = () => {
    run.clear()
    setPasted(nothingPasted)
    setOn(true)
    void answerOf(server.POST('/api/quads/{id}/bench/faces', { params: { path: { id: quad.id } } })).catch(showError)
  }
  return (
    <div className={two}>
      <section aria-label="The accelerometer on its six faces">
        <p className="text-soft">
          Laid on each of its six sides for two seconds, in any order, the accelerometer tells its own errors: each axis sees all of the weight one way and then
          the other.
        </p>
        {shows ? (
          <div className={ways}>
            <Button main={!on} onClick={() => (on ? setOn(false) : start())}>
              {on ? 'Stop' : 'Lay it down, and look'}
            </Button>
            {count > 0 && <span className="text-soft tabular-nums">{count} samples</span>}
            {count > 0 && !on && <TextButton onClick={start}>Begin anew</TextButton>}
          </div>
        ) : (
          <p className="text-faint">With a board on the bench it is seen live. Without one, a run can be pasted, or the figures typed.</p>
        )}
        {laid.error && (
          <p role="alert" className="text-stop">
            {laid.error.message}
          </p>
        )}
        {v && (
          <div aria-live="polite" className="mt-2">
            {v.fit && v.reading && (
              <>
                <p>
                  It is off by <b>{v.reading.offset} m/s²</b>, shows <b>{v.reading.scale} %</b> too much or too little, and <b>{v.reading.cross} %</b> of one
                  axis in another.
                </p>
                <p className="text-soft">
                  Ahead, right and down: {v.fit.offset.map((x) => signed(x * 1000)).join(', ')} thousandths of the weight, to {(v.within * 1000).toFixed(1)}. On
                  its feet that makes {v.fit.level.toFixed(1)}° of lean.
                </p>
              </>
            )}
            {v.next && <p className="font-semibold text-act">{v.next}</p>}
            {v.reading && (
              <Button small disabled={keep.isPending} onClick={() => keep.mutate(v.reading as Schemas['FacesRun'], { onError: showError })}>
                Keep it as the reading of its faces
              </Button>
            )}
          </div>
        )}
        <PasteRun
          pasted={pasted}
          onPaste={setPasted}
          table={v?.table}
          heads="what the accelerometer shows ahead, to the right and down, in shares of the weight or in m/s²."
        />
      </section>
      <section aria-label="Faces seen">
        <Six faces={v?.faces ?? []} />
      </section>
    </div>
  )
}

const signed = (x: number) => x.toFixed(0).replace('-', '−')

const cell = { w: 126, h: 112 }
/** How far each attitude is turned in the drawing, seen from behind or from its left side. */
const turned: Record<Name, number> = { belly: 0, back: 180, nose: -90, tail: 90, right: 90, left: -90 }

/** The six attitudes, three in a row: the quad from behind, or from its left for nose and tail, and what it showed there. */
function Six({ faces }: { faces: Schemas['Face'][] }) {
  return (
    <svg
      width={3 * cell.w}
      height={2 * cell.h + 10}
      role="img"
      aria-label={places.map(([name, words]) => `${words}: ${faces.some((f) => f.name === name) ? 'seen' : 'not yet'}`).join(', ')}
    >
      {places.map(([name, words], i) => {
        const f = faces.find((x) => x.name === name)
        const [x, y] = [(i % 3) * cell.w, Math.floor(i / 3) * cell.h]
        const aside = name === 'nose' || name === 'tail'
        return (
          <g key={name} transform={`translate(${x} ${y})`}>
            <rect
              x="4"
              y="4"
              width={cell.w - 8}
              height={cell.h - 8}
              rx="6"
              fill={f ? 'var(--ok-bg)' : 'var(--panel)'}
              stroke={f ? 'var(--ok)' : 'var(--line)'}
              strokeDasharray={f ? undefined : '4 3'}
            />
            <path d={`M16 70H${cell.w - 16}`} stroke="var(--wire)" strokeWidth="3" />
            <g
              transform={`translate(${cell.w / 2} ${name === 'belly' || name === 'back' ? 54 : 40}) rotate(${turned[name]})`}
              stroke="var(--wire)"
              strokeWidth="2"
              fill="none"
            >
              <path d="M-26 0H26M-10 -7H10V0M-20 0V-9M20 0V-9M-20 0v14M20 0v14" />
              <path d="M-28 -9H-12M12 -9H28" stroke="var(--faint)" />
              {aside && <circle cx="-14" cy="-4" r="3" fill="var(--wire)" />}
            </g>
            <text x={cell.w / 2} y="86" textAnchor="middle" fontSize="12.5" style={{ fill: 'var(--ink)' }}>
              {words}
            </text>
            <text x={cell.w / 2} y="101" textAnchor="middle" fontSize="12" style={{ fill: f ? 'var(--ok)' : 'var(--faint)' }}>
              {f ? f.shown.map((s) => s.toFixed(2).replace('-', '−')).join('  ') : 'not yet'}
            </text>
          </g>
        )
      })}
    </svg>
  )
}
