import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useOwnBench } from '../bench/whose'
import { tellError } from '../shell/say'
import { links, type QuadView, type Schemas } from '../wire/client'
import { Strip } from './light'

type Asked = { id: string; question: string; answer: string; words: string; says: string }

/** Why it will not bind: one look at a time, the one that leaves the fewest reasons, until one is left. */
export function Why({ quad, view }: { quad: QuadView; view: Schemas['LinkView'] }) {
  const [asked, setAsked] = useState<Asked[]>([])
  const [looking, setLooking] = useState(false)
  const connected = useOwnBench((s) => s.status?.connected ?? false)
  const given = Object.fromEntries(asked.map((a) => [a.id, a.answer]))
  const inquiry = useQuery({
    queryKey: ['why', quad.id, quad.seen, given],
    queryFn: () => links.why(quad.id, given),
    placeholderData: (before) => before,
    retry: false,
    enabled: Boolean(view.gear),
  })
  if (!view.gear) return <p>{view.says}</p>
  const v = inquiry.data
  const next = v?.next
  const old = inquiry.isPlaceholderData // the question of before: the next one is under way
  const answer = (id: string, words: string, says: string) => next && setAsked([...asked, { id: next.id, question: next.words, answer: id, words, says }])
  const look = async () => {
    if (!next) return
    setLooking(true)
    try {
      const seen = await links.look(quad.id, next.id)
      answer(seen.answer, next.answers.find((a) => a.id === seen.answer)?.words ?? 'cannot tell', seen.says)
    } catch (e) {
      tellError(e)
    } finally {
      setLooking(false)
    }
  }
  const back = (i: number) => setAsked(asked.slice(0, i))
  return (
    <div className="two wide-left">
      <section aria-label="Why will it not bind?">
        {v && (
          <p className="reasons">
            <Tally left={v.causes.length} of={v.of} />
            <span>
              <b>{v.causes.length}</b> of {v.of} known reasons fit {asked.length ? 'what you have seen' : 'so far'}
            </span>
          </p>
        )}
        {inquiry.error && (
          <p role="alert" className="tone-fix">
            {inquiry.error.message}{' '}
            <button type="button" className="btn small" onClick={() => back(asked.length - 1)}>
              Take the last answer back
            </button>
          </p>
        )}
        {!inquiry.error && next && (
          <div className="question" aria-live="polite">
            <h2>{next.words}</h2>
            <p className="tone-soft">{next.how}</p>
            <button type="button" className="btn small main" disabled={!connected || looking || old} onClick={() => void look()}>
              {looking ? 'Looking…' : 'Look at the bench'}
            </button>
            <div className="answers">
              {next.answers.map((a) => (
                <button key={a.id} type="button" className="btn" disabled={old} onClick={() => answer(a.id, a.words, '')}>
                  {next.id === 'light' && <Strip beats={view.gear.lights.find((l) => l.state === a.id)?.blink ?? []} />}
                  {a.words}
                </button>
              ))}
              <button type="button" className="btn quiet" disabled={old} onClick={() => answer('unsure', 'cannot tell', '')}>
                I cannot tell
              </button>
            </div>
          </div>
        )}
        {!inquiry.error && v && !next && (
          <div aria-live="polite">
            <h2>{v.causes.length === 1 ? 'This is it' : 'One of these it must be'}</h2>
            <ul className="causes">
              {v.causes.map((c) => (
                <li key={c.id}>
                  <b>{c.words}.</b> {c.remedy}
                </li>
              ))}
            </ul>
          </div>
        )}
      </section>
      <section aria-label="What was seen">
        <h2 className="small">What was seen</h2>
        {asked.length === 0 && <p className="tone-soft">Nothing yet. Six looks at most lead to the reason.</p>}
        <ol className="seen">
          {asked.map((a, i) => (
            <li key={a.id}>
              {a.question} <b>{a.words}</b> {a.says && <span className="tone-soft">{a.says}</span>}{' '}
              <button type="button" className="link" onClick={() => back(i)} aria-label={`Look again: ${a.question}`}>
                look again
              </button>
            </li>
          ))}
        </ol>
        {v && next && asked.length > 0 && v.causes.length <= 8 && (
          <>
            <h2 className="small">It may still be</h2>
            <ul className="seen">
              {v.causes.map((c) => (
                <li key={c.id} className="tone-soft">
                  {c.words}
                </li>
              ))}
            </ul>
          </>
        )}
      </section>
    </div>
  )
}

/** The reasons as strokes, the ruled out ones struck short. */
function Tally({ left, of }: { left: number; of: number }) {
  return (
    <svg width={of * 9} height="22" viewBox={`0 0 ${of * 9} 22`} aria-hidden="true">
      {Array.from({ length: of }, (_, i) => (
        <path
          // biome-ignore lint/suspicious/noArrayIndexKey: strokes are alike
          key={i}
          d={i < left ? `M${i * 9 + 4} 2v18` : `M${i * 9 + 4} 15v5`}
          stroke={i < left ? 'var(--act)' : 'var(--faint)'}
          strokeWidth="3"
        />
      ))}
    </svg>
  )
}
