import { useState } from 'react'
import { useNavigate } from 'react-router'
import { Button } from '../../kit/button'
import { remarks } from '../../kit/looks'
import { onConflict } from '../../places/line/conflict'
import { showError } from '../../shell/message'
import { acts, reviewList, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import type { Place } from './places'

const most = 2_000_000

/** A settings list from elsewhere: read whole, told line by line, and only then taken. */
export function ListIn({ quad, go }: { quad: QuadAt<'firmware'>; go: (p: Place, more?: Record<string, string>) => void }) {
  const [text, setText] = useState('')
  const [seen, setSeen] = useState<Schemas['ListView'] | null>(null)
  const [wrong, setWrong] = useState('')
  const navigate = useNavigate()
  const sheet = useAct(quad.id, (leaveOut: boolean) => acts.takeList(quad.id, quad.version, text, leaveOut))
  const back = useAct(quad.id, () => acts.readList(quad.id, text))
  const keep = useAct(quad.id, () => acts.keepList(quad.id, { text }))
  const change = (t: string) => {
    setText(t)
    setSeen(null)
    setWrong('')
  }
  const read = async (t: string) => {
    setWrong('')
    setSeen(null)
    if (t.length > most) {
      setWrong('That is over 2 MB; a settings list has a few kB. Nothing was read.')
      return
    }
    try {
      setSeen(await reviewList(quad.id, t))
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e))
    }
  }
  const pick = async (f?: File) => {
    if (!f) return
    if (f.size > most) {
      setWrong(`${f.name} has ${(f.size / 1e6).toFixed(0)} MB; a settings list has a few kB. Nothing was read.`)
      return
    }
    const t = await f.text()
    setText(t)
    await read(t)
  }
  const whole = seen?.remarks.some((r) => r.hinders && r.line === 0) ?? false
  const lines = seen ? seen.hinders : 0
  return (
    <div className="mb-3 grid grid-cols-2 gap-6 [&_input[type=file]]:min-w-0 [&_input[type=file]]:flex-1">
      <div>
        <textarea
          aria-label="Settings list"
          rows={6}
          spellCheck={false}
          value={text}
          placeholder={'name = value, one to a line, or a table: name,value'}
          onChange={(e) => change(e.target.value)}
        />
        <div className="flex flex-wrap items-center gap-2.5">
          <input type="file" accept=".txt,.csv,text/plain,text/csv" aria-label="Choose a settings list" onChange={(e) => void pick(e.target.files?.[0])} />
          <Button small disabled={!text.trim()} onClick={() => void read(text)}>
            Read it
          </Button>
        </div>
      </div>
      <div>
        {wrong && (
          <p role="alert" className="text-stop">
            {wrong}
          </p>
        )}
        {seen?.unknown && (
          <p>
            {seen.is.line ? `${seen.is.line} is a line` : 'This is of a line'} that is not known here.{' '}
            <Button
              small
              onClick={() => void navigate(`/quads/${quad.id}/dictionary`, { state: { list: text, line: seen.is.line, version: seen.is.version } })}
            >
              Describe it
            </Button>
          </p>
        )}
        {seen && !seen.unknown && (
          <>
            <p>
              {seen.lines} {seen.lines === 1 ? 'line' : 'lines'}, {seen.fitting} fit as they are
              {seen.changes.length > 0 ? `; ${seen.changes.length} of what they say is otherwise on the board.` : '.'}
            </p>
            {seen.remarks.length > 0 && (
              <ol className={remarks} aria-label="Remarks">
                {seen.remarks.map((r) => (
                  <li key={`${r.line} ${r.says}`}>
                    <b className={r.hinders ? 'text-stop' : 'text-soft'}>{r.line ? `line ${r.line}` : 'the list'}</b> {r.says}
                  </li>
                ))}
              </ol>
            )}
            <div className="flex flex-wrap items-center gap-2.5">
              {seen.carry && (
                <Button disabled={keep.isPending} onClick={() => keep.mutate(undefined, { onError: showError, onSuccess: () => go('carry') })}>
                  Save it, and carry it over
                </Button>
              )}
              {!whole && lines === 0 && (
                <Button
                  main
                  disabled={sheet.isPending}
                  onClick={() => sheet.mutate(false, { onError: onConflict(quad, 'Your list', []), onSuccess: () => go('write') })}
                >
                  Apply to settings
                </Button>
              )}
              {!whole && lines > 0 && (
                <Button
                  disabled={sheet.isPending}
                  onClick={() => sheet.mutate(true, { onError: onConflict(quad, 'Your list', []), onSuccess: () => go('write') })}
                >
                  Apply what fits{seen.convert ? `, ${seen.convert} under their new names` : ''}
                </Button>
              )}
              {seen.hinders === 0 && (
                <Button disabled={back.isPending} onClick={() => back.mutate(undefined, { onError: showError, onSuccess: () => go('board') })}>
                  It is what the board holds
                </Button>
              )}
            </div>
          </>
        )}
      </div>
    </div>
  )
}
