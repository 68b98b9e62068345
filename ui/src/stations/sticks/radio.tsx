import { useRef } from 'react'
import { Button } from '../../kit/button'
import { steps } from '../../kit/looks'
import { onConflict } from '../../places/line/conflict'
import { AsTable } from '../../shell/as-table'
import { show, showError } from '../../shell/message'
import { radioCard, takeRadioCard, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'

const axisOf: Record<string, string> = { A: 'roll', E: 'pitch', T: 'throttle', R: 'yaw' }
const row = 30

/** From hand to channel: sticks, switches and mixes of the radio's model, drawn; the card to set it up by, out and in. */
export function RadioPlan({ quad }: { quad: QuadAt<'sticks'> }) {
  const file = useRef<HTMLInputElement>(null)
  const r = quad.meant.radio
  const take = useAct(quad.id, (text: string) => takeRadioCard(quad.id, quad.version, text))
  const sticks = [...r.order].map((letter, i) => ({ name: axisOf[letter] ?? letter, channel: i + 1, words: '' }))
  const switches = Object.entries(r.switches).map(([name, s]) => ({
    name,
    channel: s.channel,
    words: [s.positions.join(' / '), s.springs ? 'springs back' : '', s.travel ? `${s.travel} %` : ''].filter(Boolean).join(', '),
  }))
  const hands = [...sticks, ...switches]
  const mixes = Object.entries(r.mixes ?? {})
  const channels = [...new Set([...hands.map((h) => h.channel), ...mixes.flatMap(([, m]) => [m.from, m.to])])].filter((c) => c > 0).sort((a, b) => a - b)
  const yHand = (i: number) => 20 + i * row
  const yChannel = (c: number) => 20 + channels.indexOf(c) * row
  const height = 20 + Math.max(hands.length, channels.length) * row
  const trims = (['roll', 'pitch', 'throttle', 'yaw'] as const).filter((a) => r.trims[a])
  const rows = [
    ...hands.map((h) => [h.name, h.words, h.channel || 'none']),
    ...mixes.map(([name, m]) => [`mix ${name}`, `${m.weight} % of channel ${m.from}${m.alone ? ', alone' : ''}`, m.to]),
  ]
  const save = async () => {
    const text = await radioCard(quad.id)
    const a = document.createElement('a')
    a.href = URL.createObjectURL(new Blob([text.text], { type: 'text/csv' }))
    a.download = `${quad.name} radio plan.csv`
    a.click()
    URL.revokeObjectURL(a.href)
  }
  return (
    <>
      <AsTable wide caption="The radio's plan" head={['hand', 'what', 'channel']} rows={rows} />
      <div>
        <svg viewBox={`0 0 720 ${height}`} className="block w-full touch-none" role="img" aria-label="From the hand to the channels">
          {hands.map((h, i) => (
            <g key={h.name}>
              <text x="6" y={yHand(i) + 5} fontSize="14" fontWeight="600">
                {h.name}
              </text>
              <text x="140" y={yHand(i) + 5} fontSize="13" style={{ fill: 'var(--soft)' }}>
                {h.words}
              </text>
              {h.channel > 0 && (
                <path
                  d={`M330 ${yHand(i)}C400 ${yHand(i)} 420 ${yChannel(h.channel)} 490 ${yChannel(h.channel)}`}
                  fill="none"
                  stroke="var(--act)"
                  strokeWidth={i < 4 ? 2.5 : 1.8}
                  strokeDasharray={i < 4 ? undefined : '7 4'}
                />
              )}
            </g>
          ))}
          {channels.map((c) => (
            <g key={c}>
              <rect x="490" y={yChannel(c) - 11} width="40" height="22" rx="4" fill="var(--panel)" stroke="var(--wire)" />
              <text x="510" y={yChannel(c) + 5} textAnchor="middle" fontSize="14" fontWeight="600">
                {c}
              </text>
            </g>
          ))}
          {mixes.map(([name, m]) => (
            <g key={name}>
              <path
                d={`M530 ${yChannel(m.from)}C590 ${yChannel(m.from)} 590 ${yChannel(m.to)} 534 ${yChannel(m.to)}`}
                fill="none"
                stroke="var(--fix)"
                strokeWidth="2"
              />
              <path d={`M534 ${yChannel(m.to)}l9 -5v10z`} fill="var(--fix)" />
              <text x="584" y={(yChannel(m.from) + yChannel(m.to)) / 2 + 5} fontSize="13">
                {name}, {m.weight} %
              </text>
            </g>
          ))}
        </svg>
      </div>
      <ol className={steps}>
        {[
          `Name the model ${r.model || quad.name}.`,
          `Sticks on channels 1 to 4 in the order ${r.order}, one order for all your models.`,
          `Switches on channels 5 and up: ${switches.map((s) => `${s.name} on ${s.channel || 'none'}`).join(', ')}.`,
          `Travel 100 % both ways on every channel${Object.values(r.switches).some((s) => s.gain) ? ', but where the board takes it for its gain' : ''}.`,
          trims.length ? `Trims to zero; now ${trims.map((a) => `${a} ${r.trims[a]} µs`).join(', ')}.` : 'Trims at zero; level is calibrated at the board.',
          mixes.length ? `Mixes: ${mixes.map(([name, m]) => `${name}, ${m.weight} % of ${m.from} onto ${m.to}`).join('; ')}.` : 'No mixes.',
        ].map((s, i) => (
          <li key={s}>
            <span aria-hidden="true">{i + 1}</span>
            <span>{s}</span>
          </li>
        ))}
      </ol>
      <div className="flex flex-wrap items-center gap-2.5">
        <Button small onClick={() => void save().catch(showError)}>
          Save the card
        </Button>
        <Button small onClick={() => window.print()}>
          Print it
        </Button>
        <label>
          Bring a card in{' '}
          <input
            ref={file}
            type="file"
            accept=".csv,.json,text/csv,application/json"
            onChange={(e) => {
              const f = e.target.files?.[0]
              if (f && f.size > 102_400) show(`${f.name} has over 100 kB; a card has a few. Nothing was read.`)
              else if (f) void f.text().then((text) => take.mutate(text, { onError: onConflict(quad, 'The card', []) }))
              if (file.current) file.current.value = ''
            }}
          />
        </label>
      </div>
    </>
  )
}
