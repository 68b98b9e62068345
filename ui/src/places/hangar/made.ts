import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'

/** Goes to a quad that was made a moment ago. */
export function useMade<V>(make: (v: V) => Promise<{ id: number }>) {
  const go = useNavigate()
  const queries = useQueryClient()
  return useMutation({
    mutationFn: make,
    onSuccess: ({ id }) => {
      void queries.invalidateQueries({ queryKey: ['hangar'] })
      void go(`/quads/${id}/airframe`)
    },
  })
}
