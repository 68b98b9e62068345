import { useState } from 'react'
import { join } from '../../kit/join'
import { plot } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { AsTable } from '../../shell/as-table'
import { type Schemas, useModes } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'

type Scene = Schemas['FlightModesRun']['scene']

const scenes: Record<Exclude<Scene, ''>, [string, string]> = {
  trace: ['One stick, three modes', 'Sixty per cent of the roll stick for half a second and back; then all of it and back.'],
  catch: ['Caught', 'Upset, on its side and turning; the sticks are let go.'],
  hang: ['Upside down', 'The throttle is closed; after half a second the roll stick asks for a turn.'],
}
const strokes = [
  { stroke: 'var(--act)', dash: undefined, width: 3 },
  { stroke: 'var(--fix)', dash: '8 4', width: 2.4 },
  { stroke: 'var(--ink)', dash: '2 4', width: 2.4 },
]
const box = { w: 720, h: 262, left: 46, right: 196, top: 12, stick: 52 }

/** The same hand flown in several modes, computed with this board's rates, gains and limits. */
export function Modes({ quad }: { quad: QuadAt<'sticks'> }) {
  const [scene, setScene] = useState<Exclude<Scene, ''>>('trace')
  const run = useModes(quad, scene)
  return (
    <>
      <div className="flex flex-wrap items-center gap-2.5">
        <Segments items={(Object.keys(scenes) as (keyof typeof scenes)[]).map((s) => ({ value: s, words: scenes[s][0] }))} value={scene} onChoose={setScene} />
        <span className="text-soft">{scenes[scene][1]}</span>
      </div>
      {run.error && <p role="alert">{run.error.message}</p>}
      {run.isPending && <p aria-busy="true">Flying it…</p>}
      {run.data && <Flown run={run.data} />}
      <dl className="grid grid-cols-[max-content_1fr] gap-x-3.5 gap-y-0.5 text-[15px] [&_dt]:font-semibold">
        <dt>self-level</dt>
        <dd>returns to level when you let go, and stops at its limit.</dd>
        <dt>blended</dt>
        <dd>levels near the centre and lets go near the stops: it flips, and does not hang upside down.</dd>
        <dt>acro</dt>
        <dd>holds the rotation that you ask for; let go, it stays as it is.</dd>
      </dl>
      <p className="text-soft">
        A small hunting in self-level is mostly the mode. It is the level's strength when it goes away in acro and with less strength; a shaken accelerometer
        when it comes with throttle and the horizon on the screen swims along.
      </p>
    </>
  )
}

function Flown({ run }: { run: Schemas['FlightModesRun'] }) {
  const all = run.flights.flatMap((f) => f.moments.map((m) => m.roll))
  const last = run.flights[0]?.moments.at(-1)?.time ?? 1
  const [low, high] = [Math.min(0, ...all), Math.max(60, ...all)]
  const x = (t: number) => box.left + (t / last) * (box.w - box.left - box.right)
  const bottom = box.h - box.stick
  const y = (deg: number) => box.top + ((high - deg) / (high - low)) * (bottom - box.top - 8)
  const line = (f: Schemas['FlightModeFlight']) => f.moments.map((m, i) => `${i ? 'L' : 'M'}${x(m.time).toFixed(1)} ${y(m.roll).toFixed(1)}`).join('')
  const marks = [-360, -180, 0, 90, 180, 360, 540, 720].filter((d) => d >= low && d <= high)
  const times = run.flights[0]?.moments.map((m) => m.time) ?? []
  const stick = run.stick.map((v, i) => `${i ? 'L' : 'M'}${x(times[i] ?? 0).toFixed(1)} ${(box.h - 14 - v * 24).toFixed(1)}`).join('')
  // The path from behind: sideways and down from where it began, to one scale.
  const points = run.flights.flatMap((f) => f.moments)
  const easts = points.map((m) => m.east)
  const heights = points.map((m) => m.height)
  const [west, east, under, over] = [Math.min(0, ...easts), Math.max(0, ...easts), Math.min(0, ...heights), Math.max(0, ...heights)]
  const reach = Math.max(east - west, over - under, 1)
  const room = 128
  const pathX = (m: number) => box.w - box.right + 10 + ((m - west) / reach) * room
  const pathY = (m: number) => 96 + ((over - m) / reach) * room
  const ruled = [1, 2, 5, 10, 20, 50, 100].find((m) => m * 5 >= reach) ?? 200 // m, of the scale
  const path = (f: Schemas['FlightModeFlight']) => f.moments.map((m, i) => `${i ? 'L' : 'M'}${pathX(m.east).toFixed(1)} ${pathY(m.height).toFixed(1)}`).join('')
  const words = (f: Schemas['FlightModeFlight']) =>
    `turned by ${f.most}°${f.over ? ', over' : ''}; ends ${f.tilt <= 3 ? 'level' : `${f.tilt}° from upright`}, ${Math.abs(f.lost)} m ${f.lost < 0 ? 'higher' : 'lower'}`
  return (
    <>
      <AsTable caption="What each mode made of it" head={['mode', '']} rows={run.flights.map((f) => [f.mode, words(f)])} />
      <div>
        <svg
          viewBox={`0 0 ${box.w} ${box.h}`}
          className={join(plot, 'max-h-none')}
          role="img"
          aria-label={run.flights.map((f) => `${f.mode}: ${words(f)}`).join('. ')}
        >
          {marks.map((d) => (
            <g key={d}>
              <path d={`M${box.left} ${y(d)}H${box.w - box.right}`} stroke="var(--line)" />
              <text x={box.left - 6} y={y(d) + 4} textAnchor="end" fontSize="12">
                {d}°
              </text>
            </g>
          ))}
          <path d={stick} fill="none" stroke="var(--faint)" strokeWidth="2" />
          <text x={box.left - 6} y={box.h - 14} textAnchor="end" fontSize="12">
            stick
          </text>
          {run.flights.map((f, i) => (
            <path
              key={f.mode}
              d={path(f)}
              fill="none"
              stroke={strokes[i]?.stroke}
              strokeWidth={strokes[i]?.width}
              strokeDasharray={strokes[i]?.dash}
              strokeLinecap="round"
            />
          ))}
          <path d={`M${pathX(west)} ${pathY(0)}h${room}`} stroke="var(--soft)" strokeDasharray="2 4" />
          <circle cx={pathX(0)} cy={pathY(0)} r="3.5" fill="var(--ink)" />
          <path
            d={`M${pathX(west) + room + 14} ${pathY(0)}v${(-ruled / reach) * room}m-4 0h8m-4 ${(ruled / reach) * room}m-4 0h8`}
            stroke="var(--soft)"
            fill="none"
          />
          <text x={pathX(west) + room + 20} y={pathY(ruled / 2) + 4} fontSize="12">
            {ruled} m
          </text>
          <text x={box.w - box.right + 10} y={box.h - 20} fontSize="12">
            from behind; begins at the dot,
          </text>
          <text x={box.w - box.right + 10} y={box.h - 5} fontSize="12">
            far above the ground
          </text>
          {run.flights.map((f, i) => (
            <path key={f.mode} d={line(f)} fill="none" stroke={strokes[i]?.stroke} strokeWidth={strokes[i]?.width} strokeDasharray={strokes[i]?.dash} />
          ))}
          {run.flights.map((f, i) => (
            <g key={f.mode}>
              <path
                d={`M${box.w - box.right + 10} ${box.top + 16 + i * 22}h26`}
                stroke={strokes[i]?.stroke}
                strokeWidth={strokes[i]?.width}
                strokeDasharray={strokes[i]?.dash}
              />
              <text x={box.w - box.right + 42} y={box.top + 20 + i * 22} fontSize="12.5" style={{ fill: 'var(--ink)' }}>
                {f.mode}
              </text>
            </g>
          ))}
        </svg>
      </div>
      <ul className="[&_li]:border-b [&_li]:border-line [&_li]:py-1 [&_li]:text-[15px]" aria-label="What each mode made of it">
        {run.flights.map((f) => (
          <li key={f.mode}>
            <b>{f.mode}</b> {words(f)}.
          </li>
        ))}
      </ul>
    </>
  )
}
