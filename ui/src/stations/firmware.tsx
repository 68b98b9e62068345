import { useState } from 'react'
import type { StationProps } from '../line/line'
import { when } from '../line/proof-bar'
import { AsTable } from '../shell/as-table'
import { tellError } from '../shell/say'
import { acts, checkImage, type Schemas, useAct, useBackups } from '../wire/client'
import { useLive } from '../wire/live'

/** What the board says, beside what the sheet wants; its image; what would be written. */
export function FirmwareStation({ quad }: StationProps) {
  const is = quad.board
  const want = quad.meant.sheet.firmware
  const rows: [string, string, string][] = [
    ['Target', is.target, want.target],
    ['Line', is.line, want.line],
    ['Version', is.version, want.version],
  ]
  return (
    <div className="stage" style={{ overflowY: 'auto' }}>
      <AsTable caption="Board and sheet" head={['', 'on the board', 'on the sheet']} rows={rows.map(([n, a, b]) => [n, a || 'not read', b])} />
      <svg
        viewBox="0 0 852 196"
        role="img"
        aria-label={rows.map(([n, a, b]) => `${n}: board ${a || 'unknown'}, sheet ${b}`).join('. ')}
        style={{ flex: 'none', height: 196 }}
      >
        <rect x="150" y="14" width="180" height="168" rx="10" fill="var(--panel)" stroke="var(--wire)" strokeWidth="2" />
        {[30, 60, 90, 120, 150].map((y) => (
          <g key={y} stroke="var(--faint)" strokeWidth="5">
            <path d={`M138 ${y + 6}h12M330 ${y + 6}h12`} />
          </g>
        ))}
        <text x="240" y="38" textAnchor="middle" fontSize="13.5" style={{ fill: 'var(--soft)' }}>
          on the board
        </text>
        <path d="M560 14h150l30 28v140H560z" fill="var(--panel)" stroke="var(--wire)" strokeWidth="2" />
        <path d="M710 14v28h30" fill="none" stroke="var(--wire)" strokeWidth="2" />
        <text x="640" y="38" textAnchor="middle" fontSize="13.5" style={{ fill: 'var(--soft)' }}>
          on the sheet
        </text>
        {rows.map(([name, a, b], i) => {
          const y = 78 + i * 40
          const same = a === b
          const tone = !a ? 'var(--faint)' : same ? 'var(--ok)' : 'var(--stop)'
          return (
            <g key={name}>
              <text x="240" y={y} textAnchor="middle" fontSize="19" fontWeight="600">
                {a || 'not read'}
              </text>
              <text x="650" y={y} textAnchor="middle" fontSize="19" fontWeight="600">
                {b}
              </text>
              <path
                d={same || !a ? `M346 ${y - 6}H554` : `M346 ${y - 6}h92m24 0h92M440 ${y - 16}l10 20m4 -20l10 20`}
                stroke={tone}
                strokeWidth="3"
                strokeDasharray={a ? undefined : '4 6'}
                fill="none"
              />
              <text x="450" y={y - 12} textAnchor="middle" fontSize="13.5" style={{ fill: tone }}>
                {name.toLowerCase()}
                {a ? (same ? ', the same' : ', not the same') : ''}
              </text>
            </g>
          )
        })}
      </svg>
      <Board quad={quad} />
      <div className="two">
        <Image quad={quad} />
        <Writes quad={quad} />
      </div>
      <Saved quad={quad} />
    </div>
  )
}

function Board({ quad }: Pick<StationProps, 'quad'>) {
  const identify = useAct(quad.id, () => acts.take(quad.id, 'readings.firmware.identity'))
  const save = useAct(quad.id, () => acts.take(quad.id, 'readings.firmware.backup'))
  const powered = useLive((s) => Boolean(s.live && s.live.board !== 'off'))
  const busy = identify.isPending || save.isPending
  return (
    <div className="bar">
      <button type="button" className="btn" disabled={!powered || busy} onClick={() => identify.mutate(undefined, { onError: tellError })}>
        {identify.isPending ? 'Asking the board…' : 'Identify and read back'}
      </button>
      <button type="button" className="btn" disabled={!powered || busy} onClick={() => save.mutate(undefined, { onError: tellError })}>
        {save.isPending ? 'Saving…' : 'Save what is on it'}
      </button>
      <span className="tone-soft">
        {powered
          ? quad.board.read
            ? `Last read back ${when(quad.board.at)}.`
            : 'Not read back yet.'
          : 'Give it power on the bench: USB, or the pack with the propellers off (b opens the bench).'}
      </span>
    </div>
  )
}

/** Saved settings lists, to be looked at and taken along: all of it, or what differs from the defaults. */
function Saved({ quad }: Pick<StationProps, 'quad'>) {
  const saved = useBackups(quad)
  const [shown, setShown] = useState<{ name: string; text: string } | null>(null)
  if (!saved.data?.length) return null
  return (
    <section aria-label="Saved settings">
      <h2 className="small">Saved from the board</h2>
      <table className="facts">
        <tbody>
          {saved.data.map((b) => (
            <tr key={b.at}>
              <td>{b.name}</td>
              {(['all', 'changed'] as const).map((k) => (
                <td key={k} style={{ textAlign: 'right' }}>
                  <button type="button" className="link" onClick={() => setShown({ name: `${b.name}, ${k === 'all' ? 'all' : 'changed only'}`, text: b[k] })}>
                    {k === 'all' ? 'All' : 'Changed only'}, {lines(b[k])}
                  </button>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {shown && (
        <div>
          <textarea readOnly aria-label={shown.name} rows={8} style={{ width: '100%' }} value={shown.text} />
          <a className="link" download={`${shown.name}.txt`} href={`data:text/plain;charset=utf-8,${encodeURIComponent(shown.text)}`}>
            Take this list along
          </a>{' '}
          <button type="button" className="link" onClick={() => setShown(null)}>
            Close
          </button>
        </div>
      )}
    </section>
  )
}

const lines = (text: string) => {
  const n = text.split('\n').filter(Boolean).length
  return n === 1 ? '1 setting' : `${n} settings`
}

function Image({ quad }: Pick<StationProps, 'quad'>) {
  const [text, setText] = useState('')
  const [seen, setSeen] = useState<Schemas['ImageView'] | null>(null)
  const [wrong, setWrong] = useState('')
  const flash = useAct(quad.id, () => acts.flash(quad.id, text))
  const step = useLive((s) => s.flash?.step ?? '')
  const percent = useLive((s) => s.flash?.percent ?? 0)
  const says = useLive((s) => s.flash?.says ?? '')
  const left = useLive((s) => Math.ceil(s.flash?.left ?? 0))
  const usb = useLive((s) => s.live?.usb ?? false)
  const boot = useLive((s) => s.live?.board === 'bootloader')
  const pick = async (f?: File) => {
    setSeen(null)
    setWrong('')
    if (!f) return
    if (f.size > 2_000_000) {
      setWrong(`${f.name} has ${(f.size / 1e6).toFixed(0)} MB; an image is at most 2 MB. Nothing was read.`)
      return
    }
    const t = await f.text()
    setText(t)
    try {
      setSeen(await checkImage(quad.id, t))
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e))
    }
  }
  return (
    <section aria-label="Firmware image">
      <h2 className="small">Image to flash</h2>
      <input
        type="file"
        accept=".hex,text/plain"
        style={{ width: '100%', marginBottom: 8 }}
        aria-label="Choose an Intel HEX image"
        onChange={(e) => void pick(e.target.files?.[0])}
      />
      {wrong && (
        <p role="alert" className="tone-stop">
          {wrong}
        </p>
      )}
      {seen && (
        <p>
          For <b>{seen.target}</b>, {seen.line} {seen.version}, {seen.bytes.toLocaleString('en-GB')} bytes, CRC-32 {seen.crc}.{' '}
          <b className={seen.fits ? 'tone-ok' : 'tone-stop'}>{seen.says}</b>
        </p>
      )}
      <div className="bar">
        <button type="button" className="btn" disabled={!seen?.fits || !usb || flash.isPending} onClick={() => flash.mutate(undefined, { onError: tellError })}>
          {boot ? 'Flash again' : 'Flash the board'}
        </button>
        <span className="tone-soft">{usb ? 'Props off. The saved settings stay.' : 'Plug USB in (b opens the bench).'}</span>
      </div>
      {step && (
        <div role="status">
          <progress max="100" value={percent} aria-label="Flash" style={{ width: '100%' }} /> {step}
          {left > 0 && step === 'writing' ? `, ${left} s left` : ''} <b className={step === 'failed' ? 'tone-stop' : ''}>{says}</b>
        </div>
      )}
      {boot && <p className="tone-fix">The board waits in its bootloader. Its saved settings are still there; choose the image and flash again.</p>}
    </section>
  )
}

function Writes({ quad }: Pick<StationProps, 'quad'>) {
  const write = useAct(quad.id, () => acts.write(quad.id))
  const list = useAct(quad.id, (text: string) => acts.list(quad.id, text))
  const [paste, setPaste] = useState(false)
  const [text, setText] = useState('')
  const changes = quad.board.changes
  return (
    <section aria-label="What must be written" style={{ minHeight: 0, overflowY: 'auto' }}>
      <h2 className="small">
        {changes.length === 0 ? 'The board holds the sheet' : `${changes.length} ${changes.length === 1 ? 'setting' : 'settings'} to write`}
      </h2>
      {changes.length > 0 && (
        <table className="facts">
          <tbody>
            {changes.map((c) => (
              <tr key={c.name}>
                <td>{c.name}</td>
                <td className="tone-soft">{c.before}</td>
                <td>
                  <b>{c.after}</b>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="bar">
        <button
          type="button"
          className="btn"
          disabled={changes.length === 0 || write.isPending}
          onClick={() => write.mutate(undefined, { onError: tellError })}
        >
          Write the sheet to the board
        </button>
        {changes.length > 0 && (
          <a
            className="link"
            download={`${quad.name}, to write.txt`}
            href={`data:text/plain;charset=utf-8,${encodeURIComponent(changes.map((c) => `${c.name} = ${c.after}\n`).join(''))}`}
          >
            Take the list along
          </a>
        )}
        <button type="button" className="link" onClick={() => setPaste(!paste)}>
          Paste a settings list
        </button>
      </div>
      {paste && (
        <div>
          <textarea
            aria-label="Settings list"
            rows={4}
            style={{ width: '100%' }}
            value={text}
            onChange={(e) => setText(e.target.value)}
            placeholder="name = value"
          />
          <button
            type="button"
            className="btn small"
            disabled={!text || list.isPending}
            onClick={() => list.mutate(text, { onSuccess: () => setPaste(false) })}
          >
            Take it as the read-back
          </button>
          {list.error && (
            <p role="alert" className="tone-stop">
              {list.error.message}
            </p>
          )}
        </div>
      )}
    </section>
  )
}
