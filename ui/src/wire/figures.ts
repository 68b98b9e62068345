// What a station draws besides the line: asked for at that station, and anew whenever the quad has changed.
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { answerOf, type QuadView, type Schemas, server } from './client'

const at = (id: number) => ({ params: { path: { id } } })

const ask = {
  airframe: (id: number) => answerOf(server.GET('/api/quads/{id}/airframe', at(id))),
  'first-power': async (id: number) => ({ power: await answerOf(server.GET('/api/quads/{id}/first-power', at(id))) }),
  firmware: (id: number) => answerOf(server.GET('/api/quads/{id}/firmware', at(id))),
  wiring: async (id: number) => ({ wiring: await answerOf(server.GET('/api/quads/{id}/wiring', at(id))) }),
  sticks: (id: number) => answerOf(server.GET('/api/quads/{id}/sticks', at(id))),
  motors: (id: number) => answerOf(server.GET('/api/quads/{id}/motors', at(id))),
  feel: async (id: number) => ({ hands: await answerOf(server.GET('/api/quads/{id}/feel', at(id))) }),
  'power-watch': async (id: number) => ({ watch: await answerOf(server.GET('/api/quads/{id}/power-watch', at(id))) }),
  'link-loss': async (id: number) => ({ loss: await answerOf(server.GET('/api/quads/{id}/link-loss', at(id))) }),
  'first-flight': (id: number) => answerOf(server.GET('/api/quads/{id}/first-flight', at(id))),
  card: (id: number) => answerOf(server.GET('/api/quads/{id}/card', at(id))),
  drawing: (id: number) => answerOf(server.GET('/api/quads/{id}/drawing', at(id))),
}

type Asks = typeof ask
export type FiguresOf = keyof Asks
type Figures<F extends FiguresOf> = Awaited<ReturnType<Asks[F]>>

/** A quad with the figures of one of its stations. */
export type QuadAt<F extends FiguresOf> = QuadView & Figures<F>

/** A quad whose corners are told, as a drawing wants it. */
export type Drawn = QuadView & Schemas['DrawingView']

/** The quad with the figures of a station, or nothing yet. */
export function useFigures<F extends FiguresOf>(quad: QuadView | undefined, of: F) {
  const id = quad?.id ?? 0
  const got = useQuery({
    // Under the quad's own key: what makes the quad old makes its figures old.
    queryKey: ['quad', id, of, quad?.seen],
    queryFn: () => (ask[of] as (id: number) => Promise<Figures<F>>)(id),
    enabled: id > 0,
    placeholderData: (before, query) => (query?.queryKey[1] === id ? before : undefined),
  })
  const figures = got.data as Figures<F> | undefined
  const both = useMemo(() => (quad && figures ? { ...quad, ...figures } : undefined), [quad, figures])
  return { quad: both as QuadAt<F> | undefined, error: got.error, again: () => void got.refetch() }
}
