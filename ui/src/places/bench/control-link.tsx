import { useState } from 'react'
import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { Segments } from '../../kit/segments'
import { Tick } from '../../kit/tick'
import { showError } from '../../shell/message'
import { bench, type Schemas } from '../../wire/client'
import { type Live, useLive } from '../../wire/live'

const radio = (s: Schemas['ProtocolRadioSet']) => void bench.radio(s).catch(showError)
const receiver = (s: Schemas['ProtocolReceiverSet']) => void bench.receiver(s).catch(showError)

const modules = [
  ['internal', 'built in'],
  ['external', 'in the bay'],
  ['both', 'both'],
  ['none', 'none'],
] as const

/** What hands do at the radio's model, at its module and at the receiver. */
export function ControlLink() {
  const seen = useLive((s) => JSON.stringify(s.live?.link ?? null))
  const on = useLive((s) => s.live?.radio ?? false)
  const button = useLive((s) => s.live?.link.button ?? false)
  const l = JSON.parse(seen) as Live['link'] | null
  if (!l) return null
  const whole = (name: 'number' | 'channels' | 'power' | 'distance', words: string, unit: string) => (
    <Figure key={name} words={words} unit={unit} value={l[name]} disabled={!on && name !== 'distance'} onSet={(x) => radio({ [name]: x })} />
  )
  return (
    <>
      <Subhead>The radio's model</Subhead>
      <fieldset disabled={!on}>
        <legend style={{ fontSize: 13 }}>Modules on</legend>
        <Segments items={modules.map(([m, words]) => ({ value: m, words }))} value={l.modules} disabled={!on} onChoose={(m) => radio({ modules: m })} />
      </fieldset>
      <div className="my-2.5 grid grid-cols-2 gap-x-3.5 gap-y-2">
        {whole('number', 'Receiver number', '')}
        {whole('channels', 'Channels', '')}
        {whole('power', 'Power', 'mW')}
        {whole('distance', 'Radio away from the quad', 'm')}
        <Tick checked={l.telemetry} disabled={!on} onChange={(telemetry) => radio({ telemetry })}>
          Telemetry
        </Tick>
      </div>
      <div className="flex flex-wrap items-center gap-2.5">
        <Button small disabled={!on} aria-pressed={l.calling} onClick={() => radio({ call: !l.calling })}>
          {l.calling ? 'It calls; stop it' : 'Have it call'}
        </Button>
        <Phrase where="radio" disabled={!on} onSet={(phrase) => radio({ phrase })} />
        <Version words="Module firmware" disabled={!on} onSet={(version) => radio({ version })} />
      </div>
      <p className="text-soft">
        {l.quality > 0 ? `${String(l.strength).replace('-', '\u2212')} dBm, ${l.quality} % link quality at ${l.rate} Hz.` : 'No link.'}
      </p>
      <Subhead>The receiver</Subhead>
      <div className="flex flex-wrap items-center gap-2.5">
        <Button small aria-pressed={button} onClick={() => receiver({ button: !button })}>
          {button ? 'Let its button go' : 'Hold its button'}
        </Button>
        <Phrase where="receiver" onSet={(phrase) => receiver({ phrase })} />
        <Version words="Receiver firmware" onSet={(version) => receiver({ version })} />
        <span className="flex flex-wrap items-center gap-2.5">
          Mend
          {(['supply', 'antenna', 'button', 'receiver'] as const).map((r) => (
            <Button key={r} small onClick={() => receiver({ repair: r })}>
              {r === 'receiver' ? 'another receiver' : r}
            </Button>
          ))}
        </span>
      </div>
    </>
  )
}

function Figure(props: { words: string; unit: string; value: number; disabled?: boolean; onSet: (x: number) => void }) {
  const [typed, setTyped] = useState<string | null>(null)
  const done = () => {
    const x = Number(typed)
    if (typed !== null && typed.trim() !== '' && Number.isFinite(x) && x !== props.value) props.onSet(x)
    setTyped(null)
  }
  return (
    <label>
      {props.words}{' '}
      <input
        size={5}
        inputMode="decimal"
        disabled={props.disabled}
        value={typed ?? String(props.value)}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={done}
        onKeyDown={(e) => e.key === 'Enter' && done()}
      />{' '}
      {props.unit}
    </label>
  )
}

/** A phrase goes to the bench and is not shown again. */
function Phrase({ where, disabled, onSet }: { where: string; disabled?: boolean; onSet: (phrase: string) => void }) {
  return <Typed words={`Phrase of the ${where}`} secret disabled={disabled} onSet={onSet} />
}

function Version({ words, disabled, onSet }: { words: string; disabled?: boolean; onSet: (version: string) => void }) {
  return <Typed words={words} disabled={disabled} onSet={onSet} />
}

function Typed({ words, secret, disabled, onSet }: { words: string; secret?: boolean; disabled?: boolean; onSet: (text: string) => void }) {
  const [text, setText] = useState('')
  return (
    <form
      className="flex flex-wrap items-center gap-2.5"
      onSubmit={(e) => {
        e.preventDefault()
        onSet(text)
        setText('')
      }}
    >
      <input
        type={secret ? 'password' : 'text'}
        autoComplete="off"
        size={12}
        aria-label={words}
        placeholder={words}
        disabled={disabled}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <Button type="submit" small disabled={disabled || !text} aria-label={`Set: ${words}`}>
        Set
      </Button>
    </form>
  )
}
