import { type FormEvent, useId, useState } from 'react'
import type { Slot } from '../wire/client'

/** A word of an enumeration as it is said; anything else as it is. */
export const words = (w: string) =>
  w === 'counterClockwise' ? 'counter-clockwise' : /^[a-z]{2,}([A-Z][a-z]*)+$/.test(w) ? w.replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`) : w

function put(into: Record<string, unknown>, path: string, value: unknown) {
  const parts = path.split('.')
  let at = into
  for (const p of parts.slice(0, -1)) {
    at[p] ??= {}
    at = at[p] as Record<string, unknown>
  }
  at[parts.at(-1) ?? path] = value
}

/** Numbers with a unit go as typed: the core reads "5 in". A bare number goes as a number. */
function value(s: Slot, text: string): unknown {
  if (s.kind === 'number') {
    const n = Number(text.replace(',', '.'))
    return text.trim() !== '' && Number.isFinite(n) ? n : text
  }
  return s.kind === 'yesNo' ? text === 'yes' : text
}

/** Types one reading: a figure with its unit, a word, a yes or no, or several of them together. */
export function Typed(props: { slots: Slot[]; label: string; busy: boolean; error?: string; onDone: (v: unknown) => void; onCancel: () => void }) {
  const id = useId()
  const [text, setText] = useState<Record<string, string>>({})
  const single = props.slots.length === 1 && props.slots[0]?.path === '' ? props.slots[0] : undefined
  const done = (e: FormEvent) => {
    e.preventDefault()
    if (single) return props.onDone(value(single, text[''] ?? ''))
    const out: Record<string, unknown> = {}
    for (const s of props.slots) {
      const given = text[s.path] ?? ''
      if (given !== '' || !s.optional) put(out, s.path, value(s, given))
    }
    props.onDone(out)
  }
  if (single?.kind === 'yesNo') {
    return (
      <fieldset className="bar" aria-label={props.label}>
        <button type="button" className="btn small" disabled={props.busy} onClick={() => props.onDone(true)}>
          Yes
        </button>
        <button type="button" className="btn small" disabled={props.busy} onClick={() => props.onDone(false)}>
          No
        </button>
      </fieldset>
    )
  }
  return (
    <form className="typed" onSubmit={done} aria-label={props.label}>
      {props.slots.map((s) => (
        <label key={s.path} htmlFor={id + s.path}>
          {single ? props.label : s.label}
          {s.unit && s.unit !== 'count' ? `, ${s.unit}` : ''}
          {s.optional ? ', if known' : ''}
          {s.kind === 'oneOf' || s.kind === 'yesNo' ? (
            <select id={id + s.path} required={!s.optional} value={text[s.path] ?? ''} onChange={(e) => setText({ ...text, [s.path]: e.target.value })}>
              <option value="" disabled={!s.optional}>
                {s.optional ? '' : 'choose'}
              </option>
              {(s.kind === 'yesNo' ? ['yes', 'no'] : (s.oneOf ?? [])).map((w) => (
                <option key={w} value={w}>
                  {words(w)}
                </option>
              ))}
            </select>
          ) : (
            <input
              id={id + s.path}
              type="text"
              required={!s.optional}
              value={text[s.path] ?? ''}
              aria-describedby={s.allowed ? `${id + s.path}-allowed` : undefined}
              onChange={(e) => setText({ ...text, [s.path]: e.target.value })}
            />
          )}
          {s.allowed && (
            <span className="allowed" id={`${id + s.path}-allowed`}>
              {s.allowed.least} to {s.allowed.most}: {s.allowed.because}
            </span>
          )}
        </label>
      ))}
      <button type="submit" className="btn small main" disabled={props.busy}>
        Keep
      </button>
      <button type="button" className="link" onClick={props.onCancel}>
        Leave
      </button>
      {props.error && (
        <p role="alert" className="tone-stop">
          {props.error}
        </p>
      )}
    </form>
  )
}
