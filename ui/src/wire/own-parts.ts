// The pilot's own catalogue of parts.
import { useQuery } from '@tanstack/react-query'
import { answerOf, type Schemas, server } from './client'

export const useOwnParts = () => useQuery({ queryKey: ['ownParts'], queryFn: () => answerOf(server.GET('/api/parts')) })

/** What a table, a file or a typed part would become, while it stands there. */
export const useReadParts = (ask: Schemas['PartsBody'] | undefined) =>
  useQuery({
    queryKey: ['readParts', ask],
    queryFn: () => answerOf(server.POST('/api/parts/read', { body: ask ?? {} })),
    enabled: ask !== undefined,
    staleTime: 0,
    gcTime: 0,
    retry: false,
    placeholderData: (before) => before,
  })

export const ownParts = {
  keep: (body: Schemas['KeepPartsBody']) => answerOf(server.POST('/api/parts', { body })),
  forget: (body: Schemas['ForgetPartBody']) => answerOf(server.POST('/api/parts/forget', { body })),
}
