import type { Change } from '../../wire/client'
// Reversible thrust as a way of its own: both ends told, seen again, and where the stick rests then.

import { Link } from 'react-router'
import { Button, textLook } from '../../kit/button'
import { Tick } from '../../kit/tick'
import { showError } from '../../shell/message'
import { acts, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'

export function BothWays({ quad }: { quad: QuadAt<'motors'> }) {
  const m = quad.meant.sheet.motors
  const outputs = Object.keys(m.outputs).sort()
  const on = m.reversible
  const { told, seen, ratio, able, loss, rest } = quad.reversing
  const edit = useAct(quad.id, (values: Change[]) => acts.edit(quad.id, quad.version, values))
  const write = useAct(quad.id, (output: string) => acts.writeOutput(quad.id, output))
  const put = (values: Change[]) => edit.mutate(values, { onError: showError })
  const pending = quad.changes.map((w) => w.name)
  const p = quad.meant.parts.propeller
  const steps: { name: string; done: boolean; words: React.ReactNode }[] = [
    {
      name: 'The board',
      done: on,
      words: (
        <Tick checked={on} onChange={(value) => put([{ path: 'sheet.motors.reversible', value }])}>
          drives both ways, the throttle at rest in its middle
        </Tick>
      ),
    },
    {
      name: 'Each speed controller',
      done: on && (told ?? []).length === outputs.length,
      words: (
        <>
          {outputs.map((o) => (
            <Tick key={o} checked={Boolean(m.outputs[o]?.bothWays)} onChange={(value) => put([{ path: `sheet.motors.outputs.${o}.bothWays`, value }])}>
              {o}
            </Tick>
          ))}
          <span className="text-soft"> Told to some only, the others take the middle for half throttle.</span>
        </>
      ),
    },
    {
      name: 'Written, one by one',
      done: on && pending.length === 0,
      words: (
        <>
          {outputs.map((o) => (
            <Button
              key={o}
              small
              disabled={write.isPending || !pending.some((n) => n.includes(`.${o}.`))}
              onClick={() => write.mutate(o, { onError: showError })}
            >
              Write {o}
            </Button>
          ))}
          <span className="text-soft"> What each held before is saved first. The board’s own settings are written at Firmware.</span>
        </>
      ),
    },
    {
      name: 'Seen again, from nothing',
      done: on && (seen ?? []).length === outputs.length,
      words: (
        <span>
          {(seen ?? []).length} of {outputs.length} seen since.{' '}
          <Link className={textLook} to="?">
            Which corner moves
          </Link>
          : what was seen before proves nothing now.
        </span>
      ),
    },
    {
      name: 'The least each way',
      done: quad.idle.known,
      words: (
        <span>
          <Link className={textLook} to="?at=start">
            Where it starts
          </Link>
          , forward and backward; idle {quad.idle.set} % holds both ways.
        </span>
      ),
    },
    {
      name: 'On its back',
      done: on && able,
      words: (
        <span>
          Backward these propellers give {Math.round(100 * p.reversed)} % of their thrust: {ratio.toFixed(1)} times its weight.{' '}
          {on && (
            <Link className={textLook} to={`/quads/${quad.id}/rehearsal?scenario=inverted`}>
              Rehearse the inverted hover
            </Link>
          )}
        </span>
      ),
    },
    {
      name: 'Without a radio',
      done: on && loss === 'silence',
      words: 'A preset at the throttle’s low end is full thrust at the ground. Silence, or a preset that disarms; proven at Link loss.',
    },
  ]
  return (
    <div className="grid min-h-0 grid-cols-[150px_minmax(0,1fr)] gap-x-5.5 gap-y-1.5 overflow-y-auto pr-2 [&_label]:inline-flex [&_label]:items-center [&_label]:gap-1.5 [&_li]:py-px [&_li[data-done]]:marker:font-bold [&_li[data-done]]:marker:text-ok [&_ol]:pl-5 [&_svg]:h-72.5">
      <svg
        viewBox="0 0 150 330"
        width="150"
        height="330"
        role="img"
        aria-label={
          on
            ? `The throttle: full up is full thrust up, its middle is rest, its bottom full thrust down`
            : 'The throttle: its bottom is rest, full up is full thrust'
        }
      >
        <rect x="64" y="20" width="22" height="290" rx="11" fill="var(--panel)" stroke="var(--soft)" />
        {on ? (
          <>
            <rect x="66" y="24" width="18" height={136 - 0.145 * 2 * rest} fill="var(--act-bg)" />
            <rect x="66" y={170 + 0.145 * 2 * rest} width="18" height={136 - 0.145 * 2 * rest} fill="var(--stop-bg)" />
            <rect x="60" y={165 - 0.145 * rest} width="30" height={0.29 * rest + 4} fill="var(--ok)" opacity="0.6" />
            <text x="56" y="30" textAnchor="end" fontSize="13">
              full up
            </text>
            <text x="96" y="160" fontSize="13">
              rest,
            </text>
            <text x="96" y="176" fontSize="13">
              still turning
            </text>
            <text x="56" y="306" textAnchor="end" fontSize="13" style={{ fill: 'var(--stop)' }}>
              full down
            </text>
          </>
        ) : (
          <>
            <rect x="66" y="24" width="18" height="270" fill="var(--act-bg)" />
            <text x="56" y="30" textAnchor="end" fontSize="13">
              full
            </text>
            <text x="96" y="306" fontSize="13">
              rest
            </text>
          </>
        )}
      </svg>
      <ol>
        {steps.map((s) => (
          <li key={s.name} data-done={s.done || undefined}>
            <b>{s.name}</b>
            <span className="text-soft"> {s.done ? 'done' : on || s.name === 'The board' ? 'to do' : 'when it is on'}</span>
            <div className="flex flex-wrap items-center gap-2.5">{s.words}</div>
          </li>
        ))}
      </ol>
      <p className="col-span-full text-stop">
        The stick’s bottom is full thrust the other way, and centring it does not stop the motors: only disarming does. Symmetric propellers push alike both
        ways, and less in all; cambered ones give 40 to 60 per cent backward.
      </p>
    </div>
  )
}
