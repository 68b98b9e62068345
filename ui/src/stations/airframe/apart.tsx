import { type KeyboardEvent, type PointerEvent, useDeferredValue, useEffect, useRef, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { fieldRow, ways } from '../../kit/looks'
import { Tick } from '../../kit/tick'
import { onConflict } from '../../places/line/conflict'
import { useApart } from '../../wire/airframe'
import { acts, type Change, type QuadView, type Schemas, useAct } from '../../wire/client'
import { asNamed } from '../../wire/path'
import { Costs } from './apart-costs'
import { FromAbove, FromTheSide } from './apart-drawing'

export type Thing = Schemas['Thing']
export type Placed = Record<string, Thing>

/** The quad as things that can be picked up and put back: where each sits, what that does to the balance, and what it keeps from the propellers. */
export function TakenApart({ quad }: { quad: QuadView }) {
  const [chosen, setChosen] = useState('')
  const [tried, setTried] = useState<Placed>()
  const [picked, setPicked] = useState<{ name: string; thing: Thing }[]>([])
  const apart = useApart(quad, useDeferredValue(tried))
  const edit = useAct(quad.id, (values: Change[]) => acts.edit(quad.id, quad.version, values))
  const v = apart.data
  const placed = tried ?? v?.placed ?? {}
  const put = (values: Change[], what: string, then?: () => void) =>
    edit.mutate(values, { onError: onConflict(quad, what, values), onSuccess: then, onSettled: () => setTried(undefined) })
  const place = (name: string, thing: Thing | null, then?: () => void) => put([{ path: asNamed(`parts.placed.${name}`), value: thing }], name, then)
  const settle = useRef<ReturnType<typeof setTimeout>>(undefined)
  useEffect(() => () => clearTimeout(settle.current), [])
  const shift = (name: string, by: Partial<Thing>) => {
    const is = placed[name]
    if (!is) return
    const thing = { ...is, ...by }
    setTried({ ...placed, [name]: thing })
    return thing
  }
  const keys = (name: string, high: boolean) => (e: KeyboardEvent) => {
    const is = placed[name]
    const step = e.shiftKey ? 10 : 1
    const by: Record<string, Partial<Thing>> = !is
      ? {}
      : high
        ? {
            ArrowLeft: { ahead: is.ahead - step },
            ArrowRight: { ahead: is.ahead + step },
            ArrowUp: { above: is.above + step },
            ArrowDown: { above: is.above - step },
          }
        : {
            ArrowLeft: { right: is.right - step },
            ArrowRight: { right: is.right + step },
            ArrowUp: { ahead: is.ahead + step },
            ArrowDown: { ahead: is.ahead - step },
          }
    const move = by[e.key]
    if (!move) return
    e.preventDefault()
    e.stopPropagation()
    const thing = shift(name, move)
    clearTimeout(settle.current)
    // One act for a run of presses: what is undone is the way, not the last millimetre.
    if (thing) settle.current = setTimeout(() => place(name, thing), 700)
  }
  const drag = useRef<{ name: string; high: boolean; x: number; y: number; from: Thing; per: number } | null>(null)
  const hold = (name: string, high: boolean, per: number) => (e: PointerEvent<SVGElement>) => {
    const from = placed[name]
    setChosen(name)
    if (!from || e.button !== 0) return
    e.currentTarget.setPointerCapture(e.pointerId)
    drag.current = { name, high, x: e.clientX, y: e.clientY, from, per }
  }
  const moved = (e: PointerEvent) => {
    const d = drag.current
    if (!d) return
    const dx = Math.round((e.clientX - d.x) * d.per)
    const dy = Math.round((d.y - e.clientY) * d.per)
    shift(d.name, d.high ? { ahead: d.from.ahead + dx, above: d.from.above + dy } : { right: d.from.right + dx, ahead: d.from.ahead + dy })
  }
  const letGo = () => {
    const d = drag.current
    drag.current = null
    const is = d && tried?.[d.name]
    if (is && JSON.stringify(is) !== JSON.stringify(d.from)) place(d.name, is)
  }
  if (apart.error && !v) return <p role="alert">{apart.error.message}</p>
  if (!v) return <p aria-busy="true">Taking it apart…</p>
  const hands = { chosen, hold, moved, letGo, keys, onChoose: setChosen }
  const is = placed[chosen]
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
      <div className="flex min-h-0 flex-col gap-1">
        <FromAbove quad={quad} view={v} placed={placed} hands={hands} />
        <FromTheSide quad={quad} view={v} placed={placed} hands={hands} />
      </div>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by the keyboard */}
      <section aria-label="What is on it" tabIndex={0} className="min-h-0 overflow-y-auto pr-2">
        {is ? (
          <ThingFields
            key={`${chosen} ${JSON.stringify(v.placed[chosen] ?? {})}`}
            name={chosen}
            thing={v.placed[chosen] ?? is}
            busy={edit.isPending}
            onPut={(values) => put(values, chosen)}
            onPick={() => {
              setPicked([...picked.filter((p) => p.name !== chosen), { name: chosen, thing: is }])
              place(chosen, null, () => setChosen(''))
            }}
            onLeave={() => setChosen('')}
          />
        ) : (
          <p className="text-[14px] text-soft">
            Choose a thing in the drawing: drag it, or move it by the arrow keys, a millimetre at a time, with Shift ten. From the side it moves up and down.
          </p>
        )}
        {(picked.length > 0 || v.offers.length > 0) && (
          <fieldset className={ways} aria-label="Put on">
            {picked
              .filter((p) => !placed[p.name])
              .map((p) => (
                <Button key={p.name} small onClick={() => place(p.name, p.thing, () => setChosen(p.name))}>
                  Put the {p.name} back
                </Button>
              ))}
            {v.offers
              .filter((o) => !picked.some((p) => p.name === o.name))
              .map((o) => (
                <Button key={o.name} small quiet onClick={() => place(o.name, o.thing, () => setChosen(o.name))}>
                  Put on: {o.name}
                </Button>
              ))}
          </fieldset>
        )}
        <NewThing
          taken={Object.keys(placed)}
          onPut={(name) => place(name, { mass: 0, ahead: 0, right: 0, above: 0, long: 20, wide: 20, high: 10, protects: false }, () => setChosen(name))}
        />
        <Costs view={v} chosen={chosen} onChoose={setChosen} />
      </section>
    </div>
  )
}

const fields = [
  ['mass', 'mass', 'g'],
  ['ahead', 'ahead', 'mm'],
  ['right', 'right', 'mm'],
  ['above', 'above the motors', 'mm'],
  ['long', 'long', 'mm'],
  ['wide', 'wide', 'mm'],
  ['high', 'high', 'mm'],
] as const

type FieldsProps = { name: string; thing: Thing; busy: boolean; onPut: (values: Change[]) => void; onPick: () => void; onLeave: () => void }

/** One thing with its figures, to be typed. */
function ThingFields({ name, thing, busy, onPut, onPick, onLeave }: FieldsProps) {
  const text = (x: number) => (x ? String(x) : x === 0 ? '0' : '')
  const [typed, setTyped] = useState(() => Object.fromEntries(fields.map(([f]) => [f, f === 'mass' && !thing.mass ? '' : text(thing[f])])))
  const shown = fields.filter(([f]) => name !== 'pack' || f !== 'mass')
  const changed = shown.filter(([f]) => (typed[f] ?? '') !== (f === 'mass' && !thing.mass ? '' : text(thing[f])))
  return (
    <form
      aria-label={`The ${name}`}
      className="rounded-lg border border-act bg-act-bg/40 px-3 py-2"
      onSubmit={(e) => {
        e.preventDefault()
        if (changed.length > 0) onPut(changed.map(([f]) => ({ path: asNamed(`parts.placed.${name}.${f}`), value: typed[f] || 0 })))
      }}
    >
      <Subhead className="mt-0!">The {name}</Subhead>
      {name === 'pack' && <p className="text-[13px] text-soft">It weighs what the pack weighs that is in.</p>}
      <div className={fieldRow}>
        {shown.map(([f, label, unit]) => (
          <label key={f}>
            {label}, {unit}
            <input
              type="text"
              inputMode="decimal"
              className="w-19!"
              placeholder={f === 'mass' ? 'not told' : undefined}
              value={typed[f] ?? ''}
              onChange={(e) => setTyped({ ...typed, [f]: e.target.value })}
            />
          </label>
        ))}
      </div>
      {name !== 'pack' && (
        <Tick
          className="mt-1.5"
          disabled={busy}
          checked={thing.protects}
          onChange={(on) => onPut([{ path: asNamed(`parts.placed.${name}.protects`), value: on }])}
        >
          It only protects: a guard, a bumper, a cover
        </Tick>
      )}
      <div className={ways}>
        <Button small main type="submit" disabled={busy || changed.length === 0}>
          Put it there
        </Button>
        <Button small onClick={onPick} disabled={busy}>
          Pick it up
        </Button>
        <TextButton quiet onClick={onLeave}>
          Done
        </TextButton>
      </div>
    </form>
  )
}

/** Anything else that sits on a quad, by a name of one's own. */
function NewThing({ taken, onPut }: { taken: string[]; onPut: (name: string) => void }) {
  const [name, setName] = useState('')
  const clean = name.trim().toLowerCase()
  const bad = clean !== '' && (taken.includes(clean) || /[.*]/.test(clean))
  return (
    <form
      className={fieldRow}
      aria-label="Put on something else"
      onSubmit={(e) => {
        e.preventDefault()
        if (clean && !bad) {
          onPut(clean)
          setName('')
        }
      }}
    >
      <label>
        something else, by its name
        <input type="text" maxLength={40} className="w-40!" value={name} onChange={(e) => setName(e.target.value)} aria-invalid={bad} />
      </label>
      <Button small type="submit" disabled={!clean || bad}>
        Put it on
      </Button>
      {bad && (
        <span role="alert" className="text-[13px] text-stop">
          {taken.includes(clean) ? 'It is on already.' : 'A name has no full stop and no star.'}
        </span>
      )}
    </form>
  )
}
