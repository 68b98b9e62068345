import { useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { wideLeft } from '../../kit/looks'
import { useOwnBench } from '../../places/bench/whose'
import { when } from '../../places/line/proof-bar'
import { showError } from '../../shell/message'
import { acts, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'

export type Controller = Schemas['ControllerState']

/** What the board says it is beside what the sheet wants, thread by thread, and its speed controllers. */
export function Board({ quad, controllers, onCable }: { quad: QuadAt<'firmware'>; controllers: Controller[]; onCable: () => void }) {
  const is = quad.board
  const want = quad.meant.sheet.firmware
  const rows: [string, string, string][] = [
    ['Target', is.target, want.target],
    ['Family', is.line, want.line],
    ['Version', is.version, want.version],
  ]
  const identify = useAct(quad.id, () => acts.take(quad.id, 'readings.firmware.identity'))
  const save = useAct(quad.id, (why: string) => acts.saveBoard(quad.id, why))
  const [why, setWhy] = useState('')
  const powered = useOwnBench((s) => Boolean(s.live && s.live.board !== 'off'))
  // One thing at a time is asked of a bench.
  const [asking, setAsking] = useState(false)
  const busy = identify.isPending || save.isPending || asking
  return (
    <div className={wideLeft}>
      <section aria-label="Board and settings">
        <svg viewBox="0 0 500 170" role="img" aria-label={rows.map(([n, a, b]) => `${n}: board ${a || 'unknown'}, your settings ${b}`).join('. ')} width="100%">
          <text x="92" y="20" textAnchor="middle" fontSize="13" style={{ fill: 'var(--soft)' }}>
            the board says{is.serial ? `, number ${is.serial}` : ''}
          </text>
          <text x="410" y="20" textAnchor="middle" fontSize="13" style={{ fill: 'var(--soft)' }}>
            your settings say
          </text>
          {rows.map(([name, a, b], i) => {
            const y = 58 + i * 44
            const same = a === b
            const tone = !a ? 'var(--faint)' : same ? 'var(--ok)' : 'var(--stop)'
            return (
              <g key={name}>
                <text x="92" y={y} textAnchor="middle" fontSize="19" fontWeight="600">
                  {a || 'not read'}
                </text>
                <text x="410" y={y} textAnchor="middle" fontSize="19" fontWeight="600">
                  {b}
                </text>
                <path
                  d={same || !a ? `M178 ${y - 6}H324` : `M178 ${y - 6}h58m24 0h64M240 ${y - 15}l8 18m4 -18l8 18`}
                  stroke={tone}
                  strokeWidth="2.5"
                  strokeDasharray={a ? undefined : '4 6'}
                  fill="none"
                />
                <text x="250" y={y - 13} textAnchor="middle" fontSize="13" style={{ fill: tone }}>
                  {name.toLowerCase()}
                  {a ? (same ? ', the same' : ', not the same') : ''}
                </text>
              </g>
            )
          })}
        </svg>
        <div className="flex flex-wrap items-center gap-2.5">
          <Button disabled={!powered || busy} onClick={() => identify.mutate(undefined, { onError: showError })}>
            {identify.isPending ? 'Asking the board…' : 'Identify and read back'}
          </Button>
          <input aria-label="Words for what is saved" placeholder="why" size={9} value={why} maxLength={120} onChange={(e) => setWhy(e.target.value)} />
          <Button disabled={!powered || busy} onClick={() => save.mutate(why, { onError: showError, onSuccess: () => setWhy('') })}>
            {save.isPending ? 'Saving…' : 'Save what is on it'}
          </Button>
        </div>
        <p className="text-soft" style={{ marginTop: 8 }}>
          {powered
            ? is.read
              ? `Last read back ${when(is.at)}.`
              : 'Not read back yet.'
            : 'Give it power on the bench: USB, or the pack with the propellers off (b opens the bench).'}
        </p>
        <TextButton onClick={onCable}>A real board, by its cable</TextButton>
      </section>
      <SpeedControllers quad={quad} controllers={controllers} busy={busy} asking={asking} onAsk={setAsking} />
    </div>
  )
}

type Asked = { quad: QuadAt<'firmware'>; controllers: Controller[]; busy: boolean; asking: boolean; onAsk: (asking: boolean) => void }

function SpeedControllers({ quad, controllers, busy, asking, onAsk }: Asked) {
  const ask = useAct(quad.id, (output: string) => acts.take(quad.id, `readings.firmware.speedControllers.${output}`))
  const pack = useOwnBench((s) => s.live?.pack ?? false)
  const askAll = async () => {
    onAsk(true)
    try {
      for (const c of controllers) await ask.mutateAsync(c.output)
    } finally {
      onAsk(false)
    }
  }
  if (controllers.length === 0)
    return (
      <section aria-label="Speed controllers">
        <Subhead>Speed controllers</Subhead>
        <p className="text-soft">By the parts they have no firmware that could be asked.</p>
      </section>
    )
  return (
    <section aria-label="Speed controllers">
      <Subhead>Speed controllers, layout {quad.meant.parts.speedController.layout}</Subhead>
      <ul className="mb-2.5 grid grid-cols-2 gap-2 [&_li]:grid [&_li]:grid-cols-[22px_minmax(0,1fr)] [&_li]:content-start [&_li]:border-l-3 [&_li]:border-line [&_li]:py-0.5 [&_li]:pl-2.25 [&_li[data-unlike=true]]:border-fix [&_li>b:first-child]:row-span-3">
        {controllers.map((c) => (
          <li key={c.output} data-unlike={c.unlike}>
            <b>{c.output}</b>
            {c.asked ? (
              <>
                <span className={c.unlike ? 'text-fix' : ''}>
                  {c.layout} <b>{c.version}</b>
                </span>
                <span className="text-soft">
                  {c.switching} kHz{c.replies ? ', replies' : ', cannot reply'}
                </span>
                {c.unlike && <span className="text-fix">unlike the others</span>}
              </>
            ) : (
              <span className="text-soft">not asked</span>
            )}
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-2.5">
        <Button disabled={!pack || busy} onClick={() => void askAll().catch(showError)}>
          {asking ? 'Asking…' : 'Ask all of them'}
        </Button>
        <span className="text-soft">{pack ? 'One after the other.' : 'They answer only while the pack is in. Props off.'}</span>
      </div>
    </section>
  )
}
