import { Select } from './select'
import { Facts } from './table'

type Field = { key: string; label: string; unit: string; needed: boolean }

/** The first rows of a table that was brought in, with what each of its columns is above it: guessed, said, and remembered by the heads. */
export function Columns(props: { head: string[]; rows: string[][]; columns: string[]; fields: Field[]; onColumns: (columns: string[]) => void }) {
  const { head, rows, columns, fields, onColumns } = props
  const choose = (column: number, key: string) => onColumns(head.map((_, i) => (i === column ? key : (columns[i] ?? ''))))
  return (
    <section aria-label="What the columns are" className="overflow-x-auto">
      <Facts className="w-auto [&_td]:max-w-60 [&_td]:truncate [&_th]:align-bottom">
        <thead>
          <tr>
            {head.map((h, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: two columns may have the same head
              <th key={i} scope="col">
                <span className="block truncate">{h || 'no head'}</span>
                <Select
                  label={`Column ${h || i + 1}`}
                  className="mt-1 w-44 font-normal"
                  empty="of no interest"
                  value={columns[i] ?? ''}
                  onChoose={(key) => choose(i, key)}
                  options={[
                    { value: '', words: 'of no interest' },
                    ...fields.map((f) => ({
                      value: f.key,
                      words: f.label + (f.unit && f.unit !== '1' && f.unit !== 'count' ? `, ${f.unit}` : ''),
                      off: columns[i] !== f.key && columns.includes(f.key),
                    })),
                  ]}
                />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: rows have no names
            <tr key={n}>
              {head.map((_, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: nor have cells
                <td key={i}>{row[i] || <span className="text-faint">not told</span>}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </Facts>
    </section>
  )
}
