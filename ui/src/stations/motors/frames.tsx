// The throttle protocol laid against the control loop, to scale, and what else it could be.
import { TextButton } from '../../kit/button'
import { Tick } from '../../kit/tick'
import { AsTable } from '../../shell/as-table'
import { showError } from '../../shell/message'
import type { Change } from '../../wire/client'
import { acts, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import type { Path } from '../../wire/path'

type Timing = Schemas['FrameTiming']

const tones: Record<string, [string, string]> = {
  frame: ['var(--act)', 'throttle to the speed controllers'],
  pulse: ['var(--act)', 'pulse'],
  turn: ['var(--line)', 'the wire turns round'],
  reply: ['var(--fix)', 'rotation back'],
}

export function Frames({ quad }: { quad: QuadAt<'motors'> }) {
  const m = quad.meant.sheet.motors
  const t = quad.timing
  const set = useAct(quad.id, (v: Change) => acts.edit(quad.id, quad.version, [v]))
  const put = (path: Path, value: unknown) => set.mutate({ path, value }, { onError: showError })
  const digital = m.protocol === 'digital'
  return (
    <div className="min-h-0 overflow-y-auto pr-2 [&_h2]:text-[18px] [&_h3]:text-[14.5px]">
      <AsTable
        keyless
        caption="Throttle frames against the loop"
        head={['bit rate', 'a frame takes', 'the loop leaves', 'fits']}
        rows={quad.frames.map((f) => [
          `${f.bitRate} kbit/s`,
          `${f.timing.takes.toFixed(1)} µs`,
          `${f.timing.room.toFixed(1)} µs`,
          f.timing.fits ? 'yes' : 'no',
        ])}
      />
      <h2>
        {digital
          ? `Digital throttle, ${m.bitRate} kbit/s${m.twoWay ? ', two-way' : ''}`
          : m.protocol === 'pulse'
            ? 'Pulses of 1 to 2 ms'
            : 'Pulses of 125 to 250 µs'}
        , loop at {m.loopRate / 1000} kHz: <span className={t.fits ? 'text-ok' : 'text-stop'}>{t.fits ? 'it fits' : 'it does not fit'}</span>
      </h2>
      <Loop t={t} />
      <p className="text-soft">
        {digital
          ? `A frame takes ${t.takes.toFixed(1)} µs; the loop leaves ${t.room.toFixed(0)} µs, a fifth of it kept in hand.`
          : `A new throttle reaches the motors ${t.carried.toFixed(0)} times a second at most.`}{' '}
        Few feel 4 against 8 kHz, some feel 2 against 4.
      </p>
      {digital && (
        <section aria-label="Bit rates">
          <h3>The same loop at other bit rates</h3>
          {quad.frames.map((f) => (
            <div key={f.bitRate} className="flex min-h-7 items-center gap-3">
              <TextButton
                className="w-23 aria-pressed:font-bold aria-pressed:underline"
                aria-pressed={f.bitRate === m.bitRate}
                onClick={() => put('sheet.motors.bitRate', f.bitRate)}
              >
                {f.bitRate} kbit/s
              </TextButton>
              <Bar t={f.timing} of={t.period} />
              <span className={f.timing.fits ? 'text-ok' : 'text-stop'}>{f.timing.fits ? 'fits' : 'does not fit'}</span>
            </div>
          ))}
          <Tick checked={m.twoWay} onChange={(on) => put('sheet.motors.twoWay', on)}>
            speed controllers answer with their rotation
          </Tick>
        </section>
      )}
      <section aria-label="Loop rates">
        <h3>Other loops</h3>
        {(t.loops ?? []).map((l) => (
          <div key={l.rate} className="mr-6.5 inline-flex min-h-7 items-center gap-3">
            <TextButton
              className="aria-pressed:font-bold aria-pressed:underline"
              aria-pressed={l.rate === m.loopRate}
              onClick={() => put('sheet.motors.loopRate', l.rate)}
            >
              {l.rate / 1000} kHz
            </TextButton>
            <span className={l.fits ? 'text-ok' : 'text-stop'}>{l.fits ? 'fits' : 'does not fit'}</span>
            {l.load > 0 && <span className={l.busy ? 'text-stop' : 'text-soft'}>about {l.load} % of the processor</span>}
          </div>
        ))}
      </section>
      <p className="text-soft">Analog end points are set with full throttle: propellers off, always.</p>
    </div>
  )
}

const wide = 800

/** Two periods of the loop, with what the wire carries in each. */
function Loop({ t }: { t: Timing }) {
  const shown = Math.max(2 * t.period, t.takes)
  const x = (us: number) => 10 + (wide * us) / shown
  const parts = (t.stretches ?? []).filter((s) => s.what !== 'spare')
  return (
    <svg viewBox="0 0 852 118" role="img" aria-label={`A frame takes ${t.takes.toFixed(1)} of the loop's ${t.period.toFixed(0)} microseconds`}>
      {[0, 1].map((k) => (
        <g key={k}>
          <rect x={x(k * t.period)} y="22" width={x(t.period) - x(0)} height="44" fill="var(--panel)" stroke="var(--wire)" />
          <path d={`M${x(k * t.period + t.room)} 16V72`} stroke="var(--stop)" strokeDasharray="3 3" />
          {parts.map((s) => (
            <rect
              key={s.what}
              x={x(k * t.period + s.from)}
              y="28"
              width={Math.max(1, Math.min(x(shown), x(k * t.period + s.to)) - x(k * t.period + s.from))}
              height="32"
              fill={tones[s.what]?.[0]}
              opacity={k === 1 ? 0.45 : 1}
            />
          ))}
          <text x={x(k * t.period) + 3} y="14" fontSize="12" style={{ fill: 'var(--soft)' }}>
            loop {k + 1}: {(k * t.period).toFixed(0)} µs
          </text>
        </g>
      ))}
      <text x={x(t.room) - 4} y="84" fontSize="12" textAnchor="end" style={{ fill: 'var(--stop)' }}>
        four fifths
      </text>
      {parts.map((s, i) => (
        <g key={s.what} transform={`translate(${10 + i * 250} 100)`}>
          <rect width="14" height="12" y="-10" fill={tones[s.what]?.[0]} stroke="var(--line)" />
          <text x="20" fontSize="12.5">
            {tones[s.what]?.[1]} {(s.to - s.from).toFixed(1)} µs
          </text>
        </g>
      ))}
    </svg>
  )
}

function Bar({ t, of }: { t: Timing; of: number }) {
  const shown = Math.max(of * 1.2, 300)
  const x = (us: number) => (420 * Math.min(us, shown)) / shown
  return (
    <svg viewBox="0 0 420 16" width="420" height="16" aria-hidden="true">
      <path d={`M0 8H${x(of)}`} stroke="var(--line)" strokeWidth="12" />
      {(t.stretches ?? [])
        .filter((s) => s.what !== 'spare')
        .map((s) => (
          <path key={s.what} d={`M${x(s.from)} 8H${x(s.to)}`} stroke={tones[s.what]?.[0]} strokeWidth={s.what === 'turn' ? 3 : 10} />
        ))}
      <path d={`M${x(t.room)} 0V16`} stroke="var(--stop)" strokeDasharray="2 2" />
    </svg>
  )
}
