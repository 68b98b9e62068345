import { useState } from 'react'
import { useSearchParams } from 'react-router'
import { Button, TextButton, textLook } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { join } from '../../kit/join'
import { two } from '../../kit/looks'
import { Tick } from '../../kit/tick'
import { when } from '../../places/line/proof-bar'
import { showError } from '../../shell/message'
import { acts, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { useBackups } from '../../wire/pages'
import { ListIn } from './lists'
import type { Place } from './places'

type Go = (p: Place, more?: Record<string, string>) => void

/** Saved settings lists, each with what it is from: to look at, to take along, to put back, to carry over. */
export function Saved({ quad, go }: { quad: QuadAt<'firmware'>; go: Go }) {
  const saved = useBackups(quad)
  const [open, setOpen] = useState(0)
  // Whoever was led here for that finds it open.
  const [bringing, setBringing] = useState(useSearchParams()[0].has('bring'))
  return (
    <section aria-label="Saved lists">
      <div className="flex flex-wrap items-center gap-2.5 justify-between">
        <Subhead>Saved, newest first</Subhead>
        <Button small aria-expanded={bringing} onClick={() => setBringing(!bringing)}>
          Bring a list in
        </Button>
      </div>
      {bringing && <ListIn quad={quad} go={go} />}
      {saved.list?.length === 0 && <p>Nothing is saved yet. It happens by itself before every flash and every write, or at the board.</p>}
      {saved.error && (
        <p role="alert" className="text-stop">
          {saved.error.message}
        </p>
      )}
      <ul className="[&>li]:border-t [&>li]:border-line">
        {saved.list?.map((b) => (
          <li key={b.id}>
            <button
              type="button"
              className="grid w-full grid-cols-[minmax(0,1.3fr)_110px_minmax(0,1.4fr)_84px] gap-3 py-1.5 text-left hover:bg-act-bg [&_code]:[font:inherit] [&_code]:tracking-[0.04em] [&_code]:text-soft"
              aria-expanded={open === b.id}
              onClick={() => setOpen(open === b.id ? 0 : b.id)}
            >
              <b>{b.why || 'saved at the board'}</b>
              <span>{when(b.at)}</span>
              <span>
                {b.line} {b.version} on {b.target}
                {b.serial ? `, number ${b.serial}` : ''}
              </span>
              <span className="text-soft">{b.own} changed</span>
            </button>
            {open === b.id && <One quad={quad} saved={b} go={go} />}
          </li>
        ))}
      </ul>
    </section>
  )
}

function One({ quad, saved, go }: { quad: QuadAt<'firmware'>; saved: Schemas['BackupView']; go: Go }) {
  const [all, setAll] = useState(false)
  const [only, setOnly] = useState<string[]>([])
  const back = useAct(quad.id, () => acts.putBack(quad.id, saved.id, only.length ? only : undefined))
  const text = all ? saved.all : saved.changed
  const fits = saved.step === 'same' || saved.step === 'within'
  return (
    <div className={join(two, 'pb-3')}>
      <div>
        <div className="flex flex-wrap items-center gap-2.5">
          <TextButton onClick={() => setAll(!all)}>{all ? 'Changed only' : `All ${saved.settings}`}</TextButton>
          <a className={textLook} download={`${saved.name}.txt`} href={`data:text/plain;charset=utf-8,${encodeURIComponent(text)}`}>
            Download
          </a>
        </div>
        <textarea readOnly aria-label={`${saved.name}, ${all ? 'all' : 'changed only'}`} rows={7} value={text} />
      </div>
      <div>
        {fits ? (
          <>
            <fieldset className="mb-2.5 [&_label]:mr-4 [&_label]:inline-block [&_label]:whitespace-nowrap [&_legend]:font-body [&_legend]:text-[13px]/[normal] [&_legend]:font-semibold [&_legend]:text-soft">
              <legend>Put back all of it, or only</legend>
              {saved.subjects.map((s) => (
                <Tick key={s} checked={only.includes(s)} onChange={(on) => setOnly(on ? [...only, s] : only.filter((x) => x !== s))}>
                  {s}
                </Tick>
              ))}
            </fieldset>
            <Button disabled={back.isPending} onClick={() => back.mutate(undefined, { onError: showError })}>
              {back.isPending ? 'Writing, reading back…' : only.length ? `Put back ${only.join(', ')}` : 'Put all of it back'}
            </Button>
          </>
        ) : (
          <p>
            The board runs {quad.board.line} {quad.board.version}: there the same figures mean other things, so it is not put back as it is.
          </p>
        )}
        {saved.step !== 'same' && (
          <p>
            <Button onClick={() => go('carry', { from: String(saved.id) })}>Carry it over, setting by setting</Button>
          </p>
        )}
      </div>
    </div>
  )
}
