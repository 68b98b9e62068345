import { useState } from 'react'
import { Link } from 'react-router'
import { Button } from '../../kit/button'
import { steps } from '../../kit/looks'
import { onConflict } from '../../places/line/conflict'
import { acts, links, type QuadView, type Schemas, useAct, useFleet } from '../../wire/client'

/** Every radio module and who flies with it, as masts with their quads; what clashes; and how to bring a module to another version. */
export function Fleet({ quad, view }: { quad: QuadView; view?: Schemas['LinkView'] }) {
  const fleet = useFleet(quad.seen)
  const take = useAct(quad.id, (number: number) => acts.edit(quad.id, quad.version, [{ path: 'radio.number', value: number }]))
  if (fleet.isPending) return <p aria-busy="true">Looking at your quads…</p>
  if (!fleet.data) return <p role="alert">{fleet.error?.message}</p>
  return (
    <div className="[&_h2]:text-[19px]">
      {view && view.same.length > 0 && (
        <p className="text-stop">
          Number {view.number} is also that of {view.same.join(', ')}.{' '}
          {view.free > 0 && (
            <Button small onClick={() => take.mutate(view.free, { onError: onConflict(quad, 'The number', []) })}>
              Take number {view.free}
            </Button>
          )}
        </p>
      )}
      {fleet.data.modules.map((m) => (
        <Mast key={`${m.name} ${m.link} ${m.external}`} module={m} here={quad.id} />
      ))}
      {fleet.data.without.length > 0 && <p className="text-soft">Without a link: {fleet.data.without.join(', ')}.</p>}
    </div>
  )
}

function Mast({ module: m, here }: { module: Schemas['ModuleView']; here: number }) {
  const [to, setTo] = useState('')
  const [plan, setPlan] = useState<Schemas['UpdatePlan'] | null>(null)
  const [wrong, setWrong] = useState('')
  const ask = async (e: React.FormEvent) => {
    e.preventDefault()
    setWrong('')
    setPlan(null)
    try {
      setPlan(await links.plan({ name: m.name, link: m.link, external: m.external, to }))
    } catch (x) {
      setWrong(x instanceof Error ? x.message : String(x))
    }
  }
  const clash = (n: number) => m.clashes.some((c) => c.number === n)
  return (
    <section
      aria-label={m.name || 'A module without a name'}
      className="border-l-4 border-wire pb-3.5 pl-4 [&_li]:flex [&_li]:items-center [&_li]:gap-3.5 [&_li]:py-0.75 [&_li[data-here=true]_a]:font-semibold"
    >
      <h2>
        {m.name || 'Module without a name'}{' '}
        <span className="text-soft">
          {m.link} {m.version}
          {m.external ? ', in the bay' : ''}
        </span>
      </h2>
      {m.differ && <p className="text-fix">The quads do not agree on its version: one of them was not told.</p>}
      <ul>
        {m.members.map((q) => (
          <li key={q.id} data-here={q.id === here}>
            <svg width="34" height="20" viewBox="0 0 34 20" aria-hidden="true">
              <path
                d={q.hears ? 'M2 10H32' : 'M2 10h10M22 10h10M14 5l6 10M20 5l-6 10'}
                stroke={q.hears ? 'var(--ok)' : 'var(--stop)'}
                strokeWidth="2.5"
                fill="none"
              />
            </svg>
            <Link to={`/quads/${q.id}/link?at=fleet`}>{q.name}</Link>
            <span>{q.version || 'version not told'}</span>
            {m.numbers > 0 && <span className={clash(q.number) ? 'text-stop' : ''}>{q.number ? `number ${q.number}` : 'no number'}</span>}
            <span className={q.hears ? 'text-ok' : 'text-stop'}>{q.hears ? 'hears it' : 'does not hear it'}</span>
          </li>
        ))}
      </ul>
      {m.clashes.map((c) => (
        <p key={c.number} className="text-stop">
          {c.quads.join(' and ')} have number {c.number}: whichever model is chosen, all of them obey.
        </p>
      ))}
      <form className="flex flex-wrap items-center gap-2.5" onSubmit={(e) => void ask(e)}>
        <label>
          If the module went to <input size={8} maxLength={20} value={to} placeholder="7.0.0" onChange={(e) => setTo(e.target.value)} />
        </label>
        <Button type="submit" small disabled={!to.trim()}>
          Which receivers are affected?
        </Button>
        <span className="text-soft">{m.update}</span>
      </form>
      {wrong && (
        <p role="alert" className="text-stop">
          {wrong}
        </p>
      )}
      {plan && <Plan plan={plan} />}
    </section>
  )
}

function Plan({ plan }: { plan: Schemas['UpdatePlan'] }) {
  return (
    <div aria-live="polite">
      <p className={plan.orphans.length ? 'text-stop' : 'text-ok'}>
        {plan.orphans.length
          ? `The module alone would orphan ${plan.orphans.join(', ')}: on another major version they no longer hear it.`
          : 'Nobody would be orphaned.'}
      </p>
      <ol className={steps}>
        {plan.moves.map((s, i) => (
          <li key={s.words}>
            <span aria-hidden="true">{i + 1}</span>
            <span>{s.words}</span>
            <span className="text-soft">{s.deaf.length ? `Deaf until their turn: ${s.deaf.join(', ')}.` : 'Everybody hears it.'}</span>
          </li>
        ))}
      </ol>
    </div>
  )
}
