import { Link } from 'react-router'
import { Bird } from '../shell/birds'
import { type Schemas, useHangar } from '../wire/client'

/** The quads, each on its own small wire: what state it is in and what to do next. */
export function Hangar() {
  const hangar = useHangar()
  document.title = 'Hangar · Vivid Perch'
  if (hangar.isPending)
    return (
      <main className="plain" aria-busy="true">
        Opening the hangar…
      </main>
    )
  if (!hangar.data) {
    return (
      <main className="plain">
        <h1>The hangar cannot be opened</h1>
        <p>{hangar.error?.message}</p>
        <button type="button" className="btn" onClick={() => hangar.refetch()}>
          Try again
        </button>
      </main>
    )
  }
  return (
    <main className="plain">
      <h1>Hangar</h1>
      {hangar.data.length === 0 && <p>No quad is here yet. Start the program with its demo world, or make one from a sheet.</p>}
      {hangar.data.map((q) => (
        <Row key={q.id} q={q} />
      ))}
    </main>
  )
}

const tones = { released: 'tone-ok', grounded: 'tone-stop', working: 'tone-soft' }
const words = { released: 'Released', grounded: 'Grounded', working: 'On the line' }

function Row({ q }: { q: Schemas['HangarView'] }) {
  return (
    <article
      style={{
        borderTop: '1px solid var(--line)',
        padding: '16px 0 12px',
        display: 'grid',
        gridTemplateColumns: '250px 1fr 320px',
        gap: 26,
        alignItems: 'center',
      }}
      aria-label={q.name}
    >
      <div>
        <h2 style={{ fontSize: 22 }}>
          <Link to={`/quads/${q.id}/${q.next || 'airframe'}`}>{q.name}</Link>
        </h2>
        <p className="tone-soft">{q.words}</p>
      </div>
      <svg viewBox="0 0 640 96" width="100%" role="img" aria-label={q.perches.map((p) => `${p.name}: ${p.word}`).join(', ')}>
        <path d="M0 48Q320 66 640 48" fill="none" stroke="var(--wire)" strokeWidth="2" />
        {q.perches.map((p, i) => {
          const t = (i + 0.5) / 14
          return (
            <g key={p.station} transform={`translate(${t * 640} ${48 + 36 * t * (1 - t)})`}>
              <title>{`${p.name}: ${p.word}`}</title>
              <Bird state={p.state} />
            </g>
          )
        })}
      </svg>
      <div>
        <b className={tones[q.state]}>{words[q.state]}</b>
        <span className="tone-soft">
          {' '}
          {q.says}. {q.flights === 0 ? 'Not flown yet' : q.flights === 1 ? '1 flight' : `${q.flights} flights`}.
        </span>
        {q.next && (
          <p>
            Next,{' '}
            <Link className="link" to={`/quads/${q.id}/${q.next}`}>
              {q.perches.find((p) => p.station === q.next)?.name}
            </Link>
            : {q.do.charAt(0).toLowerCase() + q.do.slice(1)}.
          </p>
        )}
      </div>
    </article>
  )
}
