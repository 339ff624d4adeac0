import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { api, type Dog, type State } from '../../api/client'

const ASKED_EVERY_MS = 1500

/** A code for a phone, good while it is used, and what the phone has brought so far. */
export function usePhoneCode(dog: Dog, state: State) {
  const queries = useQueryClient()
  const code = useQuery({
    queryKey: ['phone-code', dog.id, state],
    queryFn: () => api.givePhone(dog.id, state),
    staleTime: Infinity,
    gcTime: 0,
    retry: false,
  })
  const token = code.data?.token
  const shown = useQuery({
    queryKey: ['phone', token],
    queryFn: () => api.phone(token ?? ''),
    enabled: token !== undefined,
    refetchInterval: ASKED_EVERY_MS,
  })
  const there = shown.data?.views.map((v) => v.photo?.id ?? 0).join()
  useEffect(() => {
    void queries.invalidateQueries({ queryKey: ['dog', dog.id] })
  }, [queries, dog.id, there])
  return { code: code.data ?? null, shown: shown.data ?? null, wrong: code.error ?? shown.error }
}
