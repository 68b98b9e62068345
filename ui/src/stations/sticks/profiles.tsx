import { useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { join } from '../../kit/join'
import { Facts } from '../../kit/table'
import { upper } from '../../kit/text'
import { onConflict } from '../../places/line/conflict'
import { TypedAt } from '../../places/line/typed'
import type { Schemas } from '../../wire/client'
import { acts, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { asNamed } from '../../wire/path'

type Profile = Schemas['ProfileView']
type At = QuadAt<'sticks'>

// Told apart without colour too: whole, dashed, dotted.
const strokes = ['', '7 4', '2 4']
const inks = ['var(--act)', 'var(--fix)', 'var(--ok)']
const box = { w: 240, h: 132, left: 34, bottom: 20, top: 8 }

/** How the quad answers the hands in each profile, what is otherwise in it, and which switch chooses it. */
export function Profiles({ quad }: { quad: At }) {
  const list = quad.profiles
  const first = list[0]
  if (!first) return null
  const most = Math.max(100, ...list.flatMap((p) => p.curves.flat()))
  return (
    <>
      <p className="text-soft">
        {list.length > 1
          ? 'The board puts one of these in place of the other while a switch says so; where two are on, the later counts. Without a radio the first one does.'
          : 'This firmware has one profile alone.'}
      </p>
      <div className="flex flex-wrap gap-x-6 gap-y-3">
        {['Roll', 'Pitch', 'Yaw'].map((axis, i) => (
          <Curves key={axis} axis={axis} list={list} of={i} most={most} />
        ))}
      </div>
      <Facts aria-label="Profiles">
        <thead>
          <tr>
            <td className="border-0!" />
            {list.map((p, i) => (
              <th key={p.at} scope="col" className="align-top text-ink!">
                <Head quad={quad} profile={p} stroke={i} />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {first.figures.map((f, row) => (
            <tr key={f.path}>
              <th scope="row">{f.label}</th>
              {list.map((p) => {
                const figure = p.figures[row]
                return (
                  <td key={p.at} className={join('tabular-nums', figure?.differs && 'bg-act-bg')}>
                    {figure && <Figure quad={quad} profile={p} figure={figure} />}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </Facts>
    </>
  )
}

function Curves({ axis, list, of, most }: { axis: string; list: Profile[]; of: number; most: number }) {
  const x = (step: number, steps: number) => box.left + (step / steps) * (box.w - box.left - 6)
  const y = (rate: number) => box.h - box.bottom - (rate / most) * (box.h - box.bottom - box.top)
  const says = list
    .filter((p) => p.curves[of]?.length)
    .map((p) => `${p.words} ${Math.round(p.curves[of]?.at(-1) ?? 0)} °/s`)
    .join(', ')
  return (
    <figure className="m-0">
      <svg width={box.w} height={box.h} role="img" aria-label={`${axis} at full stick: ${says || 'not told'}`} className="text-[12px] text-soft">
        <path d={`M${box.left} ${box.top}V${box.h - box.bottom}H${box.w - 6}`} fill="none" stroke="var(--line)" />
        <text x={box.left - 4} y={box.top + 9} textAnchor="end" fill="currentColor">
          {Math.round(most)}
        </text>
        <text x={box.left - 4} y={box.h - box.bottom} textAnchor="end" fill="currentColor">
          0
        </text>
        <text x={box.left} y={box.h - 5} fill="currentColor">
          centre
        </text>
        <text x={box.w - 6} y={box.h - 5} textAnchor="end" fill="currentColor">
          full stick
        </text>
        {list.map((p, i) => {
          const c = p.curves[of] ?? []
          return (
            c.length > 1 && (
              <path
                key={p.at}
                d={c.map((rate, n) => `${n ? 'L' : 'M'}${x(n, c.length - 1).toFixed(1)} ${y(rate).toFixed(1)}`).join('')}
                fill="none"
                stroke={inks[i]}
                strokeWidth="2"
                strokeDasharray={strokes[i]}
                opacity={p.used ? 1 : 0.35}
              />
            )
          )
        })}
      </svg>
      <figcaption className="text-[14px] font-semibold">{axis}, °/s</figcaption>
    </figure>
  )
}

function Head({ quad, profile: p, stroke }: { quad: At; profile: Profile; stroke: number }) {
  const edit = useAct(quad.id, (name: string) => acts.edit(quad.id, quad.version, [{ path: asNamed(p.named), value: name }]))
  const begin = useAct(quad.id, () => {
    const { roll, pitch, yaw, angleLimit, throttleLimit } = quad.meant.sheet.feel
    return acts.edit(quad.id, quad.version, [{ path: asNamed(p.at), value: { name: p.name, roll, pitch, yaw, angleLimit, throttleLimit } }])
  })
  const which = p.words.replace(/ \(.*$/, '').replace(/^the /, '')
  const told = p.curves.some((c) => c.length > 0)
  return (
    <div className="flex flex-col gap-1 font-normal">
      <span className="flex items-center gap-2">
        <svg width="34" height="8" aria-hidden="true">
          <path d="M0 4H34" stroke={inks[stroke]} strokeWidth="2" strokeDasharray={strokes[stroke]} />
        </svg>
        <b>{upper(which)}</b>
      </span>
      <input
        key={p.name}
        type="text"
        aria-label={`Name of the ${which}`}
        placeholder="indoors, a guest …"
        defaultValue={p.name}
        maxLength={40}
        className="w-36"
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        onBlur={(e) => {
          const name = e.target.value.trim()
          if (name !== p.name) edit.mutate(name, { onError: onConflict(quad, 'The name', [{ path: asNamed(p.named), value: name }]) })
        }}
      />
      <span className="text-[13px] text-soft">
        {!p.when && 'in every other position'}
        {p.when && p.chosen.join('; or ')}
        {p.when && p.used && p.chosen.length === 0 && 'no switch reaches it'}
        {p.when && !p.used && 'on no switch'}
      </span>
      {p.rest && <span className="text-[13px] font-semibold text-act">answers at power-up</span>}
      {p.when && !told && (
        <Button small disabled={begin.isPending} onClick={() => begin.mutate(undefined, { onError: onConflict(quad, 'The profile', []) })}>
          Begin as the first
        </Button>
      )}
    </div>
  )
}

function Figure({ quad, profile, figure: f }: { quad: At; profile: Profile; figure: Schemas['ProfileFigure'] }) {
  const [open, setOpen] = useState(false)
  const edit = useAct(quad.id, (value: unknown) => acts.edit(quad.id, quad.version, [{ path: asNamed(f.path), value }]))
  return (
    <>
      <TextButton aria-expanded={open} aria-label={`${f.label}, ${profile.words}: ${f.words}. Change it`} onClick={() => setOpen(!open)}>
        {f.words}
      </TextButton>
      {open && (
        <TypedAt
          path={f.path}
          label={f.label}
          busy={edit.isPending}
          error={edit.error?.message}
          onCancel={() => setOpen(false)}
          onDone={(value) => edit.mutate(value, { onSuccess: () => setOpen(false), onError: onConflict(quad, f.label, [{ path: asNamed(f.path), value }]) })}
        />
      )}
    </>
  )
}
