import { useEffect, useRef } from 'react'
import { type Command, useStanding } from './commands'

/** Keys that belong to a control and not to the registry: they work while it has focus. */
const held: [string, string][] = [['Space', 'Hold to spin or arm, while its control has focus']]

/** The list of keys that work here and now, from the registry. */
export function KeyList({ onClose }: { onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null)
  useEffect(() => {
    dialog.current?.showModal()
  }, [])
  const standing = useStanding()
  const places = new Map<string, Command[]>()
  for (const c of standing) if (c.key && !c.aside) places.set(c.place, [...(places.get(c.place) ?? []), c])
  return (
    <dialog ref={dialog} className="keys" aria-labelledby="keys-title" onClose={onClose}>
      <h2 id="keys-title">Keys</h2>
      <table className="facts">
        <tbody>
          {[...places].map(([place, list]) => (
            <Group key={place} place={place} rows={list.map((c) => [c.shown ?? c.key ?? '', c.words])} />
          ))}
          <Group place="At a control" rows={held} />
        </tbody>
      </table>
      <form method="dialog" className="bar">
        <button type="submit" className="btn">
          Close
        </button>
      </form>
    </dialog>
  )
}

function Group({ place, rows }: { place: string; rows: [string, string][] }) {
  return (
    <>
      <tr>
        <th colSpan={2} scope="rowgroup">
          {place}
        </th>
      </tr>
      {rows.map(([key, words]) => (
        <tr key={key}>
          <td>
            <kbd>{key}</kbd>
          </td>
          <td>{words}</td>
        </tr>
      ))}
    </>
  )
}
