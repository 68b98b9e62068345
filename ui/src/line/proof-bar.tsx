import type { Perch, QuadView } from '../wire/client'

const plain: Record<string, string> = {
  craft: 'layout and rotation',
  firstPower: 'first power',
  benchProof: 'bench proof',
  firstFlight: 'first flight',
}

const many = (n: number, one: string, more: string) => (n === 0 ? '' : `${n} ${n === 1 ? one : more}`)

/** What a station relies on, by subject, in words. */
function subjects(relies: string[]): string {
  const out = new Set<string>()
  for (const p of relies) {
    const [room, subject] = p.split('.')
    if (room === 'board') out.add('what the board holds')
    else if (room === 'pilot' || subject === 'thresholds') out.add('limits of judgement')
    else if (room === 'limits') out.add('local limits')
    else if (p.startsWith('parts.board')) out.add('board type')
    else if (subject) out.add(plain[subject] ?? subject.replace(/([A-Z])/g, ' $1').toLowerCase())
  }
  return [...out].join(', ')
}

export function ProofBar(props: {
  quad: QuadView
  perch: Perch
  busy: boolean
  onNext: () => void
  onSign: () => void
  onUndo: () => void
  onRedo: () => void
}) {
  const { perch: p, quad } = props
  const open = p.asks.length
  const signed = p.state === 'proven'
  return (
    <section className="proof" aria-label="Proof">
      <span>
        {open === 0 ? '●' : '○'} {open === 0 ? 'All readings taken' : `${open} ${open === 1 ? 'reading' : 'readings'} short`}
      </span>
      <span>
        {p.stops + p.fixes === 0 ? '●' : '■'}{' '}
        {p.stops + p.fixes === 0 ? 'nothing against it' : `${[many(p.stops, 'stop', 'stops'), many(p.fixes, 'fix', 'fixes')].filter(Boolean).join(', ')} open`}
        {p.accepted > 0 && `, ${p.accepted} accepted`}
      </span>
      <span className="relies" title={p.relies.join('\n')}>
        Relies on {subjects(p.relies)}
      </span>
      {quad.draft.undo && (
        <button type="button" className="btn small clip" onClick={props.onUndo} title={quad.draft.undo}>
          Undo: {quad.draft.undo}
        </button>
      )}
      {quad.draft.redo && (
        <button type="button" className="btn small clip" onClick={props.onRedo} title={quad.draft.redo}>
          Redo: {quad.draft.redo}
        </button>
      )}
      {signed && p.signedAt && (
        <span className="tone-ok">
          Signed by {p.signedBy}, {when(p.signedAt)}
        </span>
      )}
      {quad.next.length > 0 && (
        <button type="button" className="btn small" onClick={props.onNext} title="What to do next (n)">
          {quad.next.length} to do
        </button>
      )}
      <button type="button" className="btn main" disabled={!p.maySign || props.busy} onClick={props.onSign}>
        {signed ? 'Proven' : p.state === 'stale' ? 'Sign again' : 'Sign this proof'}
      </button>
    </section>
  )
}

export function when(iso: string): string {
  const d = new Date(iso)
  const today = new Date().toDateString() === d.toDateString()
  return today ? d.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }) : d.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })
}
