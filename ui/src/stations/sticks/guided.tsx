import { useEffect, useRef, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { upper } from '../../kit/text'
import { useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import type { Path } from '../../wire/path'
import type { StationProps } from '../props'
import type { Source } from './source'

type Step = { path: Path; name: string; how: string; done: boolean }

/** All sticks and switches in one go, one after the other: what is to be moved now stands large, and what is captured is kept at once. */
export function Guided({ quad, perch, source }: StationProps<QuadAt<'sticks'>> & { source: Source }) {
  const [at, setAt] = useState<Path | ''>('')
  const [all, setAll] = useState(false)
  const [says, setSays] = useState('')
  const going = useRef(false)
  const capture = useAct(quad.id, (path: Path) => source.capture(quad.id, path))
  useEffect(
    () => () => {
      going.current = false
    },
    [],
  )
  const list: Step[] = [
    ...quad.axes.map((a) => ({
      path: `readings.sticks.axes.${a.axis}` as Path,
      name: `${a.axis} stick`,
      how: 'Move it: high, low, let go.',
      done: a.captured,
    })),
    ...Object.entries(quad.meant.radio.switches).map(([name, plan]) => ({
      path: `readings.sticks.switches.${name}` as Path,
      name: `${name} switch`,
      how: `Put it through: ${plan.positions.join(', ')}.`,
      done: perch.readings.some((r) => r.path === `readings.sticks.switches.${name}`),
    })),
  ]
  const missing = list.filter((s) => !s.done)
  const go = async (these: Step[]) => {
    going.current = true
    setAll(these.length === list.length)
    setSays('')
    for (const s of these) {
      if (!going.current) break
      setAt(s.path)
      try {
        await capture.mutateAsync(s.path)
      } catch (e) {
        setSays(e instanceof Error ? e.message : String(e))
        going.current = false
        return
      }
    }
    going.current = false
    setAt('')
  }
  const here = list.findIndex((s) => s.path === at)
  const now = list[here]
  if (!now) {
    return (
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        {missing.length > 0 && (
          <Button main disabled={!source.able} onClick={() => void go(missing)}>
            {missing.length === list.length ? 'Capture all sticks and switches' : `Capture the ${missing.length} that are missing`}
          </Button>
        )}
        {missing.length < list.length && (
          <TextButton disabled={!source.able} onClick={() => void go(list)}>
            Capture all again
          </TextButton>
        )}
        {!source.able && <span className="text-soft">Pack in and radio on, so that channels arrive.</span>}
      </div>
    )
  }
  const rest = list.slice(here).filter((s) => all || !s.done || s.path === at)
  return (
    <section aria-label="Guided capture" className="rounded-lg border border-act bg-panel px-4 py-3">
      <p role="status" className="text-[21px]">
        <b>{upper(now.name)}</b>. {now.how}
      </p>
      {says && (
        <p role="alert" className="text-stop">
          {says}
        </p>
      )}
      <ol className="flex flex-wrap gap-x-4 gap-y-1 py-1.5 text-[14px]">
        {list.map((s, i) => {
          const done = s.done && (!all || i < here)
          return (
            <li
              key={s.path}
              aria-current={s.path === at ? 'step' : undefined}
              className={s.path === at ? 'font-semibold text-act' : done ? 'text-ok' : 'text-soft'}
            >
              {s.path === at ? '▸' : done ? '✓' : '○'} {s.name}
            </li>
          )
        })}
      </ol>
      <div className="flex items-center gap-4">
        {says && (
          <>
            <Button main disabled={!source.able} onClick={() => void go(rest)}>
              Once more
            </Button>
            <Button disabled={!source.able || rest.length < 2} onClick={() => void go(rest.slice(1))}>
              Leave it out and go on
            </Button>
          </>
        )}
        <TextButton
          onClick={() => {
            going.current = false
            if (says) setAt('')
          }}
        >
          {says ? 'Close' : 'Stop after this one'}
        </TextButton>
      </div>
    </section>
  )
}
