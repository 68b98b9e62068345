import { useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { join } from '../../kit/join'
import { lights, steps, wideLeft } from '../../kit/looks'
import { Segments } from '../../kit/segments'
import { useOwnBench } from '../../places/bench/whose'
import { showError } from '../../shell/message'
import { links, type QuadView, type Schemas, useAct } from '../../wire/client'
import { useLive } from '../../wire/live'
import type { Path } from '../../wire/path'
import { Strip } from './light'

type Kind = Schemas['BindBody']['way']
const where = { radio: 'at the radio', receiver: 'at the receiver', quad: 'at the quad', '': '' }

/** Binding as a task card: the cautions, then step after step, each ticked by what the bench shows. */
export function Bind({ quad, view, onWhy }: { quad: QuadView; view: Schemas['LinkView']; onWhy: () => void }) {
  const gear = view.gear
  const connected = useOwnBench((s) => s.status?.connected ?? false)
  const state = useLive((s) => (s.binding && s.binding.quad === quad.id ? JSON.stringify(s.binding) : ''))
  const guided = state ? (JSON.parse(state) as Schemas['BindingState']) : null
  const runs = Boolean(guided && !guided.ended)
  const [picked, setPicked] = useState<Kind | ''>('')
  if (!gear)
    return (
      <p>
        {view.says} <span className="text-soft">Its lights, times and steps can be told at Own gear.</span>
      </p>
    )
  const kind = runs && guided ? guided.way : picked || gear.ways[0]?.kind || ''
  const way = gear.ways.find((w) => w.kind === kind) ?? gear.ways[0]
  const shown = guided && guided.way === kind ? guided : null
  if (!way) return null
  return (
    <div className={wideLeft}>
      <section aria-label="Binding, step by step">
        <div className="flex flex-wrap items-center gap-2.5">
          <Segments items={gear.ways.map((w) => ({ value: w.kind as Kind, words: w.words }))} value={way.kind as Kind} disabled={runs} onChoose={setPicked} />
          {runs ? (
            <Button small onClick={() => void links.leave().catch(showError)}>
              Leave it
            </Button>
          ) : (
            <Button
              small
              main
              disabled={!connected}
              title={connected ? undefined : 'No bench is connected; the steps hold without it'}
              onClick={() => void links.bind(quad.id, way.kind as Kind).catch(showError)}
            >
              Follow me on the bench
            </Button>
          )}
        </div>
        <p className={join('my-2', shown?.cautions.length ? 'text-stop' : 'text-soft')} role={shown?.cautions.length ? 'alert' : undefined}>
          {shown?.cautions.length
            ? shown.cautions.join(' ')
            : 'First: propellers off, throttle at rest, arm switch off. The controller obeys the instant the link is up.'}
        </p>
        <ol className={steps}>
          {way.steps.map((s, i) => {
            const is = !shown ? '' : i < shown.step ? 'done' : i === shown.step && !shown.ended ? 'now' : ''
            return (
              <li key={s.words} data-is={is} aria-current={is === 'now' ? 'step' : undefined}>
                <span aria-hidden="true">{is === 'done' ? '✓' : i + 1}</span>
                <span>
                  <span className="text-soft">{where[s.where]}</span> {s.words}
                </span>
                {is === 'now' && shown?.says && (
                  <b className="text-fix" role="status">
                    {shown.says}
                  </b>
                )}
              </li>
            )
          })}
        </ol>
        {shown?.done && (
          <p role="status" className="text-ok">
            Bound, and a channel was seen to move: that is saved. {shown.says}
          </p>
        )}
        {shown?.ended && !shown.done && (
          <p role="status" className="text-soft">
            Left. {shown.says}
          </p>
        )}
        <p>
          It does not bind? <TextButton onClick={onWhy}>Find out why</TextButton>
        </p>
      </section>
      <div>
        <Lights gear={gear} />
        {gear.ways.some((w) => w.kind === 'phrase') && <Phrases quad={quad} />}
      </div>
    </div>
  )
}

/** What the lights and tones of this gear mean, drawn over time and named. */
function Lights({ gear }: { gear: Schemas['Gear'] }) {
  const now = useLive((s) => s.live?.link.light.join(' ') ?? null)
  return (
    <section aria-label="Lights and tones">
      <Subhead>The receiver's light, over two seconds and a half</Subhead>
      <ul className={lights}>
        {gear.lights.map((l) => (
          <li key={l.state} data-here={now !== null && l.blink.join(' ') === now}>
            <Strip beats={l.blink} />
            <span>
              {l.words}: <b>{lightWords[l.state]}</b>
            </span>
          </li>
        ))}
      </ul>
      <Subhead>The radio's tones</Subhead>
      <ul className={lights}>
        {gear.beeps.map((b) => (
          <li key={b.state}>
            <Strip beats={b.beats} sound />
            <span>
              {b.words}: <b>{beepWords[b.state]}</b>
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

const lightWords: Record<string, string> = {
  off: 'no supply, or dead',
  searching: 'hears nothing of its link',
  stranger: 'hears another radio',
  binding: 'waits to be bound',
  page: 'opened its wireless page',
  bound: 'has its radio',
}
const beepWords: Record<string, string> = { calling: 'it calls', bound: 'bound', lost: 'the link is gone' }

/** Two phrases compared by their fingerprints; neither is shown or kept. */
function Phrases({ quad }: { quad: QuadView }) {
  const [module, setModule] = useState('')
  const [receiver, setReceiver] = useState('')
  const compare = useAct(quad.id, () => links.phrases(quad.id, { module: module || undefined, receiver: receiver || undefined }))
  const words = (path: Path) => quad.line.flatMap((p) => p.readings).find((r) => r.path === path)?.words
  const send = (e: React.FormEvent) => {
    e.preventDefault()
    compare.mutate(undefined, {
      onSuccess: () => {
        setModule('')
        setReceiver('')
      },
      onError: showError,
    })
  }
  return (
    <section aria-label="Two phrases compared">
      <Subhead>Are the two phrases the same?</Subhead>
      <form className="grid grid-cols-2 items-end gap-x-3 gap-y-1.5 [&_button]:justify-self-start [&_input]:w-full" onSubmit={send}>
        <label>
          In the radio
          <input type="password" autoComplete="off" maxLength={200} value={module} onChange={(e) => setModule(e.target.value)} />
        </label>
        <output>{words('readings.link.modulePhrase') ?? 'not compared yet'}</output>
        <label>
          In the receiver
          <input type="password" autoComplete="off" maxLength={200} value={receiver} onChange={(e) => setReceiver(e.target.value)} />
        </label>
        <output>{words('readings.link.receiverPhrase') ?? 'not compared yet'}</output>
        <Button type="submit" small disabled={!(module || receiver) || compare.isPending}>
          Take fingerprints
        </Button>
      </form>
      <p className="text-soft">Only four letters of each are saved; nobody finds a phrase by them.</p>
    </section>
  )
}
