import { useState } from 'react'
import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { fieldRow, steps, two } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { onConflict } from '../../places/line/conflict'
import { acts, checkLinkImage, type QuadView, type Schemas, useAct } from '../../wire/client'
import { imageText } from '../../wire/image-file'
import { asNamed } from '../../wire/path'

/** An image for the receiver or the radio module: judged before it goes on, brought there step by step, noted, and looked at again after. */
export function LinkImage({ quad }: { quad: QuadView }) {
  const [text, setText] = useState('')
  const [seen, setSeen] = useState<Schemas['LinkImageView'] | null>(null)
  const [wrong, setWrong] = useState('')
  const check = async (read: Promise<string>) => {
    try {
      const t = await read
      setText(t)
      setSeen(await checkLinkImage(quad.id, t))
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e))
    }
  }
  const pick = async (f?: File) => {
    setSeen(null)
    setWrong('')
    if (f) await check(imageText(f))
  }
  return (
    <section aria-label="An image for receiver or module" className={two}>
      <div>
        <Subhead>New firmware for receiver or radio module</Subhead>
        <p className="text-soft">It is read and judged here before it goes on; putting it on is your own act, with what its maker gave you.</p>
        <input
          type="file"
          accept=".hex,text/plain"
          className="w-full"
          aria-label="Choose an image for the receiver or the radio module"
          onChange={(e) => void pick(e.target.files?.[0])}
        />
        {wrong && (
          <p role="alert" className="text-stop">
            {wrong}
          </p>
        )}
        {seen && (
          <>
            <p className="my-2.5">
              <b>
                {seen.link} {seen.version}
              </b>{' '}
              for a {seen.end === 'module' ? 'radio module' : 'receiver'}, <b>{seen.target}</b>
              {seen.region && `, region ${seen.region}`}
              <br />
              <span className="text-soft">{seen.words}</span>
              <br />
              <b className={seen.fits ? 'text-ok' : 'text-stop'}>{seen.says}</b>
            </p>
            {seen.asks && seen.label && <Told quad={quad} path={seen.asks} label={seen.label} onTold={() => void check(Promise.resolve(text))} />}
            {seen.with.length > 0 && (
              <ul className="list-disc pl-4.5" aria-label="What follows from it">
                {seen.with.map((w) => (
                  <li key={w}>{w}</li>
                ))}
              </ul>
            )}
          </>
        )}
      </div>
      <div>{seen?.fits && <Ways quad={quad} seen={seen} />}</div>
    </section>
  )
}

function Told({ quad, path, label, onTold }: { quad: QuadView; path: string; label: string; onTold: () => void }) {
  const edit = useAct(quad.id, (value: string) => acts.edit(quad.id, quad.version, [{ path: asNamed(path), value }]))
  return (
    <form
      className={fieldRow}
      aria-label={label}
      onSubmit={(e) => {
        e.preventDefault()
        const value = String(new FormData(e.currentTarget).get('value')).trim()
        if (value) edit.mutate(value, { onSuccess: onTold, onError: onConflict(quad, label, [{ path: asNamed(path), value }]) })
      }}
    >
      <label>
        {label}
        <input name="value" type="text" maxLength={40} required />
      </label>
      <Button type="submit" small main disabled={edit.isPending}>
        Save
      </Button>
    </form>
  )
}

function Ways({ quad, seen }: { quad: QuadView; seen: Schemas['LinkImageView'] }) {
  const [at, setAt] = useState(seen.ways[0]?.way)
  const way = seen.ways.find((w) => w.way === at) ?? seen.ways[0]
  const note = useAct(quad.id, () =>
    acts.note(quad.id, 'linkFlash', `${seen.link} ${seen.version} on the ${seen.end === 'module' ? 'radio module' : 'receiver'}`),
  )
  return (
    <>
      {seen.ways.length > 1 && way && <Segments items={seen.ways.map((w) => ({ value: w.way, words: w.words }))} value={way.way} onChoose={(w) => setAt(w)} />}
      {seen.ways.length === 1 && <Subhead>{way?.words}</Subhead>}
      {way ? (
        <ol className={steps} aria-label={way.words}>
          {way.steps.map((s, i) => (
            <li key={s}>
              <span>{i + 1}</span>
              <span>{s}</span>
            </li>
          ))}
        </ol>
      ) : (
        <p className="text-soft">How it gets there is not described for this link; its maker says it.</p>
      )}
      {note.isSuccess ? (
        <p role="status" className="text-ok">
          Noted. What it says it is, that channels move and what it does without the radio are needed again.
        </p>
      ) : (
        <Button disabled={note.isPending} onClick={() => note.mutate(undefined)}>
          It is on: note it
        </Button>
      )}
    </>
  )
}
