import { type ReactNode, useState } from 'react'
import { useCommands } from './commands'

type Props = { caption: string; head: string[]; rows: ReactNode[][]; keyless?: boolean }

/** The table behind a drawing or a plot: the same facts in words and figures, for who reads better than he looks. */
export function AsTable({ caption, head, rows, keyless }: Props) {
  const [open, setOpen] = useState(false)
  useCommands(
    keyless ? [] : [{ words: open ? 'Show the drawing again' : 'Show the drawing as a table', key: 'v', place: 'On the line', run: () => setOpen(!open) }],
  )
  return (
    <div className="as-table">
      <button type="button" className="link" aria-expanded={open} onClick={() => setOpen(!open)} title={keyless ? undefined : 'Drawing or table (v)'}>
        {open ? 'Drawing' : 'As a table'}
      </button>
      {open && (
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by the keyboard
        <section className="behind" aria-label={caption} tabIndex={0}>
          <table className="facts">
            <caption>{caption}</caption>
            <thead>
              <tr>
                {head.map((h) => (
                  <th key={h} scope="col">
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((r, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: rows stand in their order
                <tr key={i}>
                  {r.map((c, j) =>
                    j === 0 ? (
                      // biome-ignore lint/suspicious/noArrayIndexKey: columns stand in their order
                      <th key={j} scope="row">
                        {c}
                      </th>
                    ) : (
                      // biome-ignore lint/suspicious/noArrayIndexKey: columns stand in their order
                      <td key={j}>{c}</td>
                    ),
                  )}
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
    </div>
  )
}
