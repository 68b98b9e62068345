// What the power watch works out: an alarm over a flight, and what a board is told of the current.
import { useQuery } from '@tanstack/react-query'
import { answerOf, type QuadView, type Schemas, server } from './client'

const at = (quad: QuadView) => ({ params: { path: { id: quad.id } } })

export type AlarmAsk = Schemas['AlarmAsk']
export type AlarmView = Schemas['AlarmView']

/** An alarm over a flight: with the flight and the map of every alarm, or with what this one would have done alone. */
export const useAlarm = (quad: QuadView, ask: AlarmAsk, on = true) =>
  useQuery({
    queryKey: ['alarm', quad.id, quad.seen, ask],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/power-watch/alarm', { ...at(quad), body: ask })),
    enabled: on,
    retry: false,
    placeholderData: (before, query) => (query?.queryKey[1] === quad.id ? before : undefined),
  })

/** A current sensor's scale, from what chargers put back. */
export const useCurrentScale = (quad: QuadView, ask: Schemas['ScaleAsk'], on: boolean) =>
  useQuery({
    queryKey: ['current scale', quad.id, quad.seen, ask],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/power-watch/scale', { ...at(quad), body: ask })),
    enabled: on,
    retry: false,
    placeholderData: (before) => before,
  })

/** A board's model of the current, from readings. */
export const useCurrentModel = (quad: QuadView, ask: Schemas['ModelAsk'], on: boolean) =>
  useQuery({
    queryKey: ['current model', quad.id, quad.seen, ask],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/power-watch/model', { ...at(quad), body: ask })),
    enabled: on,
    retry: false,
    placeholderData: (before) => before,
  })
