import { buttonLook } from '../kit/button'
import { Dialog, DialogClose } from '../kit/dialog'
import { join } from '../kit/join'
import { Facts } from '../kit/table'
import { type Command, useStanding } from './commands'

/** Keys that belong to a control and not to the registry: they work while it has focus. */
const held: [string, string][] = [['Space', 'Hold to spin or arm, while its control has focus']]

/** The list of keys that work here and now, from the registry. */
export function KeyList({ onClose }: { onClose: () => void }) {
  const standing = useStanding()
  const places = new Map<string, Command[]>()
  for (const c of standing) if (c.key && !c.aside) places.set(c.place, [...(places.get(c.place) ?? []), c])
  return (
    <Dialog title="Keys" onClose={onClose}>
      <Facts>
        <tbody>
          {[...places].map(([place, list]) => (
            <Group key={place} place={place} rows={list.map((c) => [c.shown ?? c.key ?? '', c.words])} />
          ))}
          <Group place="At a control" rows={held} />
        </tbody>
      </Facts>
      <DialogClose className={join(buttonLook(), 'mt-3')}>Close</DialogClose>
    </Dialog>
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
