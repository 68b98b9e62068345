import { type FormEvent, type KeyboardEvent, useEffect, useId, useRef, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { fieldRow } from '../../kit/looks'
import { Select } from '../../kit/select'
import { type Slot, useSlots } from '../../wire/client'

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
    if (text.trim() === '' || !Number.isFinite(n)) return text
    // A bare figure is in the unit that stands beside it, which the pilot may have chosen.
    return s.unit === 'in' || s.unit === 'oz' ? `${n} ${s.unit}` : n
  }
  return s.kind === 'yesNo' ? text === 'yes' : text
}

const isList = (s: Slot) => s.kind === 'oneOf' || s.kind === 'yesNo'

/** Brings the keyboard to the first field as it opens, unless it stands still, and back to what opened it; Escape leaves. */
function useTyping(onLeave: () => void, still?: boolean) {
  const box = useRef<HTMLElement | null>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: as it opens, and only then
  useEffect(() => {
    if (still) return
    const before = document.activeElement
    box.current?.querySelector<HTMLElement>('input, button')?.focus()
    return () => {
      if (before instanceof HTMLElement && before.isConnected && document.activeElement === document.body) before.focus()
    }
  }, [])
  return {
    ref: (el: HTMLElement | null) => {
      box.current = el
    },
    onKeyDown: (e: KeyboardEvent) => {
      if (e.key !== 'Escape' || e.defaultPrevented) return
      e.stopPropagation()
      onLeave()
    },
  }
}

type Text = Record<string, string>

const singleOf = (slots: Slot[]) => (slots.length === 1 && slots[0]?.path === '' ? slots[0] : undefined)

/** What must still be chosen from a list: fields that must be filled the browser asks for, these nobody else. */
export const missingOf = (slots: Slot[], text: Text) => slots.find((s) => isList(s) && !s.optional && !text[s.path])

/** What was typed into some slots, as the server takes it. */
export function typedValue(slots: Slot[], text: Text): unknown {
  const single = singleOf(slots)
  if (single) return value(single, text[''] ?? '')
  const out: Record<string, unknown> = {}
  for (const s of slots) {
    const given = text[s.path] ?? ''
    if (given !== '' || !s.optional) put(out, s.path, value(s, given))
  }
  return out
}

/** A field for each slot. Loose ones may all be left empty. */
export function Fields(props: { id: string; slots: Slot[]; label: string; text: Text; loose?: boolean; onText: (text: Text) => void }) {
  const { id, slots, label, text, loose, onText } = props
  const single = singleOf(slots)
  return (
    <>
      {slots.map((s) => (
        <label key={s.path} htmlFor={id + s.path}>
          {single ? label : s.label}
          {s.unit && s.unit !== 'count' ? `, ${s.unit}` : ''}
          {s.optional ? ', if known' : ''}
          {isList(s) ? (
            <Select
              id={id + s.path}
              label={single ? label : s.label}
              value={text[s.path] ?? ''}
              empty={s.optional ? '' : 'choose'}
              options={[...(s.optional ? [''] : []), ...(s.kind === 'yesNo' ? ['yes', 'no'] : (s.oneOf ?? []))].map((w) => ({
                value: w,
                words: s.said?.[w] ?? words(w),
              }))}
              onChoose={(w) => onText({ ...text, [s.path]: w })}
            />
          ) : (
            <input
              id={id + s.path}
              type="text"
              required={!s.optional && !loose}
              value={text[s.path] ?? ''}
              aria-describedby={s.allowed ? `${id + s.path}-allowed` : undefined}
              onChange={(e) => onText({ ...text, [s.path]: e.target.value })}
            />
          )}
          {s.allowed && (
            <span className="max-w-65 text-[13px] text-soft" id={`${id + s.path}-allowed`}>
              {s.allowed.least} to {s.allowed.most}: {s.allowed.because}
            </span>
          )}
        </label>
      ))}
    </>
  )
}

type TypedProps = {
  label: string
  busy: boolean
  error?: string
  /** It stands there unasked, and takes no keyboard. */
  still?: boolean
  onDone: (v: unknown) => void
  onCancel: () => void
}

/** Types the value at a place of what is meant. */
export function TypedAt({ path, ...props }: TypedProps & { path: string }) {
  const slots = useSlots(path)
  if (slots.error)
    return (
      <p role="alert" className="text-stop">
        {slots.error.message}
      </p>
    )
  return slots.data && <Typed slots={slots.data} {...props} />
}

/** Types one reading: a figure with its unit, a word, a yes or no, or several of them together. */
export function Typed(props: TypedProps & { slots: Slot[] }) {
  const id = useId()
  const [text, setText] = useState<Text>({})
  const [missing, setMissing] = useState('')
  const single = singleOf(props.slots)
  const inside = useTyping(props.onCancel, props.still)
  const done = (e: FormEvent) => {
    e.preventDefault()
    const open = missingOf(props.slots, text)
    setMissing(open ? `Choose: ${(single ? props.label : open.label).toLowerCase()}.` : '')
    if (!open) props.onDone(typedValue(props.slots, text))
  }
  if (single?.kind === 'yesNo') {
    return (
      <fieldset {...inside} className="flex flex-wrap items-center gap-2.5" aria-label={props.label}>
        <Button small disabled={props.busy} onClick={() => props.onDone(true)}>
          Yes
        </Button>
        <Button small disabled={props.busy} onClick={() => props.onDone(false)}>
          No
        </Button>
      </fieldset>
    )
  }
  return (
    <form {...inside} className={fieldRow} onSubmit={done} aria-label={props.label}>
      <Fields id={id} slots={props.slots} label={props.label} text={text} onText={setText} />
      <Button type="submit" small main disabled={props.busy}>
        Save
      </Button>
      <TextButton onClick={props.onCancel}>Cancel</TextButton>
      {(missing || props.error) && (
        <p role="alert" className="text-stop">
          {missing || props.error}
        </p>
      )}
    </form>
  )
}
