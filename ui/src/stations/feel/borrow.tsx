import { useState } from 'react'
import { Button } from '../../kit/button'
import { ways } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { Select } from '../../kit/select'
import { Facts } from '../../kit/table'
import { upper } from '../../kit/text'
import type { Schemas } from '../../wire/client'
import { useHangar } from '../../wire/client'
import { useBorrowed } from '../../wire/feel'
import type { QuadAt } from '../../wire/figures'
import { marksTo, Plot, placesIn, through, usualBox } from './plot'
import { familyWords } from './stick'
import { asChanges, type Tried } from './tried'
import { TypedFigure } from './typed'

type Ask = Schemas['BorrowAsk']
type Kind = Ask['kind']
type View = Schemas['BorrowView']
type TypedFeel = Schemas['TypedFeel']

const kinds = [
  { value: 'preset', words: 'A starting point' },
  { value: 'quad', words: 'Another quad' },
  { value: 'archive', words: 'An archive' },
  { value: 'list', words: 'A list' },
  { value: 'typed', words: 'Typed' },
] as const

const nothingTyped: TypedFeel = {
  family: 'centrePeak',
  roll: { centre: 120, peak: 600, bend: 0.3 },
  pitch: { centre: 120, peak: 600, bend: 0.3 },
  yaw: { centre: 100, peak: 400, bend: 0.3 },
}

/** Another quad's feel, put into this quad's thrust, inertia, family and line; both flown on one stick. */
export function BorrowedFeel({ quad, tried }: { quad: QuadAt<'feel'>; tried: Tried }) {
  const [kind, setKind] = useState<Kind>('preset')
  const [preset, setPreset] = useState('')
  const [other, setOther] = useState('')
  const [text, setText] = useState('')
  const [typed, setTyped] = useState<TypedFeel>(nothingTyped)
  const hangar = useHangar()
  const chosen: Record<Kind, Ask | null> = {
    preset: preset ? { kind, preset } : null,
    quad: other ? { kind, quad: Number(other) } : null,
    archive: text.trim() ? { kind, text } : null,
    list: text.trim() ? { kind, text } : null,
    typed: { kind, typed },
  }
  const answer = useBorrowed(quad, chosen[kind])
  const v = answer.data
  return (
    <>
      <div className={ways}>
        <Segments
          label="Borrowed from"
          items={[...kinds]}
          value={kind}
          onChoose={(k) => {
            setKind(k)
            setText('')
          }}
        />
        {kind === 'quad' && (
          <Select
            label="Which quad"
            className="w-56"
            empty="choose one"
            options={(hangar.data?.quads ?? []).filter((q) => q.id !== quad.id).map((q) => ({ value: String(q.id), words: q.name }))}
            value={other}
            onChoose={setOther}
          />
        )}
      </div>
      {kind === 'preset' && (
        <ul className="grid grid-cols-4 gap-3 phone:grid-cols-1">
          {quad.hands.presets.map((p) => (
            <li key={p.name}>
              <button
                type="button"
                aria-pressed={preset === p.name}
                onClick={() => setPreset(p.name)}
                className="flex h-full w-full flex-col rounded-lg border border-line bg-panel p-2.5 text-left aria-pressed:border-act aria-pressed:bg-act-bg"
              >
                <b>{upper(p.name)}</b>
                <span className="block text-[13.5px] text-soft">{p.for}</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {(kind === 'archive' || kind === 'list') && (
        <div className="text-[14px]">
          <label className="block">
            {kind === 'archive' ? 'The archive of a quad, as it was downloaded here' : 'The settings of a board, as its console prints them'}
            <textarea className="mt-1 block h-20 w-full font-mono text-[13px]" value={text} onChange={(e) => setText(e.target.value)} />
          </label>
          <input
            type="file"
            aria-label={kind === 'archive' ? 'Archive' : 'List'}
            onChange={(e) => {
              const file = e.target.files?.[0]
              if (file) void file.text().then(setText)
            }}
          />
        </div>
      )}
      {kind === 'typed' && <TypedRates typed={typed} onType={setTyped} />}
      {answer.error ? (
        <p role="alert" className="text-stop">
          {answer.error.message}
        </p>
      ) : v ? (
        <Both quad={quad} view={v} onTry={() => tried.put(asChanges(v.edits))} />
      ) : (
        chosen[kind] === null && (
          <p className="text-soft">
            Choose whose feel this quad is to have: it is converted, flown beside this one's own, and changes nothing until you take it.
          </p>
        )
      )}
    </>
  )
}

function TypedRates({ typed, onType }: { typed: TypedFeel; onType: (t: TypedFeel) => void }) {
  return (
    <div className={ways}>
      <Select
        label="Family"
        className="w-40"
        options={(['centrePeak', 'compounding', 'straightExpo'] as const).map((f) => ({ value: f, words: familyWords[f] }))}
        value={typed.family}
        onChoose={(f) => onType({ ...typed, family: f as TypedFeel['family'] })}
      />
      {(['roll', 'pitch', 'yaw'] as const).map((axis) => (
        <span key={axis} className="flex items-center gap-1 text-[14px]">
          {axis}
          {(['centre', 'peak', 'bend'] as const).map((name) => (
            <TypedFigure
              key={name}
              label={`Theirs: ${axis}, ${name}`}
              className="w-14!"
              value={typed[axis][name]}
              least={0}
              most={name === 'bend' ? 1 : 2000}
              onType={(x) => onType({ ...typed, [axis]: { ...typed[axis], [name]: x } })}
            />
          ))}
        </span>
      ))}
    </div>
  )
}

const box = { ...usualBox, h: 260 }

function Both({ quad, view: v, onTry }: { quad: QuadAt<'feel'>; view: View; onTry: () => void }) {
  const few = v.margins.filter((m) => m.few)
  return (
    <div className="grid grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
      <section aria-label="On one stick">
        <OneStick view={v} />
        <p className="text-[13px] text-soft">
          One hand about roll: half out, half back, to the stop. Thick: this quad as it would be; dashed: as it is
          {v.theirs.length > 0 ? `; thin: ${v.from}` : ''}.
        </p>
        <p className={few.length > 0 ? 'text-[14px] text-fix' : 'text-[14px]'}>
          {v.margins.length > 0 &&
            `In hand before it oscillates: ${v.margins.map((m) => `${m.axis} ${m.share > 0 ? `${m.share.toFixed(1)} times` : 'all there is'}`).join(', ')}.`}
        </p>
      </section>
      <section aria-label="What is carried" className="text-[14px]">
        <div className={ways}>
          <Button small main disabled={v.edits.length === 0} onClick={onTry}>
            Try the feel of {v.from} on {quad.name}
          </Button>
        </div>
        <div>
          <Facts>
            <thead>
              <tr>
                <th scope="col">Carried</th>
                <th scope="col">was</th>
                <th scope="col">would be</th>
              </tr>
            </thead>
            <tbody>
              {v.carried.map((c) => (
                <tr key={c.path}>
                  <th scope="row" className="text-[14px]! font-normal!">
                    {c.label}
                  </th>
                  <td className="tabular-nums">{c.was}</td>
                  <td className="tabular-nums">{c.now}</td>
                </tr>
              ))}
            </tbody>
          </Facts>
        </div>
        {v.apart.some((a) => a.by !== 0) && (
          <p className="text-soft">The curves are at most {Math.max(...v.apart.map((a) => a.share * 100)).toFixed(1)} % off, about one axis.</p>
        )}
        {v.left.length > 0 && (
          <>
            <b className="mt-2 block">Not carried</b>
            <ul aria-label="Not carried">
              {v.left.map((l) => (
                <li key={l.what} className="border-t border-line py-1">
                  <b>{l.what}.</b> {l.why}
                </li>
              ))}
            </ul>
          </>
        )}
      </section>
    </div>
  )
}

function OneStick({ view: v }: { view: View }) {
  const lasts = v.stick.length * v.every
  const most = Math.max(50, ...[...v.theirs, ...v.before, ...v.after].map(Math.abs)) * 1.08
  const across = { low: 0, high: lasts, marks: [0, 0.5, 1, 1.5], words: 's' }
  const marks = marksTo(most, 3)
  const up = { low: -most, high: most, marks: [...marks.slice(1).map((m) => -m), ...marks], words: 'roll, °/s' }
  const places = placesIn(box, across, up)
  const times = v.stick.map((_, i) => i * v.every)
  return (
    <Plot box={box} across={across} up={up} label={`Roll on one stick, as it is and with the feel of ${v.from}`}>
      {v.theirs.length > 0 && <path d={through(places, times, v.theirs)} fill="none" stroke="var(--fix)" strokeWidth="1.6" />}
      {v.before.length > 0 && <path d={through(places, times, v.before)} fill="none" stroke="var(--soft)" strokeWidth="1.6" strokeDasharray="6 5" />}
      {v.after.length > 0 && <path d={through(places, times, v.after)} fill="none" stroke="var(--act)" strokeWidth="2.8" />}
      {v.after.length === 0 && (
        <text x={box.w / 2} y={box.h / 2} textAnchor="middle" fontSize="14" style={{ fill: 'var(--soft)' }}>
          It is not told enough to be flown.
        </text>
      )}
    </Plot>
  )
}
