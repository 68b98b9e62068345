import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../kit/button'
import { Dialog } from '../../kit/dialog'
import { Choices, Choice as One } from '../../kit/radio'
import { Facts } from '../../kit/table'
import { showError } from '../../shell/message'
import { acts, keep, type QuadView, type Schemas } from '../../wire/client'
import { asNamed } from '../../wire/path'
import { words } from './typed'

/** What both windows did, place by place. */
export type Conflict = { id: number; what: string; rows: Schemas['Disagreement'][] }

/** Where both went apart, and which of the two shall stand. */
export function Choice({ conflict: c, quad, onClose }: { conflict: Conflict; quad: QuadView; onClose: () => void }) {
  const queries = useQueryClient()
  // What was wanted here stands chosen; what only they changed stays theirs.
  const [mine, setMine] = useState<Record<string, boolean>>(() => Object.fromEntries(c.rows.map((r) => [r.path, Boolean(r.mine)])))
  const put = c.rows.filter((r) => mine[r.path]).map((r) => ({ path: asNamed(r.path), value: r.mine ? r.put : r.back }))
  const done = () => {
    if (put.length === 0) return onClose()
    acts
      .edit(c.id, quad.version, put)
      .then((view) => {
        keep(queries, c.id, view)
        onClose()
      })
      .catch((e: Error) => {
        onClose()
        showError(e)
      })
  }
  return (
    <Dialog title={`${quad.name} was changed in another window`} className="w-[min(860px,calc(100vw-24px))]" onClose={onClose}>
      <p className="text-soft">
        {c.what} was not made, so that nothing is written over.{' '}
        {c.rows.length === 0 ? 'What is meant is as you saw it; look at the readings and findings again.' : 'Choose place by place what shall stand.'}
      </p>
      {c.rows.length > 0 && (
        <Facts>
          <thead>
            <tr>
              <th scope="col">place</th>
              <th scope="col">you saw</th>
              <th scope="col">the other window</th>
              <th scope="col">here</th>
            </tr>
          </thead>
          <tbody>
            {c.rows.map((r) => (
              <tr key={r.path}>
                <th scope="row">{r.label}</th>
                <td>{words(r.seen)}</td>
                <td colSpan={2}>
                  <Choices
                    label={r.label}
                    value={mine[r.path] ? 'mine' : 'theirs'}
                    onChoose={(v) => setMine({ ...mine, [r.path]: v === 'mine' })}
                    className="grid grid-cols-2 gap-x-3"
                  >
                    <One value="theirs" label={`${r.label}: ${words(r.theirs)}, as the other window has it`}>
                      {words(r.theirs)}
                    </One>
                    <One value="mine" label={`${r.label}: ${words(r.mine || r.seen)}, ${r.mine ? 'as you wanted it' : 'as you saw it'}`}>
                      {r.mine ? words(r.mine) : 'back to what you saw'}
                    </One>
                  </Choices>
                </td>
              </tr>
            ))}
          </tbody>
        </Facts>
      )}
      <div className="flex flex-wrap items-center gap-2.5" style={{ marginTop: 14 }}>
        <Button main onClick={done}>
          {put.length === 0 ? 'Leave it as it stands' : `Put ${put.length === 1 ? 'this one' : `these ${put.length}`}`}
        </Button>
      </div>
    </Dialog>
  )
}
