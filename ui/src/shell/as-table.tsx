import { type ReactNode, useState } from 'react'
import { TextButton } from '../kit/button'
import { join } from '../kit/join'
import { Facts } from '../kit/table'
import { useCommands } from './commands'

type Props = {
  caption: string
  head: string[]
  rows: ReactNode[][]
  keyless?: boolean
  /** On a page that scrolls it opens below; else over the drawing. */
  below?: boolean
  /** The drawing is too wide to be read on a phone: there the table stands in its place, until it is asked for. */
  wide?: boolean
}

const onPhone = () => window.matchMedia('(max-width: 760px)').matches

/** The table behind a drawing or a plot: the same facts in words and figures, for who reads better than he looks. */
export function AsTable({ caption, head, rows, keyless, below, wide }: Props) {
  const [open, setOpen] = useState(() => Boolean(wide) && onPhone())
  useCommands(
    keyless ? [] : [{ words: open ? 'Show the drawing again' : 'Show the drawing as a table', key: 'v', place: 'On the line', run: () => setOpen(!open) }],
  )
  return (
    <div className="[&_caption]:pt-2 [&_caption]:pb-1 [&_caption]:text-left [&_caption]:text-soft">
      <TextButton
        className={below ? undefined : 'absolute top-5 right-6 phone:right-3.5'}
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        title={keyless ? undefined : 'Drawing or table (v)'}
      >
        {open ? 'Drawing' : 'As a table'}
      </TextButton>
      {open && (
        <section
          data-behind
          data-instead={wide || undefined}
          aria-label={caption}
          className={
            below
              ? 'max-h-85 overflow-auto'
              : join(
                  'absolute inset-[58px_24px_10px] z-4 overflow-auto rounded-lg border border-line bg-panel px-4.5 pt-1.5 pb-3',
                  wide && 'phone:static phone:overflow-visible',
                )
          }
          // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls must be reached by the keyboard
          tabIndex={0}
        >
          <Rows caption={caption} head={head} rows={rows} />
        </section>
      )}
    </div>
  )
}

/** Rows under their heads; the first of each row names it. */
export function Rows({ caption, head, rows, className }: Pick<Props, 'head' | 'rows'> & { caption?: string; className?: string }) {
  return (
    <Facts className={className}>
      {caption && <caption>{caption}</caption>}
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
    </Facts>
  )
}
