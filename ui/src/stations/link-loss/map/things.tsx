import { useState } from 'react'
import { Button, TextButton } from '../../../kit/button'
import { fieldRow } from '../../../kit/looks'
import { Select } from '../../../kit/select'
import type { SiteMap } from '../../../wire/sites'
import { cornersTyped, type Kind, kinds, stands, typedCorners } from './view'

type Props = { map: SiteMap; chosen: string; onChoose: (key: string) => void; onChange: (map: SiteMap) => void }

/** All that is on the map, in words; what is chosen can be told exactly. */
export function Things({ map, chosen, onChoose, onChange }: Props) {
  const rows = [
    ...map.areas.map((a, i) => ({ key: `area${i}`, words: a.name || kinds[a.kind].toLowerCase(), more: a.name ? kinds[a.kind].toLowerCase() : '' })),
    ...map.lines.map((l, i) => ({ key: `line${i}`, words: l.name, more: `line, ${l.height} m up at ${l.speed} m/s` })),
    ...map.safe.map((s, i) => ({ key: `safe${i}`, words: s.name || 'safe place', more: 'safe place' })),
  ]
  return (
    <section aria-label="On the map">
      {rows.length === 0 && <p className="text-soft">Nothing yet. Choose what lies there and set its corners, or bring a map.</p>}
      <ul>
        {rows.map((r) => (
          <li key={r.key} className="border-b border-line py-0.5">
            <TextButton aria-expanded={chosen === r.key} onClick={() => onChoose(chosen === r.key ? '' : r.key)}>
              {r.words}
            </TextButton>{' '}
            <span className="text-[13.5px] text-soft">{r.more}</span>
            {chosen === r.key && <Chosen key={r.key} map={map} at={r.key} onChange={onChange} onGone={() => onChoose('')} />}
          </li>
        ))}
      </ul>
    </section>
  )
}

const without = <T,>(list: T[], i: number) => list.filter((_, n) => n !== i)
const put = <T,>(list: T[], i: number, x: T) => list.map((old, n) => (n === i ? x : old))

function Chosen({ map, at, onChange, onGone }: { map: SiteMap; at: string; onChange: Props['onChange']; onGone: () => void }) {
  const i = Number(at.slice(4))
  const gone = (next: SiteMap) => {
    onChange(next)
    onGone()
  }
  if (at.startsWith('area')) {
    const a = map.areas[i]
    if (!a) return null
    const change = (part: Partial<typeof a>) => onChange({ ...map, areas: put(map.areas, i, { ...a, ...part }) })
    return (
      <div className="mb-2">
        <div className={fieldRow}>
          <label htmlFor="area-kind">
            what it is
            <Select
              id="area-kind"
              label="what it is"
              value={a.kind}
              options={(Object.keys(kinds) as Kind[]).map((k) => ({ value: k, words: kinds[k] }))}
              onChoose={(k) => change({ kind: k as Kind })}
            />
          </label>
          <Field label="name" value={a.name} onTell={(name) => change({ name })} />
          {stands(a.kind) && (
            <Field
              label="height, m"
              value={a.height === undefined ? '' : String(a.height)}
              onTell={(h) => change({ height: h.trim() === '' ? undefined : Number(h.replace(',', '.')) })}
              wrong={(h) => (h.trim() !== '' && !(Number(h.replace(',', '.')) >= 0) ? 'A height is a figure.' : '')}
            />
          )}
        </div>
        <Corners points={a.corners} onTell={(corners) => change({ corners })} />
        <Button small onClick={() => gone({ ...map, areas: without(map.areas, i) })}>
          Take it off the map
        </Button>
      </div>
    )
  }
  if (at.startsWith('line')) {
    const l = map.lines[i]
    if (!l) return null
    const change = (part: Partial<typeof l>) => onChange({ ...map, lines: put(map.lines, i, { ...l, ...part }) })
    const figure = (x: string) => (Number(x.replace(',', '.')) >= 0 && x.trim() !== '' ? '' : 'That is no figure.')
    return (
      <div className="mb-2">
        <div className={fieldRow}>
          <Field label="name" value={l.name} onTell={(name) => change({ name })} />
          <Field label="up, m" value={String(l.height)} wrong={figure} onTell={(x) => change({ height: Number(x.replace(',', '.')) })} />
          <Field label="at, m/s" value={String(l.speed)} wrong={figure} onTell={(x) => change({ speed: Number(x.replace(',', '.')) })} />
        </div>
        <Corners points={l.points} onTell={(points) => change({ points })} />
        <Button small onClick={() => gone({ ...map, lines: without(map.lines, i) })}>
          Take it off the map
        </Button>
      </div>
    )
  }
  const s = map.safe[i]
  if (!s) return null
  return (
    <div className="mb-2">
      <div className={fieldRow}>
        <Field label="name" value={s.name} onTell={(name) => onChange({ ...map, safe: put(map.safe, i, { ...s, name }) })} />
      </div>
      <Corners
        points={[s.at]}
        onTell={(points) => {
          if (points[0]) onChange({ ...map, safe: put(map.safe, i, { ...s, at: points[0] }) })
        }}
      />
      <Button small onClick={() => gone({ ...map, safe: without(map.safe, i) })}>
        Take it off the map
      </Button>
    </div>
  )
}

function Corners({ points, onTell }: { points: SiteMap['areas'][number]['corners']; onTell: (points: SiteMap['areas'][number]['corners']) => void }) {
  return (
    <div className="[&_input]:w-full! [&_label]:grid [&_label]:text-[13px] [&_label]:text-soft">
      <Field
        label="metres east and north of home, corner by corner"
        value={cornersTyped(points)}
        wrong={(text) => (typedCorners(text)?.length ? '' : 'East and north in metres, one corner after the other: 10 20; 40 20; 40 60')}
        onTell={(text) => onTell(typedCorners(text) ?? points)}
      />
    </div>
  )
}

/** One figure or word, told by Enter or by leaving it. What cannot be stays as it was typed, and is said. */
function Field({ label, value, onTell, wrong }: { label: string; value: string; onTell: (text: string) => void; wrong?: (text: string) => string }) {
  const [typed, setTyped] = useState<string | null>(null)
  const [said, setSaid] = useState('')
  const tell = () => {
    if (typed === null || typed === value) return setTyped(null)
    const no = wrong?.(typed) ?? ''
    setSaid(no)
    if (no) return
    onTell(typed.trim())
    setTyped(null)
  }
  return (
    <label>
      {label}
      <input
        type="text"
        value={typed ?? value}
        maxLength={4000}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={tell}
        onKeyDown={(e) => {
          if (e.key === 'Enter') tell()
        }}
      />
      {said && (
        <span role="alert" className="text-stop">
          {said}
        </span>
      )}
    </label>
  )
}
