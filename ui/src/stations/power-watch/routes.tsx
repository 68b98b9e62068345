import { Button } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { ways } from '../../kit/looks'
import { useOwn } from '../../places/bench/whose'
import { showError } from '../../shell/message'
import { acts, useAct } from '../../wire/client'
import type { QuadAt } from '../../wire/figures'
import { useLive } from '../../wire/live'
import type { Path } from '../../wire/path'
import type { StationProps } from '../props'

const names = { telemetry: 'Telemetry', display: 'Display', sounder: 'Sounder' } as const

/** Three routes by which an alarm comes; one of them is proven by hearing or seeing it. */
export function Routes({ quad, perch }: StationProps<QuadAt<'power-watch'>>) {
  const v = quad.watch
  const own = useOwn()
  const pack = useLive((s) => own && Boolean(s.live?.pack))
  const beeping = useLive((s) => own && Boolean(s.live?.beeping))
  const hear = useAct(quad.id, () => acts.take(quad.id, 'readings.watch.heard' as Path))
  const told = useAct(quad.id, (route: string) =>
    acts.typeAll(quad.id, [
      { path: 'readings.watch.heard' as Path, value: true },
      { path: 'readings.watch.route' as Path, value: route },
    ]),
  )
  const heard = perch.readings.find((r) => r.path === 'readings.watch.heard')
  return (
    <section aria-label="Routes of the alarm">
      <Subhead>By one of these you hear of it; prove it: raise the threshold above the present voltage, hear it, put it back</Subhead>
      <ul className="grid grid-cols-3 gap-4 text-[14px] phone:grid-cols-1">
        {v.routes.map((r) => (
          <li key={r.route} className="border-t border-line pt-1.5">
            <b className={r.proven ? 'text-ok' : r.there ? undefined : 'text-faint'}>
              {names[r.route]}
              {r.proven ? ', proven' : r.there ? '' : ', not there'}
            </b>
            <p className="text-soft">{r.words}</p>
            {r.there && (
              <div className={ways}>
                {r.route === 'sounder' && own && (
                  <Button small main={!heard} disabled={!pack || hear.isPending} onClick={() => hear.mutate(undefined, { onError: showError })}>
                    Raise it, hear it, put it back
                  </Button>
                )}
                {(r.route !== 'sounder' || !own) && !r.proven && (
                  <Button small disabled={told.isPending} onClick={() => told.mutate(r.route, { onError: showError })}>
                    {r.route === 'display' ? 'I saw it there' : 'I heard it there'}
                  </Button>
                )}
              </div>
            )}
          </li>
        ))}
      </ul>
      <p role="status" className="text-[14px] text-soft">
        {beeping ? 'It beeps now.' : own && !pack ? 'The pack is out: a sounder is heard with it in.' : ''}
      </p>
    </section>
  )
}
