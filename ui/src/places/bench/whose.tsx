// Whose quad lies on the bench: what the program says of it, for the quad that is shown, and the ways out when it is another.

import { useQuery } from '@tanstack/react-query'
import { createContext, type ReactNode, useContext, useState } from 'react'
import { Button, TextButton } from '../../kit/button'
import { showError } from '../../shell/message'
import { acts, answerOf, bench, type QuadView, server, useAct } from '../../wire/client'
import { type LiveState, useLive } from '../../wire/live'

type BenchFor = Awaited<ReturnType<typeof ask>>
const ask = (id: number) => answerOf(server.GET('/api/quads/{id}/bench', { params: { path: { id } } }))

const Own = createContext<BenchFor | null>(null)

/** What the program says of the bench for the quad that is shown; nothing while there is no bench or no answer yet. */
export const useWhose = () => useContext(Own)

/** Whether what lies on the bench is the quad that is shown. */
export const useOwn = () => useWhose()?.same ?? false

/** Whether the program has no bench at all: then nothing is offered that only a bench could do. */
export const useNoBench = () => useLive((s) => s.status?.none ?? false)

/** What can be seen of the bench, of the quad that is shown: nothing of another's counts. */
export function useOwnBench(select: (s: LiveState) => boolean): boolean {
  const own = useOwn()
  return useLive(select) && own
}

/** Asks anew whenever another quad comes onto the bench, or the quad that is shown has changed. */
export function WhoseBench({ quad, children }: { quad: QuadView; children: ReactNode }) {
  const there = useLive((s) => (s.status?.connected ? JSON.stringify(s.status.board) : ''))
  const got = useQuery({
    queryKey: ['bench', quad.id, quad.seen, there],
    queryFn: () => ask(quad.id),
    enabled: there !== '',
    retry: false,
    // What was said of this quad and this bench holds until it is said anew: a change of the quad alone makes no other bench of it.
    placeholderData: (before, query) => (query?.queryKey[1] === quad.id && query.queryKey[3] === there ? before : undefined),
  })
  return <Own value={there === '' ? null : (got.data ?? null)}>{children}</Own>
}

/** Another quad on the bench than the one that is shown: the sentence, and what can be done about it. */
export function OtherQuad({ quad }: { quad: QuadView }) {
  const whose = useWhose()
  const plugged = useLive((s) => Boolean(s.live?.pack || s.live?.usb))
  const [sure, setSure] = useState(false)
  const adopt = useAct(quad.id, () => acts.adopt(quad.id, quad.seen))
  if (!whose || whose.same) return null
  const take = () => adopt.mutate(undefined, { onSuccess: () => setSure(false), onError: showError })
  return (
    <section className="grid gap-1.5 rounded-md border-l-4 border-fix bg-fix-bg px-3 py-2" aria-label="Another quad on the bench">
      <p>{whose.says}</p>
      {sure ? (
        <p>
          {whose.falls.length > 0 ? `To be proven again: ${whose.falls.join(', ')}.` : 'Nothing that is proven now falls.'} What was measured on the board
          before is asked for anew.
        </p>
      ) : null}
      <div className="flex flex-wrap items-center gap-2.5">
        {whose.place && (
          <Button small disabled={plugged} onClick={() => void bench.place(whose.place).catch(showError)}>
            Put {whose.place} there
          </Button>
        )}
        {whose.place && plugged && <span className="text-soft">unplug the bench first</span>}
        {whose.claim === 'first' && (
          <Button small disabled={adopt.isPending} onClick={take}>
            This is {quad.name}
          </Button>
        )}
        {whose.claim === 'replaced' && !sure && (
          <Button small onClick={() => setSure(true)}>
            Its board was replaced
          </Button>
        )}
        {sure && (
          <>
            <Button small main disabled={adopt.isPending} onClick={take}>
              It was replaced by this one
            </Button>
            <TextButton onClick={() => setSure(false)}>Cancel</TextButton>
          </>
        )}
      </div>
    </section>
  )
}
