import { useEffect } from 'react'
import { useNavigate, useOutletContext, useParams } from 'react-router'
import { BenchDrawer } from '../bench/drawer'
import { tellError } from '../shell/say'
import type { ShellContext } from '../shell/shell'
import { AirframeStation } from '../stations/airframe'
import { FirmwareStation } from '../stations/firmware'
import { FlightStation } from '../stations/flight'
import { LitStation } from '../stations/lit'
import { LossStation } from '../stations/loss'
import { MotorsStation } from '../stations/motors'
import { SticksStation } from '../stations/sticks'
import { acts, type Perch, type QuadView, useAct, useQuad } from '../wire/client'
import { Ledger } from './ledger'
import { ProofBar } from './proof-bar'
import { Wire } from './wire'

export type StationProps = { quad: QuadView; perch: Perch }

const instruments: Record<string, (p: StationProps) => React.ReactNode> = {
  airframe: AirframeStation,
  firmware: FirmwareStation,
  sticks: SticksStation,
  motors: MotorsStation,
  'link-loss': LossStation,
  'first-flight': FlightStation,
}

export function Line() {
  const { id: idText, station } = useParams()
  const id = Number(idText)
  const quad = useQuad(id)
  const { drawer, setDrawer } = useOutletContext<ShellContext>()
  const go = useNavigate()
  const sign = useAct(id, (s: string) => acts.sign(id, s))
  const undo = useAct(id, (version: number) => acts.undo(id, version))
  const redo = useAct(id, (version: number) => acts.redo(id, version))

  const data = quad.data
  const index = data?.line.findIndex((p) => p.id === station) ?? -1
  useEffect(() => {
    if (!data) return
    const onKey = (e: KeyboardEvent) => {
      if (e.target instanceof Element && e.target.closest('input, textarea, select, dialog')) return
      if (e.ctrlKey && e.key === 'z') undo.mutate(data.version, { onError: tellError })
      if (e.ctrlKey || e.metaKey || e.altKey) return
      const step = (by: number) => {
        const next = data.line[index + by]
        if (next) void go(`/quads/${id}/${next.id}`)
      }
      if (e.key === '[') step(-1)
      else if (e.key === ']') step(1)
      else if (e.key === 's' && station) sign.mutate(station, { onError: tellError })
      else if (e.key === 'u') undo.mutate(data.version, { onError: tellError })
      else if (e.key === 'r') redo.mutate(data.version, { onError: tellError })
      else if (e.key === 'w') void go(`/quads/${id}/rehearsal`)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  })

  useEffect(() => {
    const p = data?.line[index]
    if (data && p) document.title = `${p.name}, ${data.name} · Vivid Perch`
  }, [data, index])

  if (quad.isPending)
    return (
      <main className="plain" aria-busy="true">
        Reading the quad…
      </main>
    )
  if (!data) {
    return (
      <main className="plain">
        <h1>This quad cannot be shown</h1>
        <p>{quad.error?.message}</p>
        <button type="button" className="btn" onClick={() => quad.refetch()}>
          Try again
        </button>
      </main>
    )
  }
  const perch = data.line[index]
  if (!perch) return <main className="plain">There is no station of that name on the line.</main>
  const Instrument = instruments[perch.id] ?? LitStation
  return (
    <div className="quad-page">
      <Wire id={id} line={data.line} here={perch.id} />
      <main className="work">
        <section className="inst" aria-label="Instrument">
          <header>
            <h1>{perch.question}</h1>
          </header>
          <Instrument key={perch.id} quad={data} perch={perch} />
        </section>
        <Ledger key={perch.id} quad={data} perch={perch} />
        {drawer && <BenchDrawer onClose={() => setDrawer(false)} />}
      </main>
      <ProofBar
        quad={data}
        perch={perch}
        busy={sign.isPending}
        onSign={() => sign.mutate(perch.id, { onError: tellError })}
        onUndo={() => undo.mutate(data.version, { onError: tellError })}
        onRedo={() => redo.mutate(data.version, { onError: tellError })}
      />
    </div>
  )
}
