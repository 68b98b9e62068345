import { useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Select } from '../../kit/select'
import { Tick } from '../../kit/tick'
import type { Schemas } from '../../wire/client'
import { asEntry, measured, pathsOf } from './entries'

type Entry = Schemas['MappingEntry']
type Place = Schemas['PlaceView']

/** One setting: what it holds, what it may mean, and what the pilot says it means. */
export function Mapping(props: {
  setting: Schemas['Listed']
  entry?: Entry
  guesses: Schemas['Guess'][]
  places: Place[]
  taken: string[]
  separator: string
  /** What is measured on the board to give it, where that is so. */
  bound: string
  onMap: (e: Entry | null) => void
  onBound: (what: string) => void
}) {
  const { setting, entry, guesses, places, taken, separator, bound, onMap, onBound } = props
  const [open, setOpen] = useState(false)
  const label = (path: string) => places.find((p) => p.path === path)?.label ?? path.replace('sheet.', '')
  const parts = separator ? setting.value.split(separator).length : 1
  return (
    <tr>
      <th scope="row">{setting.name}</th>
      <td>{setting.value || <span className="text-soft">nothing</span>}</td>
      <td>
        {entry ? (
          <Said entry={entry} label={label} onMap={onMap} open={open} setOpen={setOpen} />
        ) : (
          <div className="flex flex-wrap items-center gap-1.5">
            {guesses.map((g) => {
              const e = asEntry(g)
              const used = pathsOf(e).some((p) => taken.includes(p))
              return (
                <Button key={pathsOf(e).join()} small className="font-normal" disabled={used} title={used ? 'mapped already' : g.why} onClick={() => onMap(e)}>
                  {g.fields?.length ? group(g.fields.map((f) => label(f.path))) : label(g.path)}
                  {scaleWords(g)}
                </Button>
              )
            })}
            <TextButton aria-expanded={open} onClick={() => setOpen(!open)}>
              {guesses.length ? 'something else' : 'it means…'}
            </TextButton>
            {bound && <b>measured on this board: {measured.find(([m]) => m === bound)?.[1]}</b>}
          </div>
        )}
        {open && (
          <Form
            setting={setting.name}
            value={setting.value}
            parts={parts}
            entry={entry}
            places={places}
            taken={taken}
            bound={bound}
            onMap={onMap}
            onBound={onBound}
            onDone={() => setOpen(false)}
          />
        )}
      </td>
    </tr>
  )
}

/** What all of some labels begin with: "Arm" of "Arm, channel", "Arm, range from". */
const group = (labels: string[]) => {
  const heads = labels.map((l) => l.split(', ')[0] ?? l)
  return heads.every((h) => h === heads[0]) && heads[0] ? `${heads[0]}: ${labels.map((l) => l.split(', ').slice(1).join(' ')).join(', ')}` : labels.join(', ')
}

const scaleWords = ({ factor = 0, offset = 0, per = 0 }: { factor?: number; offset?: number; per?: number }) =>
  `${per ? `, ${per.toLocaleString('en-GB')} by it` : ''}${factor && factor !== 1 ? `, times ${Number(factor.toPrecision(6))}` : ''}${offset ? `, from ${offset}` : ''}`

function Said({
  entry,
  label,
  onMap,
  open,
  setOpen,
}: {
  entry: Entry
  label: (p: string) => string
  onMap: (e: Entry | null) => void
  open: boolean
  setOpen: (o: boolean) => void
}) {
  const words = Object.entries(entry.words ?? {})
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <b>{pathsOf(entry).length > 1 ? group(pathsOf(entry).map(label)) : label(pathsOf(entry)[0] ?? '')}</b>
      <span className="text-soft">
        {scaleWords(entry).replace(/^, /, '')}
        {words.length > 0 && words.map(([w, raw]) => `${w} is ${raw}`).join(', ')}
        {entry.fields?.some((f) => f.factor || f.offset || f.per) && entry.fields.map((f) => scaleWords(f).replace(/^, /, '') || 'as it is').join('; ')}
      </span>
      <TextButton aria-expanded={open} onClick={() => setOpen(!open)}>
        change
      </TextButton>
      <TextButton onClick={() => onMap(null)}>no</TextButton>
    </div>
  )
}

/** Anything a setting can mean, said by hand: its kind, its places, its unit, its words. */
function Form(props: {
  setting: string
  value: string
  parts: number
  entry?: Entry
  places: Place[]
  taken: string[]
  bound: string
  onMap: (e: Entry) => void
  onBound: (what: string) => void
  onDone: () => void
}) {
  const { setting, value, parts, entry, places, taken, bound, onMap, onBound, onDone } = props
  const many = parts > 1
  const [bits, setBits] = useState(entry?.kind === 'bits')
  const [paths, setPaths] = useState<string[]>(entry?.fields?.map((f) => f.path) ?? (entry ? pathsOf(entry) : []))
  const [factors, setFactors] = useState<string[]>(entry?.fields?.map((f) => String(f.factor || 1)) ?? [String(entry?.factor || 1)])
  const [offsets, setOffsets] = useState<string[]>(entry?.fields?.map((f) => String(f.offset || 0)) ?? [String(entry?.offset || 0)])
  const [words, setWords] = useState<Record<string, string>>(entry?.words ?? {})
  const first = places.find((p) => p.path === paths.find(Boolean))
  const count = bits ? Math.max(1, paths.length + 1) : parts
  const number = (t: string | undefined, otherwise: number) => (Number.isFinite(Number(t)) && t !== '' ? Number(t) : otherwise)
  const at = (list: string[], i: number, v: string) => Object.assign([...list], { [i]: v })
  const oneOf = first?.kind === 'yesNo' ? ['false', 'true'] : (first?.oneOf ?? [])
  const said = paths.filter(Boolean)
  const done = () => {
    const said2 = Object.fromEntries(Object.entries(words).filter(([, raw]) => raw !== ''))
    const e: Entry = bits
      ? { kind: 'bits', setting, paths: said }
      : many && first?.kind !== 'figure'
        ? { kind: 'list', setting, paths: said, words: said2 }
        : many
          ? {
              kind: 'record',
              setting,
              // A part that nobody named stays as it is.
              fields: Array.from({ length: parts }, (_, i) =>
                paths[i] ? { path: paths[i], factor: number(factors[i], 1), offset: number(offsets[i], 0) } : { path: '' },
              ),
            }
          : first?.kind === 'figure'
            ? { kind: 'scalar', setting, path: said[0], factor: number(factors[0], 1), offset: number(offsets[0], 0) }
            : { kind: 'enumeration', setting, path: said[0], words: Object.keys(said2).length ? said2 : undefined }
    onMap(e)
    onDone()
  }
  return (
    <form
      className="flex flex-col gap-1.5 py-2"
      onSubmit={(e) => {
        e.preventDefault()
        done()
      }}
    >
      {Array.from({ length: count }, (_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: parts stand in their order
        <div className="flex flex-wrap items-center gap-1.5" key={i}>
          <Select
            label={`${setting}, place ${i + 1}`}
            className="max-w-82.5"
            value={paths[i] ?? ''}
            options={[
              { value: '', words: many ? `part ${i + 1} is…` : bits ? `bit ${i} is…` : 'it is…' },
              ...places
                .filter((p) => (bits ? p.kind === 'yesNo' : true) && (!taken.includes(p.path) || p.path === paths[i]))
                .map((p) => ({ value: p.path, words: `${p.label} (${p.words})` })),
            ]}
            onChoose={(p) => setPaths(at(paths, i, p))}
          />
          {!bits && places.find((p) => p.path === paths[i])?.kind === 'figure' && (
            <label>
              raw = (figure −{' '}
              <input
                aria-label={`${setting}, zero of place ${i + 1}`}
                size={5}
                value={offsets[i] ?? '0'}
                onChange={(e) => setOffsets(at(offsets, i, e.target.value))}
              />
              ) ×{' '}
              <input
                aria-label={`${setting}, factor of place ${i + 1}`}
                size={7}
                value={factors[i] ?? '1'}
                onChange={(e) => setFactors(at(factors, i, e.target.value))}
              />
            </label>
          )}
        </div>
      ))}
      {!bits && oneOf.length > 0 && (
        <div className="flex flex-wrap items-center gap-1.5">
          {oneOf.map((w) => (
            <label key={w}>
              {w}{' '}
              <input
                aria-label={`${setting}, word for ${w}`}
                size={8}
                value={words[w] ?? ''}
                placeholder={w === oneOf[0] ? value : ''}
                onChange={(e) => setWords({ ...words, [w]: e.target.value })}
              />
            </label>
          ))}
        </div>
      )}
      <div className="flex flex-wrap items-center gap-1.5">
        <Button type="submit" small disabled={said.length < (bits || (many && first?.kind === 'figure') ? 1 : parts)}>
          It means that
        </Button>
        {!many && /^\d+$/.test(value) && (
          <Tick checked={bits} onChange={setBits}>
            one yes or no for each bit
          </Tick>
        )}
        <TextButton onClick={onDone}>Cancel</TextButton>
        <Select
          label={`${setting}, measured on this board`}
          value={bound}
          options={[
            { value: '', words: 'it is the same on every board' },
            ...measured.map(([m, words]) => ({ value: m, words: `measured on this board: ${words}` })),
          ]}
          onChoose={onBound}
        />
      </div>
    </form>
  )
}
