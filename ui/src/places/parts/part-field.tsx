import { useId, useState } from 'react'
import { type Schemas, useCatalogue } from '../../wire/client'

export type Kind = Exclude<NonNullable<Schemas['Entry']['kind']>, ''>

export const kinds: [Kind, string][] = [
  ['frame', 'Frame'],
  ['motor', 'Motors'],
  ['propeller', 'Propellers'],
  ['speedController', 'Speed controllers'],
  ['board', 'Board'],
  ['pack', 'Pack'],
  ['receiver', 'Receiver'],
  ['radioModule', 'Radio module'],
  ['video', 'Video'],
  ['satellite', 'Satellite receiver'],
]

/** What a pilot calls a kind of part. */
export const labelOf = Object.fromEntries(kinds) as Record<Kind, string>

/** A part from the catalogue, found as it is typed; one that is not there is kept by its name. */
export function PartField({ kind, label, required, wish }: { kind: Kind; label: string; required?: boolean; wish?: { diameter: number; cells: number } }) {
  const id = useId()
  const [typed, setTyped] = useState('')
  const [open, setOpen] = useState(false)
  const found = useCatalogue(kind, typed, open, wish)
  const known = found.data?.find((e) => e.name === typed)
  return (
    <div className="grid content-start text-[13px] text-soft">
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        aria-describedby={`${id}-says`}
        className="placeholder:text-soft"
        name={kind}
        type="text"
        maxLength={60}
        required={required}
        list={`${id}-list`}
        autoComplete="off"
        placeholder="not known yet"
        value={typed}
        onFocus={() => setOpen(true)}
        onChange={(e) => setTyped(e.target.value)}
      />
      <datalist id={`${id}-list`}>
        {found.data?.map((e) => (
          <option key={e.name} value={e.name}>
            {e.words}
          </option>
        ))}
      </datalist>
      {/* As high before it says anything: what stands beside or below it must not move from under a finger. */}
      <span id={`${id}-says`} className="min-h-[1lh]">
        {typed && found.data && !found.isFetching && (known ? known.words : 'your own: its figures are asked for')}
      </span>
    </div>
  )
}
