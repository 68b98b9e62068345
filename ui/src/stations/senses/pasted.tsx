import { useState } from 'react'
import { Columns } from '../../kit/columns'
import { Disclosure } from '../../kit/disclosure'
import { remarks } from '../../kit/looks'
import type { Schemas } from '../../wire/client'

export type Pasted = { text: string; columns: string[] }
/** Bytes of a table that are read. */
const most = 2_000_000
export const nothingPasted: Pasted = { text: '', columns: [] }

/** A run that was recorded elsewhere, pasted as a table with one line of heads; what its columns are is guessed and can be said. */
export function PasteRun(props: { pasted: Pasted; onPaste: (p: Pasted) => void; table?: Schemas['TableRead']; heads: string; open?: boolean }) {
  const { pasted, onPaste, table, heads, open } = props
  const [wrong, setWrong] = useState('')
  const pick = async (file?: File) => {
    if (!file) return
    setWrong(file.size > most ? `${file.name} has over 2 MB. Nothing was read.` : '')
    if (file.size <= most) onPaste({ text: await file.text(), columns: [] })
  }
  return (
    <Disclosure words={open ? 'Bring a run that was recorded' : 'Or bring a run that was recorded'} open={open} className="mt-3">
      <input type="file" accept=".csv,.txt,text/csv,text/plain" aria-label="Choose a recorded run" onChange={(e) => void pick(e.target.files?.[0])} />
      {wrong && (
        <p role="alert" className="text-stop">
          {wrong}
        </p>
      )}
      <label className="grid text-[13px] text-soft">
        Or paste it: a table with one line of heads, {heads}
        <textarea
          className="mt-1 h-24 w-full max-w-150 rounded-md border border-line bg-panel p-1.5 font-mono text-[13px] text-ink"
          value={pasted.text}
          maxLength={most}
          onChange={(e) => onPaste({ text: e.target.value, columns: [] })}
        />
      </label>
      {table && pasted.text && (
        <>
          <Columns
            head={table.head}
            rows={table.rows}
            columns={table.columns}
            fields={table.fields}
            onColumns={(columns) => onPaste({ text: pasted.text, columns })}
          />
          {table.faults.length > 0 && (
            <ol className={remarks} aria-label="What cannot be read">
              {table.faults.map((f) => (
                <li key={f.place + f.says}>
                  <b>{f.place}</b> {f.says}
                </li>
              ))}
            </ol>
          )}
        </>
      )}
    </Disclosure>
  )
}
