import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { wideLeft } from '../../kit/looks'
import { Select } from '../../kit/select'
import { Tick } from '../../kit/tick'
import { useOwnBench } from '../../places/bench/whose'
import { showError } from '../../shell/message'
import { hasSerial, useCable } from '../../wire/cable'
import { answerOf, type QuadView, server } from '../../wire/client'
import { Differing } from './writes'

const stages = [
  ['open', 'woken'],
  ['identity', 'says what it is'],
  ['read', 'read whole'],
  ['write', 'written line by line'],
  ['readAgain', 'read again, compared'],
  ['keep', 'told to keep it'],
  ['confirm', 'started anew and read once more'],
] as const

/** A real board by its cable: identified, read, and set line by line. Nothing is sent that was not shown. */
export function Cable({ quad, family, onUnseen }: { quad: QuadView; family: string; onUnseen: () => void }) {
  const queries = useQueryClient()
  const families = useQuery({ queryKey: ['cableFamilies'], queryFn: () => answerOf(server.GET('/api/cable/families')) })
  const bench = useOwnBench((s) => s.status?.connected ?? false)
  const [chosen, setChosen] = useState('')
  const [where, setWhere] = useState<'bench' | 'serial'>(hasSerial() ? 'serial' : 'bench')
  const [off, setOff] = useState(false)
  const cable = useCable(quad.id, () => void queries.invalidateQueries({ queryKey: ['quad', quad.id] }))
  const list = families.data ?? []
  const name = chosen || (list.includes(family) ? family : (list[0] ?? ''))
  const v = cable.view
  const done = v?.stage === 'done'
  const at = stages.findIndex(([s]) => s === v?.stage)
  return (
    <div className={wideLeft}>
      <section aria-label="By cable">
        <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
          <div className="grid text-[13px] text-soft">
            Firmware family
            <Select
              label="Firmware family"
              className="w-40"
              value={name}
              onChoose={setChosen}
              disabled={v !== null}
              options={list.map((f) => ({ value: f, words: f }))}
            />
          </div>
          <div className="grid text-[13px] text-soft">
            Port
            <Select
              label="Port"
              className="w-64"
              value={where}
              onChoose={(w) => setWhere(w as 'bench' | 'serial')}
              disabled={v !== null}
              options={[
                { value: 'serial', words: hasSerial() ? 'a serial port of this computer' : 'this browser has none for pages', off: !hasSerial() },
                { value: 'bench', words: bench ? 'the board on the bench (simulated)' : 'this quad is not on the bench', off: !bench },
              ]}
            />
          </div>
          <Tick checked={off} onChange={setOff}>
            The propellers are off
          </Tick>
        </div>
        <p className="mt-1.5 text-[14px] text-soft">
          {where === 'bench'
            ? 'Simulated: its console answers as that of a real board of its family.'
            : hasSerial()
              ? 'The browser asks which port; it is given to this page alone.'
              : 'This browser gives pages no serial port; others on a computer do. Without one a board is brought in by its settings list, as before.'}
        </p>
        <div className="mt-2 flex flex-wrap gap-2.5">
          {!v && (
            <Button main disabled={!off || !name || (where === 'bench' ? !bench : !hasSerial())} onClick={() => cable.prepare(name, where)}>
              Show what would be sent
            </Button>
          )}
          {v && !cable.open && !v.says && v.sent.length === 0 && (
            <Button main onClick={() => void cable.begin().catch(showError)}>
              Open the port and send it
            </Button>
          )}
          {v && (
            <TextButton quiet onClick={cable.end}>
              {v.says || done ? 'Start anew' : 'Stop'}
            </TextButton>
          )}
          <TextButton quiet onClick={onUnseen}>
            The computer does not see it?
          </TextButton>
        </div>
        {v?.says && (
          <p role="alert" className="mt-2.5 text-stop">
            {v.says}
          </p>
        )}
        {v && v.read > 0 && (
          <div className="mt-3" aria-live="polite">
            <p>
              <b>
                {v.is?.line} {v.is?.version} on {v.is?.target}
                {v.is?.serial ? `, number ${v.is.serial}` : ''}
              </b>
              : {v.read} settings read and saved.
            </p>
            {v.kept && <p className="text-ok">What was written was read once more, and the board keeps it.</p>}
            {v.hinders && <p className="text-stop">{v.hinders}</p>}
            {!v.hinders && v.changes.length === 0 && !v.kept && <p className="text-ok">It holds what your settings say.</p>}
            {v.changes.length > 0 && !v.kept && (
              <>
                <Differing changes={v.changes} aria-label="What would be written" className="mt-2" />
                <div className="mt-2.5 flex items-center gap-3">
                  <Button main disabled={!done || !cable.open || v.of > 0} onClick={() => cable.write(v.seen)}>
                    {v.of > 0 && !v.says ? `Writing, ${v.written} of ${v.of}…` : `Write these ${v.changes.length}, line by line`}
                  </Button>
                </div>
              </>
            )}
          </div>
        )}
      </section>
      <section aria-label="What is sent">
        <Subhead>{v && v.sent.length > 0 ? 'What was sent' : 'What would be sent'}</Subhead>
        {!v && <p className="text-soft">Nothing is sent before you have seen it here.</p>}
        {v && (
          <>
            <ol className="font-mono text-[14px] [&_li]:border-b [&_li]:border-line [&_li]:py-0.75">
              {(v.sent.length > 0 ? v.sent : v.sends).map((text, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: what was sent stays in its order
                <li key={i}>{text}</li>
              ))}
            </ol>
            {v.read > 0 && v.lines.length > 0 && !v.kept && v.of === 0 && (
              <>
                <Subhead>What writing would send</Subhead>
                <ol className="font-mono text-[14px] text-soft [&_li]:border-b [&_li]:border-line [&_li]:py-0.75">
                  {v.lines.map((text, i) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: as they would be sent
                    <li key={i}>{text}</li>
                  ))}
                </ol>
              </>
            )}
            {cable.open && !done && (
              <p className="mt-2 text-soft" role="status">
                {stages.map(([s, words], i) => (
                  <span key={s} className={i === at ? 'font-semibold text-act' : ''}>
                    {i > 0 && ', '}
                    {words}
                  </span>
                ))}
              </p>
            )}
          </>
        )}
      </section>
    </div>
  )
}
