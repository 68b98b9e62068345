// The pilot's sites, and what comes of losing the radio along a line of one.
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { answerOf, type Schemas, server } from './client'

export type SiteMapped = Schemas['SiteMapped']
export type SiteMap = Schemas['Map']
export type Offset = Schemas['Offset']

export const useSites = () => useQuery({ queryKey: ['sites'], queryFn: () => answerOf(server.GET('/api/sites')) })

export const useSite = (id: number) =>
  useQuery({ queryKey: ['site', id], queryFn: () => answerOf(server.GET('/api/sites/{id}', { params: { path: { id } } })), enabled: id > 0, retry: false })

export const sites = {
  add: (name: string, map: SiteMap) => answerOf(server.POST('/api/sites', { body: { name, map } })),
  change: (id: number, version: number, map: SiteMap) => answerOf(server.POST('/api/sites/{id}', { params: { path: { id } }, body: { version, map } })),
  forget: (id: number, version: number) => answerOf(server.POST('/api/sites/{id}/forget', { params: { path: { id } }, body: { version } })),
  read: (quad: number, file: string) => answerOf(server.POST('/api/quads/{id}/map', { params: { path: { id: quad } }, body: { file } })),
}

/** An act on a site, which is shown at once as it then stands. Where another window was first, what it kept is fetched. */
export function useSiteAct<V>(act: (asked: V) => Promise<SiteMapped>) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: act,
    onSuccess: (s) => {
      queries.setQueryData(['site', s.id], s)
      void queries.invalidateQueries({ queryKey: ['sites'] })
    },
    onError: () => void queries.invalidateQueries({ queryKey: ['site'] }),
  })
}

type LineAsk = { site: number; line: string; from: number }

/** So many losses along a line by each policy; what was flown before counts with it. */
export const lineLosses = (quad: number, ask: LineAsk, times: number, signal?: AbortSignal) =>
  answerOf(server.POST('/api/quads/{id}/line-losses', { params: { path: { id: quad } }, body: { ...ask, times }, signal }))

export const keepLine = (quad: number, ask: LineAsk, why: string) =>
  answerOf(server.POST('/api/quads/{id}/line', { params: { path: { id: quad } }, body: { ...ask, why } }))
