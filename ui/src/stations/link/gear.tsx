import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { Button } from '../../kit/button'
import { join } from '../../kit/join'
import { lights, wideLeft } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { showError } from '../../shell/message'
import { gear, type Schemas, useGear } from '../../wire/client'
import { Strip } from './light'

/** What is known of a link, as a file that the pilot may make his own; beside it what it comes to, read as it is typed. */
export function Own({ name }: { name: string }) {
  const list = useGear()
  const [at, setAt] = useState(name)
  if (list.isPending) return <p aria-busy="true">Reading…</p>
  if (!list.data) return <p role="alert">{list.error?.message}</p>
  const shown = list.data.links.find((l) => l.link === at) ?? list.data.links[0]
  if (!shown) return null
  return (
    <>
      <div className="flex flex-wrap items-center gap-2.5">
        <Segments items={list.data.links.map((l) => ({ value: l.link, words: `${l.link}${l.own ? ', your own' : ''}` }))} value={shown.link} onChoose={setAt} />
        <span className="text-soft">To describe another link, change the name in its first line and keep it.</span>
      </div>
      <Edit key={shown.link + shown.file.length} view={shown} version={list.data.version} onKept={setAt} />
    </>
  )
}

function Edit({ view, version, onKept }: { view: Schemas['GearView']; version: number; onKept: (link: string) => void }) {
  const queries = useQueryClient()
  const [text, setText] = useState(view.file)
  const seen = useDeferredValue(text)
  const read = useQuery({ queryKey: ['gear-file', seen], queryFn: () => gear.read(seen), retry: false, placeholderData: (before) => before })
  const took = (g: Schemas['GearList']) => {
    queries.setQueryData(['gear'], g)
    void queries.invalidateQueries({ queryKey: ['link'] })
    void queries.invalidateQueries({ queryKey: ['quad'] })
  }
  const changed = text !== view.file
  const late = (e: unknown) => {
    showError(e)
    void queries.invalidateQueries({ queryKey: ['gear'] })
  }
  return (
    <div className={join(wideLeft, '[&_textarea]:font-mono [&_textarea]:text-[12.5px]!')}>
      <div>
        <textarea aria-label={`Facts of ${view.link}`} rows={16} spellCheck={false} value={text} onChange={(e) => setText(e.target.value)} />
        <div className="flex flex-wrap items-center gap-2.5">
          <Button
            small
            main
            disabled={!changed || Boolean(read.error)}
            onClick={() =>
              void gear
                .set(version, text)
                .then((g) => {
                  took(g)
                  onKept(read.data?.link ?? view.link)
                })
                .catch(late)
            }
          >
            Save as my own
          </Button>
          <Button small disabled={!changed} onClick={() => setText(view.file)}>
            Undo my changes
          </Button>
          {view.own && (
            <Button small onClick={() => void gear.forget(version, view.link).then(took).catch(late)}>
              {view.shipped ? 'Back to what is shipped' : 'Forget this link'}
            </Button>
          )}
        </div>
      </div>
      <section aria-label="What the file says">
        {read.error ? (
          <p role="alert" className="text-stop">
            {(read.error as { place?: string }).place ? `At ${(read.error as { place?: string }).place}: ` : ''}
            {read.error.message}
          </p>
        ) : (
          read.data && <Says gear={read.data} />
        )}
      </section>
    </div>
  )
}

function Says({ gear: g }: { gear: Schemas['Gear'] }) {
  const t = g.timing
  return (
    <>
      <p>
        <b>{g.link}.</b> {g.words}
      </p>
      <p className="text-soft">
        Listens {t.start} s after its power came.
        {t.button > 0 && ` Its button must stay down for ${t.button} s.`}
        {t.cycles > 0 && ` ${t.cycles} power cycles, each at most ${t.cycleOn} s in and ${t.cycleOff} s out.`}
        {t.window > 0 ? ` It waits ${t.window} s to be bound.` : ' It waits to be bound until its power goes.'} The radio calls for {t.radioWindow} s.
        {t.page > 0 && ` Without a radio it opens its page after ${t.page} s.`}
      </p>
      <ul className={lights}>
        {g.lights.map((l) => (
          <li key={l.state}>
            <Strip beats={l.blink} />
            <span>{l.words}</span>
          </li>
        ))}
      </ul>
      <p className="text-soft">
        {g.rates.length} packet rates, {g.ways.map((w) => `${w.words.toLowerCase()} in ${w.steps.length} steps`).join('; ')}.
      </p>
    </>
  )
}
