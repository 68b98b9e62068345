import type { ComponentProps } from 'react'
import { Button, textLook } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { Facts } from '../../kit/table'
import { showError } from '../../shell/message'
import { acts, type Schemas, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'

/** What must be written so that the board matches your settings, raw. */
export function Writes({ quad }: { quad: QuadAt<'firmware'> }) {
  const write = useAct(quad.id, () => acts.write(quad.id))
  const changes = quad.board.changes
  return (
    <section aria-label="What must be written">
      <div className="flex flex-wrap items-center gap-2.5 justify-between">
        <Subhead>
          {!quad.board.read
            ? 'Read the board first, or bring its list in'
            : changes.length === 0
              ? 'The board matches your settings'
              : `${changes.length} ${changes.length === 1 ? 'setting' : 'settings'} to write`}
        </Subhead>
        <div className="flex flex-wrap items-center gap-2.5">
          {quad.board.commands && (
            <a className={textLook} download={`${quad.name}, to write.txt`} href={`data:text/plain;charset=utf-8,${encodeURIComponent(quad.board.commands)}`}>
              Download what to type
            </a>
          )}
          {quad.board.whole && (
            <a className={textLook} download href={`/api/quads/${quad.id}/list/whole`}>
              Download the whole list, changed
            </a>
          )}
          <Button main disabled={changes.length === 0 || write.isPending} onClick={() => write.mutate(undefined, { onError: showError })}>
            {write.isPending ? 'Writing, reading back…' : 'Write your settings to the board'}
          </Button>
        </div>
      </div>
      {quad.board.hinders && (
        <p role="alert" className="text-stop">
          {quad.board.hinders}
        </p>
      )}
      {changes.length > 0 && <Differing changes={changes} />}
      <p className="text-soft" style={{ marginTop: 8 }}>
        What is on the board is saved before. Then each is written, all are read back and compared, raw.
      </p>
    </section>
  )
}

/** Raw settings that the board holds otherwise than they are meant. */
export function Differing({ changes, ...table }: { changes: Schemas['WriteView'][] } & ComponentProps<typeof Facts>) {
  return (
    <Facts {...table}>
      <thead>
        <tr>
          <th scope="col">Setting</th>
          <th scope="col">On the board</th>
          <th scope="col">Your settings</th>
        </tr>
      </thead>
      <tbody>
        {changes.map((c) => (
          <tr key={c.name}>
            <th scope="row">{c.name}</th>
            <td className="text-soft">{c.before || 'nothing'}</td>
            <td>
              <b>{c.after}</b>
            </td>
          </tr>
        ))}
      </tbody>
    </Facts>
  )
}
