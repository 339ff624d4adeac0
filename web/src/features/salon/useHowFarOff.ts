import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, type Schemas } from '../../api/client'

/** What was expected of readings against what was found. */
export const useHowFarOff = () => useQuery({ queryKey: ['how-far-off'], queryFn: api.howFarOff })

/** Widen what is told of a kind; whatever is told of it is asked for anew. */
export function useFactor() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ kind, factor }: { kind: string; factor: number }) => api.putFactor(kind, factor),
    onSuccess: async (now) => {
      queries.setQueryData(['how-far-off'], now)
      await Promise.all(
        ['measure', 'today', 'next-time', 'thumb'].map((key) =>
          queries.invalidateQueries({ queryKey: [key] }),
        ),
      )
    },
  })
}

export const useHours = () => useQuery({ queryKey: ['hours'], queryFn: api.hours })

export function useSetHours() {
  const queries = useQueryClient()
  return async (hours: Schemas['HoursIO']) => {
    queries.setQueryData(['hours'], await api.putHours(hours))
    await queries.invalidateQueries({ queryKey: ['next-time'] })
  }
}
