import { Link } from 'react-router'
import { ink } from '../../kit/tones'
import { weightSign } from '../../shell/birds'
import { Drawer } from '../../shell/drawer'
import type { QuadView, Schemas } from '../../wire/client'

export type Todo = Schemas['Todo']

const kindWord: Record<Todo['kind'], string> = { stop: 'Stop', prove: 'Prove again', fix: 'Fix', reading: 'Needs measuring', sign: 'Sign' }
const toneOf: Record<Todo['kind'], string> = { stop: ink.stop, prove: ink.note, fix: ink.fix, reading: ink.soft, sign: ink.act }

/** What is to be done, in the order to do it in; each leads to its station. */
export function Todos({ id, list, names }: { id: number; list: Todo[]; names: (station: string) => string }) {
  return (
    <ol
      className="grid gap-0.5 [&_li]:grid [&_li]:grid-cols-[124px_minmax(0,1fr)] [&_li]:gap-x-2.5 [&_li]:py-0.75 [&_a:hover]:underline [&_a:hover]:decoration-act [&_b]:flex [&_b]:items-center [&_b]:gap-1.5 [&_b]:self-start [&_b]:text-[13.5px] [&_b]:leading-[21px]"
      aria-label="What to do next"
    >
      {list.map((t, i) => (
        <li key={`${t.station} ${t.kind} ${t.words}`}>
          {t.station !== list[i - 1]?.station && (
            <span className="col-span-full border-t border-line pt-1.25 font-head text-[15px]/[normal] font-semibold [li:first-child>&]:border-t-0">
              {names(t.station)}
            </span>
          )}
          <b className={toneOf[t.kind]}>
            {(t.kind === 'stop' || t.kind === 'fix') && (
              <svg width="13" height="13" viewBox="0 0 13 13" aria-hidden="true">
                {weightSign[t.kind]}
              </svg>
            )}
            {kindWord[t.kind]}
          </b>
          <Link to={`/quads/${id}/${t.station}`}>{t.words}</Link>
        </li>
      ))}
    </ol>
  )
}

/** The list over the workbench: everything that stands between this quad and a release. */
export function NextList({ quad, onClose }: { quad: QuadView; onClose: () => void }) {
  const names = (s: string) => quad.line.find((p) => p.id === s)?.name ?? s
  return (
    <Drawer label="Next" title={quad.next.length === 0 ? 'Nothing is left to do' : `${quad.next.length} to do, in this order`} onClose={onClose}>
      <Todos id={quad.id} list={quad.next} names={names} />
    </Drawer>
  )
}
