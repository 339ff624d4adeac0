import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api } from '../../api/client'

/** Where each proportion changes its word. */
export const useBands = (open: boolean) =>
  useQuery({ queryKey: ['bands'], queryFn: api.bands, enabled: open })

export function useMovedBands(done: () => void) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (edges: Record<string, number[]>) => api.putBands({ edges }),
    onSuccess: (answer) => {
      queries.setQueryData(['bands'], answer)
      void queries.invalidateQueries({ queryKey: ['measure'] })
      done()
    },
  })
}
