import { Button } from '../../kit/button'
import type { Perch, QuadView } from '../../wire/client'
import { Withdraw } from './withdraw'

const many = (n: number, one: string, more: string) => (n === 0 ? '' : `${n} ${n === 1 ? one : more}`)

export function ProofBar(props: {
  quad: QuadView
  perch: Perch
  busy: boolean
  onNext: () => void
  onSign: () => void
  /** The station that is open after this one, and how to sign and go there. */
  next?: Perch
  onSignAndGo: () => void
  /** What was taken back a moment ago. */
  tookBack: string
  /** Whether taking the last act back is offered; the key does it anyway. */
  offersBack: boolean
  onTakeBack: () => void
  onRedo: () => void
}) {
  const { perch: p, quad } = props
  const open = p.asks.length
  const signed = p.state === 'proven'
  return (
    <section
      className="flex min-w-0 items-center gap-4.5 border-t border-line bg-panel px-6 text-soft print:hidden phone:flex-wrap phone:gap-x-3.5 phone:gap-y-2 phone:px-3.5 phone:py-3 [&>*]:flex-none"
      aria-label="Proof"
    >
      <span>
        {open === 0 ? '●' : '○'} {open === 0 ? 'all checks done' : `${open} ${open === 1 ? 'check' : 'checks'} missing`}
      </span>
      <span>
        {p.stops + p.fixes === 0 ? '●' : '■'}{' '}
        {p.stops + p.fixes === 0 ? 'no problems' : `${[many(p.stops, 'stop', 'stops'), many(p.fixes, 'fix', 'fixes')].filter(Boolean).join(', ')} open`}
        {p.accepted > 0 && `, ${p.accepted} accepted`}
      </span>
      <span className="min-w-0 flex-[1_1_0]! truncate phone:flex-[1_1_100%]! phone:whitespace-normal" title={p.subjects.join(', ')}>
        Check again if these change: {p.subjects.join(', ')}
      </span>
      <span role="status" className={props.tookBack ? 'max-w-75 flex-[0_1_auto]! truncate' : 'sr-only'} title={props.tookBack}>
        {props.tookBack && `Taken back: ${props.tookBack}`}
      </span>
      {props.offersBack && quad.back.fresh && quad.back.words && !quad.back.against && (
        <Button small className="max-w-60 min-w-0 flex-[0_1_auto]! overflow-hidden text-ellipsis" onClick={props.onTakeBack} title={`${quad.back.words} (u)`}>
          Undo: {quad.back.words}
        </Button>
      )}
      {quad.draft.redo && (
        <Button small className="max-w-75 min-w-0 flex-[0_1_auto]! overflow-hidden text-ellipsis" onClick={props.onRedo} title={quad.draft.redo}>
          Redo: {quad.draft.redo}
        </Button>
      )}
      {signed && p.signedAt && (
        <span className="text-ok">
          Signed by {p.signedBy}, {when(p.signedAt)} <Withdraw quad={quad} kind="signature" name={p.id} what={`the signature at ${p.name}`} />
        </span>
      )}
      {quad.next.length > 0 && (
        <Button small onClick={props.onNext} title="What to do next (n)">
          {quad.next.length} to do
        </Button>
      )}
      {p.maySign && !signed && props.next && (
        <Button disabled={props.busy} onClick={props.onSignAndGo} title={`Sign this proof and go on to ${props.next.name} (g)`}>
          Sign, on to {props.next.name}
        </Button>
      )}
      <Button main disabled={!p.maySign || props.busy} onClick={props.onSign}>
        {signed ? 'Proven' : p.state === 'stale' ? 'Sign again' : 'Sign this proof'}
      </Button>
    </section>
  )
}

export function when(iso: string): string {
  const d = new Date(iso)
  const today = new Date().toDateString() === d.toDateString()
  return today ? d.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }) : d.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })
}
