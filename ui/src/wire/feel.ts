// What the station of the feel works out: curves, throttle, gains, filters and a borrowed feel, each with what is tried on top of the settings.
import { useQuery } from '@tanstack/react-query'
import { answerOf, type QuadView, type Schemas, server } from './client'

const at = (quad: QuadView) => ({ params: { path: { id: quad.id } } })

export type CurveAsk = Schemas['CurveAsk']

const kept = { retry: false, placeholderData: <T>(before: T | undefined) => before }

/** The curves of a profile as they are tried, with a handle that is drawn or a family that they are put into. */
export const useCurves = (quad: QuadView, ask: CurveAsk) =>
  useQuery({
    queryKey: ['feel curves', quad.id, quad.seen, ask],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/feel/curves', { ...at(quad), body: ask })),
    ...kept,
  })

/** What the throttle stick does. */
export const useFeelThrottle = (quad: QuadView, ask: Schemas['FeelThrottleAsk']) =>
  useQuery({
    queryKey: ['feel throttle', quad.id, quad.seen, ask],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/feel/throttle', { ...at(quad), body: ask })),
    ...kept,
  })

/** A step about one axis, flown with every pack. */
export const useGains = (quad: QuadView, ask: Schemas['GainsAsk']) =>
  useQuery({
    queryKey: ['feel gains', quad.id, quad.seen, ask],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/feel/gains', { ...at(quad), body: ask })),
    ...kept,
  })

/** What the filters hold up and take away. */
export const useFilters = (quad: QuadView, ask: Schemas['FiltersAsk']) =>
  useQuery({
    queryKey: ['feel filters', quad.id, quad.seen, ask],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/feel/filters', { ...at(quad), body: ask })),
    ...kept,
  })

/** A feel that is borrowed; nothing while nothing is chosen. */
export const useBorrowed = (quad: QuadView, ask: Schemas['BorrowAsk'] | null) =>
  useQuery({
    queryKey: ['feel borrowed', quad.id, quad.seen, ask],
    queryFn: () => answerOf(server.POST('/api/quads/{id}/feel/borrow', { ...at(quad), body: ask as Schemas['BorrowAsk'] })),
    enabled: ask !== null,
    retry: false,
  })
