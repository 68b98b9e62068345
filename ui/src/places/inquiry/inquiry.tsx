import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { Subhead } from '../../kit/heading'
import { causes, wideLeft } from '../../kit/looks'
import { showError } from '../../shell/message'
import type { Schemas } from '../../wire/client'

type Asked = { id: string; question: string; answer: string; words: string; says: string }

type Props = {
  /** What is asked, as a question. */
  title: string
  /** Names this inquiry, and what its answers rest on beside those given. */
  name: readonly unknown[]
  ask: (given: Record<string, string>) => Promise<Schemas['Inquiry']>
  /** Looks for an answer on the bench, where it can. */
  look?: { can: boolean; at: (question: string) => Promise<Schemas['Looked']> }
  /** What is drawn above an answer. */
  art?: (question: string, answer: string) => ReactNode
}

/** Why something is not as it should be: one look at a time, the one that leaves the fewest reasons, until one is left. */
export function Inquiry({ title, name, ask, look: bench, art }: Props) {
  const [asked, setAsked] = useState<Asked[]>([])
  const [looking, setLooking] = useState(false)
  const given = Object.fromEntries(asked.map((a) => [a.id, a.answer]))
  const inquiry = useQuery({ queryKey: ['inquiry', ...name, given], queryFn: () => ask(given), placeholderData: (before) => before, retry: false })
  const v = inquiry.data
  const next = v?.next
  const old = inquiry.isPlaceholderData // the question of before: the next one is under way
  const answer = (id: string, words: string, says: string) => next && setAsked([...asked, { id: next.id, question: next.words, answer: id, words, says }])
  const look = async () => {
    if (!next || !bench) return
    setLooking(true)
    try {
      const seen = await bench.at(next.id)
      answer(seen.answer, next.answers.find((a) => a.id === seen.answer)?.words ?? 'cannot tell', seen.says)
    } catch (e) {
      showError(e)
    } finally {
      setLooking(false)
    }
  }
  const back = (i: number) => setAsked(asked.slice(0, i))
  return (
    <div className={wideLeft}>
      <section aria-label={title}>
        {v && (
          <p className="flex items-center gap-3.5">
            <Tally left={v.causes.length} of={v.of} />
            <span>
              <b>{v.causes.length}</b> of {v.of} known reasons fit {asked.length ? 'what you have seen' : 'so far'}
            </span>
          </p>
        )}
        {inquiry.error && (
          <p role="alert" className="text-fix">
            {inquiry.error.message}{' '}
            <Button small onClick={() => back(asked.length - 1)}>
              Take the last answer back
            </Button>
          </p>
        )}
        {!inquiry.error && next && (
          <div className="[&_h2]:text-[19px]" aria-live="polite">
            <h2>{next.words}</h2>
            <p className="text-soft">{next.how}</p>
            {bench && (
              <Button small main disabled={!bench.can || looking || old} onClick={() => void look()}>
                {looking ? 'Looking…' : 'Look at the bench'}
              </Button>
            )}
            <div className="mt-2.5 mb-3.5 flex flex-wrap gap-2">
              {next.answers.map((a) => (
                <Button key={a.id} className="text-left [&_svg]:mb-1 [&_svg]:block" disabled={old} onClick={() => answer(a.id, a.words, '')}>
                  {art?.(next.id, a.id)}
                  {a.words}
                </Button>
              ))}
              <Button quiet className="text-left" disabled={old} onClick={() => answer('unsure', 'cannot tell', '')}>
                I cannot tell
              </Button>
            </div>
          </div>
        )}
        {!inquiry.error && v && !next && (
          <div aria-live="polite">
            <h2>{v.causes.length === 1 ? 'This is it' : 'One of these it must be'}</h2>
            <ul className={causes}>
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
        <Subhead>What was seen</Subhead>
        {asked.length === 0 && <p className="text-soft">Nothing yet. Six looks at most lead to the reason.</p>}
        <ol className="[&_li]:border-b [&_li]:border-line [&_li]:py-1 [&_li]:text-[15px]">
          {asked.map((a, i) => (
            <li key={a.id}>
              {a.question} <b>{a.words}</b> {a.says && <span className="text-soft">{a.says}</span>}{' '}
              <TextButton onClick={() => back(i)} aria-label={`Look again: ${a.question}`}>
                look again
              </TextButton>
            </li>
          ))}
        </ol>
        {v && next && asked.length > 0 && v.causes.length <= 8 && (
          <>
            <Subhead>It may still be</Subhead>
            <ul className="[&_li]:border-b [&_li]:border-line [&_li]:py-1 [&_li]:text-[15px]">
              {v.causes.map((c) => (
                <li key={c.id} className="text-soft">
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
