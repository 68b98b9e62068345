import { lazy, Suspense, useEffect, useRef, useState } from 'react'
import { useNavigate, useOutletContext, useParams } from 'react-router'
import { Button } from '../../kit/button'
import { Page } from '../../kit/page'
import { Boundary } from '../../shell/boundary'
import { useCommands } from '../../shell/commands'
import { show, showError } from '../../shell/message'
import type { ShellContext } from '../../shell/shell'
import { instruments, loadInstruments } from '../../stations/registry'
import { acts, useAct, useQuad } from '../../wire/client'
import { asNamed } from '../../wire/path'
import { WhoseBench } from '../bench/whose'
import { Conflicts, onConflict } from './conflict'
import { Ledger } from './ledger'
import { ProofBar } from './proof-bar'
import { Wire } from './wire'

// Loaded when they are opened, or soon after the line is drawn.
const nextList = () => import('./next').then((m) => ({ default: m.NextList }))
const NextList = lazy(nextList)
const BenchDrawer = lazy(() => import('../bench/drawer').then((m) => ({ default: m.BenchDrawer })))

let shown = ''

/** The station's question. Coming from another station, the keyboard comes along to it. */
function Question({ words }: { words: string }) {
  const ref = useRef<HTMLHeadingElement>(null)
  useEffect(() => {
    if (shown && shown !== words) ref.current?.focus()
    shown = words
  }, [words])
  return (
    <h1 ref={ref} tabIndex={-1} className="text-[25px] whitespace-nowrap phone:pr-20 phone:text-[21px] phone:whitespace-normal">
      {words}
    </h1>
  )
}

const Reason = lazy(() => import('../../kit/reason').then((m) => ({ default: m.Reason })))

export function Line() {
  const { id: idText, station } = useParams()
  const id = Number(idText)
  const quad = useQuad(id)
  const { drawer, setDrawer } = useOutletContext<ShellContext>()
  const go = useNavigate()
  const sign = useAct(id, (s: string) => acts.sign(id, s, quad.data?.seen ?? ''))
  const takeBack = useAct(id, (why: string) => acts.takeBack(id, quad.data?.seen ?? '', why))
  const [asking, setAsking] = useState(false)
  const [tookBack, setTookBack] = useState({ words: '', seen: '' })
  // How the quad stood when this window first saw it: what was done before is not offered to be taken back unasked.
  const [first, setFirst] = useState({ id: 0, seen: '' })
  if (quad.data && first.id !== quad.data.id) setFirst({ id: quad.data.id, seen: quad.data.seen })
  const redo = useAct(id, (version: number) => acts.redo(id, version))

  const data = quad.data
  const index = data?.line.findIndex((p) => p.id === station) ?? -1
  const step = (by: number) => {
    const next = data?.line[index + by]
    if (next) void go(`/quads/${id}/${next.id}`)
  }
  const signIt = () => data && station && sign.mutate(station, { onError: onConflict(data, 'Your signature', []) })
  // The next station where something is left to do, around the end of the line if need be.
  const openOnes = data ? [...data.line.slice(index + 1), ...data.line.slice(0, Math.max(index, 0))] : []
  const nextOpen = openOnes.find((p) => p.state !== 'proven' && p.state !== 'skipped')
  const signAndGo = () =>
    data &&
    station &&
    sign.mutate(station, { onError: onConflict(data, 'Your signature', []), onSuccess: () => nextOpen && void go(`/quads/${id}/${nextOpen.id}`) })
  const takeItBack = () => {
    if (!data) return
    const { words, asks, against } = data.back
    if (!words) show('There is nothing that could be taken back.')
    else if (against) show(against)
    else if (asks) setAsking(true)
    else back('')
  }
  const back = (why: string) =>
    data &&
    takeBack.mutate(why, {
      onError: asking ? undefined : onConflict(data, 'Your undo', []),
      onSuccess: (now) => {
        setAsking(false)
        setTookBack({ words: data.back.words, seen: now.seen })
      },
    })
  const redoIt = () => data && redo.mutate(data.version, { onError: onConflict(data, 'Your redo', []) })
  const [listing, setListing] = useState(false)
  const take = useAct(id, (path: string) => acts.take(id, asNamed(path)))
  const wanted = data?.line[index]?.asks ?? []
  useCommands(
    data
      ? [
          { words: 'Previous station', key: '[', place: 'On the line', run: () => step(-1) },
          { words: 'Next station', key: ']', place: 'On the line', run: () => step(1) },
          { words: 'What to do next', key: 'n', place: 'On the line', run: () => setListing((l) => !l) },
          { words: 'Sign this proof', key: 's', place: 'On the line', run: signIt },
          { words: 'Sign this proof and go on', key: 'g', place: 'On the line', run: signAndGo },
          { words: 'Take the last act back', key: 'u', also: 'undo withdraw mistake', place: 'On the line', run: takeItBack },
          { words: 'Make it again', key: 'r', place: 'On the line', run: redoIt },
          { words: 'Watch it fly', key: 'w', place: 'On the line', run: () => void go(`/quads/${id}/rehearsal`) },
          {
            words: 'Take the next reading from the bench',
            key: 't',
            place: 'On the line',
            run: () => {
              const next = wanted.find((a) => a.way === 'bench')
              if (next) take.mutate(next.path, { onError: showError })
            },
          },
          ...wanted
            .filter((a) => a.way === 'bench')
            .map((a) => ({
              words: `Read from the bench: ${a.label}`,
              place: data.line[index]?.name ?? '',
              aside: true,
              run: () => take.mutate(a.path, { onError: showError }),
            })),
        ]
      : [],
  )

  useEffect(() => {
    const p = data?.line[index]
    if (data && p) document.title = `${p.name}, ${data.name} · Vivid Perch`
  }, [data, index])

  const drawn = Boolean(data)
  useEffect(() => {
    if (!drawn) return
    const soon = window.setTimeout(() => {
      loadInstruments()
      void nextList().catch(() => undefined)
    }, 1500)
    return () => window.clearTimeout(soon)
  }, [drawn])

  if (quad.isPending) return <Page aria-busy="true">Reading the quad…</Page>
  if (!data) {
    return (
      <Page>
        <h1>This quad cannot be shown</h1>
        <p>{quad.error?.message}</p>
        <Button onClick={() => quad.refetch()}>Try again</Button>
      </Page>
    )
  }
  const perch = data.line[index]
  if (!perch || perch.id === '') return <Page>There is no station of that name on the line.</Page>
  const Instrument = instruments[perch.id]
  return (
    <WhoseBench quad={data}>
      <div className="grid h-full grid-rows-[124px_minmax(0,1fr)_68px] phone:block phone:overflow-y-auto">
        <Wire id={id} line={data.line} here={perch.id} />
        <main className="relative grid min-h-0 grid-cols-[minmax(0,1fr)_392px] phone:block print:block">
          <section
            className="relative grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)] gap-2 px-6 pt-3.5 pb-2.5 phone:grid-rows-[auto_auto] phone:px-3.5 phone:py-3"
            aria-label="Instrument"
          >
            <header className="flex min-w-0 items-baseline gap-3.5 print:hidden">
              <Question key={perch.id} words={perch.question} />
            </header>
            <Boundary key={perch.id} what="The instrument">
              <Suspense>
                <Instrument quad={data} perch={perch} />
              </Suspense>
            </Boundary>
          </section>
          <Boundary key={`ledger ${perch.id}`} what="The ledger">
            <Ledger key={perch.id} quad={data} perch={perch} />
          </Boundary>
          <Conflicts quad={data} />
          <Boundary what="This list">
            <Suspense>{listing && <NextList quad={data} onClose={() => setListing(false)} />}</Suspense>
          </Boundary>
          <Boundary what="The bench">
            <Suspense>{drawer && <BenchDrawer id={id} onClose={() => setDrawer(false)} />}</Suspense>
          </Boundary>
        </main>
        <ProofBar
          quad={data}
          perch={perch}
          busy={sign.isPending}
          tookBack={tookBack.seen === data.seen ? tookBack.words : ''}
          onNext={() => setListing(!listing)}
          onSign={signIt}
          next={nextOpen}
          onSignAndGo={signAndGo}
          offersBack={data.draft.words.length > 0 || first.seen !== data.seen}
          onTakeBack={takeItBack}
          onRedo={redoIt}
        />
        {asking && (
          <Suspense>
            <Reason
              title={`Take back ${data.back.words}`}
              act="Take it back"
              busy={takeBack.isPending}
              error={takeBack.error?.message}
              onDone={back}
              onClose={() => setAsking(false)}
            />
          </Suspense>
        )}
      </div>
    </WhoseBench>
  )
}
