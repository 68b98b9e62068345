import { useDeferredValue, useEffect, useRef, useState } from 'react'
import { Button } from '../../kit/button'
import { ways } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { Select } from '../../kit/select'
import { Facts } from '../../kit/table'
import { upper } from '../../kit/text'
import { AsTable } from '../../shell/as-table'
import type { Schemas } from '../../wire/client'
import { type CurveAsk, useCurves } from '../../wire/feel'
import type { QuadAt } from '../../wire/figures'
import { asNamed } from '../../wire/path'
import { Curves } from './curves'
import { asChanges, type Tried } from './tried'
import { TypedFigure } from './typed'

type Family = Schemas['FamilyView']['family']
export type Axis = Schemas['AxisCurve']['axis']
export type Handle = Schemas['CurveHandle']['handle']
export type Drawn = { axis: Axis; handle: Handle; rate: number }

export const familyWords: Record<Family, string> = { centrePeak: 'Centre-peak', compounding: 'Compounding', straightExpo: 'Straight-expo' }
const familySays: Record<Family, string> = {
  centrePeak: 'Centre and peak are set apart; the bend says how late it rises between them.',
  compounding: 'It begins at its centre and grows on itself towards the stop, ever steeper.',
  straightExpo: 'A straight line to the peak, bent flat about the centre.',
}

/** The stick's curves: drawn, typed, put into another family, held against others. */
export function StickCurves({ quad, tried }: { quad: QuadAt<'feel'>; tried: Tried }) {
  const v = quad.hands
  const [axis, setAxis] = useState<Axis>('roll')
  const [both, setBoth] = useState(true)
  const [ghost, setGhost] = useState('before')
  const [profile, setProfile] = useState('sheet.feel')
  const [to, setTo] = useState<Family | null>(null)
  const [drawn, setDrawn] = useState<Drawn | null>(null)
  const held = useRef(false)
  const [said, setSaid] = useState('')
  const other: Axis | undefined = axis === 'roll' ? 'pitch' : axis === 'pitch' ? 'roll' : undefined
  const ask = useDeferredValue<CurveAsk>({
    tried: tried.list,
    at: profile === 'sheet.feel' ? undefined : asNamed(profile),
    ghost: to ? undefined : ghost,
    to: to ?? undefined,
    drag: drawn && !to ? { ...drawn, with: both && other && drawn.axis !== 'yaw' ? other : undefined } : undefined,
    turns: !drawn,
  })
  const answer = useCurves(quad, ask)
  const c = answer.data
  // What was let go of is tried once the core has answered for it, and not for the place before.
  const settled = drawn !== null && !held.current && !answer.isPlaceholderData && ask.drag?.rate === drawn.rate && ask.drag.handle === drawn.handle
  useEffect(() => {
    if (!settled || !c) return
    tried.put(asChanges(c.edits))
    setSaid(c.held)
    setDrawn(null)
  }, [settled, c, tried])
  if (v.family === '')
    return <p className="text-soft">Nobody told in which rate family its rates are. In the list of settings at Firmware, or here below, say which.</p>
  if (!c) return answer.error ? <Wrong message={answer.error.message} tried={tried} /> : <p>Drawing the curves…</p>
  const one = c.axes.find((a) => a.axis === axis)
  const family = c.family as Family
  const say = drawn ? c.held : said
  return (
    <>
      <AsTable
        caption={`${upper(axis)}, ${familyWords[family]}`}
        head={['stick', '°/s', ...(one?.ghost.length ? ['before, °/s'] : [])]}
        rows={(one?.points ?? []).flatMap((p, i) =>
          i % 4 === 0 ? [[`${(i * 2.5).toFixed(0)} %`, p.toFixed(0), ...(one?.ghost.length ? [one.ghost[i]?.toFixed(0)] : [])]] : [],
        )}
      />
      <div className={ways}>
        <Segments
          label="Axis"
          items={[
            { value: 'roll', words: 'Roll' },
            { value: 'pitch', words: 'Pitch' },
            { value: 'yaw', words: 'Yaw' },
          ]}
          value={axis}
          onChoose={setAxis}
        />
        {other && (
          <label className="flex items-center gap-1.5 text-[14px]">
            <input type="checkbox" checked={both} onChange={(e) => setBoth(e.target.checked)} />
            {other} goes along
          </label>
        )}
        {v.profiles.length > 1 && (
          <Select label="Profile" className="w-44" options={v.profiles.map((p) => ({ value: p.key, words: p.words }))} value={profile} onChoose={setProfile} />
        )}
        <Select
          label="Held against"
          className="w-64"
          options={[...v.ghosts, ...(v.ghosts.some((g) => g.key === ghost) ? [] : [{ key: ghost, words: ghost }])].map((g) => ({
            value: g.key,
            words: g.words,
          }))}
          value={ghost}
          onChoose={setGhost}
        />
        {v.revisions > 1 && (
          <span className="flex items-baseline gap-1 text-[14px]">
            or revision
            <TypedFigure
              label="Held against the revision of this number"
              className="w-13!"
              blank="any"
              value={Number(/^revision (\d+)$/.exec(ghost)?.[1] ?? 0)}
              least={1}
              most={v.revisions}
              onType={(n) => setGhost(n > 0 ? `revision ${Math.round(n)}` : 'before')}
            />
          </span>
        )}
      </div>
      {answer.error && <Wrong message={answer.error.message} tried={tried} />}
      <div className="grid grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)] gap-5 phone:grid-cols-1">
        <section aria-label="The curves">
          <Curves
            view={c}
            axis={axis}
            onDraw={(d) => {
              held.current = true
              setSaid('')
              setDrawn(d)
            }}
            onStep={(from, by) => {
              held.current = false
              setSaid('')
              setDrawn((d) => ({ ...from, rate: (d?.handle === from.handle && d.axis === from.axis ? d.rate : from.rate) + by }))
            }}
            onLetGo={() => {
              held.current = false
              setDrawn((d) => (d ? { ...d } : d))
            }}
            frozen={to !== null}
          />
          <p className="min-h-10 text-[14px]" aria-live="polite">
            {say ? <span className="text-fix">{upper(say)}. </span> : null}
            {one?.apart && one.apart.by === 0 && 'Nothing is otherwise than in the dashed one.'}
            {one?.apart && one.apart.by !== 0 && (
              <>
                Against the dashed one it is at most <b>{Math.abs(one.apart.by).toFixed(0)} °/s</b> {one.apart.by < 0 ? 'slower' : 'quicker'}
                {`, at ${(one.apart.stick * 100).toFixed(0)} % of the stick: ${(one.apart.share * 100).toFixed(1)} % of full`}.
              </>
            )}
          </p>
        </section>
        <section aria-label="What it comes to">
          <Facts>
            <thead>
              <tr>
                <td className="border-0!" />
                {c.axes.map((a) => (
                  <th key={a.axis} scope="col">
                    {upper(a.axis)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {(['centre', 'peak', 'bend'] as const).map((name) => (
                <tr key={name}>
                  <th scope="row">{name === 'bend' ? 'Bend' : `${upper(name)}, °/s`}</th>
                  {c.axes.map((a) => (
                    <td key={a.axis}>
                      <TypedFigure
                        label={`${upper(a.axis)}, ${name}`}
                        className="w-13!"
                        value={a.rates[name]}
                        least={0}
                        most={name === 'bend' ? 1 : 2000}
                        disabled={to !== null || (name === 'centre' && family === 'straightExpo')}
                        onType={(x) => tried.put([{ path: asNamed(`${a.at}.${name}`), value: x }])}
                      />
                    </td>
                  ))}
                </tr>
              ))}
              <tr>
                <th scope="row" className="whitespace-nowrap">
                  Slope at the centre
                </th>
                {c.axes.map((a) => (
                  <td key={a.axis} className="tabular-nums">
                    {a.slope.toFixed(0)}
                  </td>
                ))}
              </tr>
              <tr>
                <th scope="row" className="whitespace-nowrap">
                  Least move asks
                </th>
                {c.axes.map((a) => (
                  <td key={a.axis} className={a.fine ? 'tabular-nums' : 'text-fix tabular-nums'} title={`${a.least} µs`}>
                    {a.step} °/s
                  </td>
                ))}
              </tr>
              {c.axes.some((a) => a.reaches > 0 && a.reaches < 0.995) && (
                <tr>
                  <th scope="row" className="whitespace-nowrap">
                    Your stick gets to
                  </th>
                  {c.axes.map((a) => (
                    <td key={a.axis} className={a.reaches < 0.995 ? 'text-fix tabular-nums' : 'tabular-nums'} title={`${a.fullest} °/s`}>
                      {a.reaches > 0 ? `${(a.reaches * 100).toFixed(0)} %` : 'not known'}
                    </td>
                  ))}
                </tr>
              )}
              <tr>
                <th scope="row" className="whitespace-nowrap">
                  Full turn, flown
                </th>
                {c.axes.map((a) => (
                  <td key={a.axis} className="tabular-nums">
                    {a.turn ? (a.turn.seconds > 0 ? `${a.turn.seconds.toFixed(2)} s` : 'over 3 s') : drawn || answer.isPlaceholderData ? '…' : 'not known'}
                  </td>
                ))}
              </tr>
            </tbody>
          </Facts>
          <p className="mt-2 mb-1 text-[14px]">
            <b>{familyWords[family]}.</b> {familySays[family]} All three can be made to feel nearly alike: keep the one you know.
          </p>
          <div className={ways}>
            {v.families
              .filter((f) => f.family !== (tried.word('sheet.feel.family') || v.family))
              .map((f) => (
                <Button key={f.family} small aria-pressed={to === f.family} disabled={!f.held} onClick={() => setTo(to === f.family ? null : f.family)}>
                  As {familyWords[f.family].toLowerCase()}
                </Button>
              ))}
          </div>
          {v.families.some((f) => !f.held) && (
            <p className="text-[13px] text-soft">
              {quad.meant.sheet.firmware.line} has no{' '}
              {v.families
                .filter((f) => !f.held)
                .map((f) => familyWords[f.family].toLowerCase())
                .join(' and no ')}
              .
            </p>
          )}
          {to && (
            <div className={ways} aria-live="polite">
              <span className="text-[14px]">
                Nearest where sticks live: {c.axes.map((a) => `${a.axis} ${a.apart ? (a.apart.share * 100).toFixed(1) : '0'} % off`).join(', ')}, at the most.
              </span>
              <Button
                small
                main
                disabled={answer.isPlaceholderData}
                onClick={() => {
                  tried.put(asChanges(c.edits))
                  setTo(null)
                }}
              >
                Try it so
              </Button>
            </div>
          )}
        </section>
      </div>
    </>
  )
}

function Wrong({ message, tried }: { message: string; tried: Tried }) {
  return (
    <div role="alert" className="text-stop">
      <p>{message}</p>
      <p className="text-soft">What you tried is still here: type another figure, or go back to the settings.</p>
      {tried.list
        .filter((c) => typeof c.value === 'number' && /\.(centre|peak|bend)$/.test(c.path))
        .map((c) => (
          <TypedFigure
            key={c.path}
            label={c.path.split('.').slice(-2).join(', ')}
            value={Number(c.value)}
            least={0}
            most={2000}
            onType={(x) => tried.put([{ path: c.path, value: x }])}
          />
        ))}
    </div>
  )
}
