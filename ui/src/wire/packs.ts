// The pilot's packs, and what was measured of them.
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { showError } from '../shell/message'
import { answerOf, type Schemas, server } from './client'

type Packs = Schemas['PacksView']

export const usePacks = () => useQuery({ queryKey: ['packs'], queryFn: () => answerOf(server.GET('/api/packs')) })

export const packs = {
  set: (body: Schemas['SetPackBody']) => answerOf(server.POST('/api/packs', { body })),
  measure: (body: Schemas['MeasurePackBody']) => answerOf(server.POST('/api/packs/measured', { body })),
  withdraw: (body: Schemas['WithdrawPackBody']) => answerOf(server.POST('/api/packs/withdrawn', { body })),
  forget: (body: Schemas['ForgetPackBody']) => answerOf(server.POST('/api/packs/forget', { body })),
  take: (quad: number, body: Schemas['TakePackBody']) => answerOf(server.POST('/api/quads/{id}/packs', { params: { path: { id: quad } }, body })),
}

/** An act on the packs; the list that comes back is shown at once. */
export function usePackAct<V>(act: (asked: V) => Promise<Packs>) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: act,
    onSuccess: (list) => {
      queries.setQueryData(['packs'], list)
      void queries.invalidateQueries({ queryKey: ['catalogue'] })
      void queries.invalidateQueries({ queryKey: ['parts'] })
    },
    // Another window was first: what it kept is shown beside the message.
    onError: (e) => {
      showError(e)
      void queries.invalidateQueries({ queryKey: ['packs'] })
    },
  })
}
