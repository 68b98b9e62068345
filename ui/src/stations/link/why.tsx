import { useOwnBench } from '../../places/bench/whose'
import { Inquiry } from '../../places/inquiry/inquiry'
import { links, type QuadView, type Schemas } from '../../wire/client'
import { Strip } from './light'

/** Why it will not bind. */
export function Why({ quad, view }: { quad: QuadView; view: Schemas['LinkView'] }) {
  const connected = useOwnBench((s) => s.status?.connected ?? false)
  const { gear } = view
  if (!gear) return <p>{view.says}</p>
  return (
    <Inquiry
      title="Why will it not bind?"
      name={['why', quad.id, quad.seen]}
      ask={(given) => links.why(quad.id, given)}
      look={{ can: connected, at: (question) => links.look(quad.id, question) }}
      art={(question, answer) => question === 'light' && <Strip beats={gear.lights.find((l) => l.state === answer)?.blink ?? []} />}
    />
  )
}
