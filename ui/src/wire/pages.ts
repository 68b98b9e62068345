// What gathers with time is asked for page by page, newest first.
import { type QueryKey, useInfiniteQuery } from '@tanstack/react-query'
import { answerOf, type QuadView, type Schemas, server } from './client'

type Page<T> = { list: T[]; more: boolean }

/** Pages of a list, as far as they were turned. */
export type Pages<T> = { list: T[] | undefined; more: boolean; turning: boolean; turn: () => void; error: Error | null; pending: boolean }

/** Pages of a list whose members have a number; each page begins before the last one's. */
function usePages<T>(key: QueryKey, number: (last: T) => number, page: (before: number) => Promise<Page<T>>): Pages<T> {
  const got = useInfiniteQuery({
    queryKey: key,
    initialPageParam: 0,
    queryFn: ({ pageParam }) => page(pageParam),
    getNextPageParam: (p) => {
      const last = p.list.at(-1)
      return p.more && last ? number(last) : undefined
    },
    placeholderData: (before, query) => (query?.queryKey[1] === key[1] ? before : undefined),
  })
  return {
    list: got.data?.pages.flatMap((p) => p.list),
    more: got.hasNextPage,
    turning: got.isFetchingNextPage,
    turn: () => void got.fetchNextPage(),
    error: got.error,
    pending: got.isPending,
  }
}

const before = (id: number, number: number) => ({ params: { path: { id }, query: { before: number } } })

/** Flights in the book. */
export const useFlights = (quad: QuadView) =>
  usePages<Schemas['FlightView']>(
    ['flights', quad.id, quad.seen],
    (f) => f.id,
    (n) => answerOf(server.GET('/api/quads/{id}/flights', before(quad.id, n))).then((p) => ({ list: p.flights, more: p.more })),
  )

/** What happened to the quad. */
export const useEvents = (quad: QuadView) =>
  usePages<Schemas['HappenedView']>(
    ['events', quad.id, quad.seen],
    (e) => e.id,
    (n) => answerOf(server.GET('/api/quads/{id}/events', before(quad.id, n))).then((p) => ({ list: p.events, more: p.more })),
  )

/** Saved states of the quad. */
export const useRevisions = (quad: QuadView) =>
  usePages<Schemas['RevisionView']>(
    ['revisions', quad.id, quad.revision],
    (r) => r.number,
    (n) => answerOf(server.GET('/api/quads/{id}/revisions', before(quad.id, n))).then((p) => ({ list: p.revisions, more: p.more })),
  )

/** Saved settings lists of a quad; asked for anew when a save shows among its readings. */
export const useBackups = (quad: QuadView) => {
  const last = quad.line.flatMap((p) => p.readings).find((r) => r.path === 'readings.firmware.backup')?.at
  return usePages<Schemas['BackupView']>(
    ['backups', quad.id, last],
    (b) => b.id,
    (n) => answerOf(server.GET('/api/quads/{id}/backups', before(quad.id, n))).then((p) => ({ list: p.backups, more: p.more })),
  )
}
