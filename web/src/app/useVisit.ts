import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { api, type Dog } from '../api/client'

/** The dog of the open visit, asked for again and again for what the machine sees and what other tablets do. */
export function useVisit(dogId: number) {
  const dog = useQuery({
    queryKey: ['dog', dogId],
    queryFn: () => api.dog(dogId),
    // Now and then also for what another tablet does.
    refetchInterval: (query) => (query.state.data && looking(query.state.data) ? LOOKING_MS : OTHERS_MS),
  })
  const queries = useQueryClient()
  const seen = dog.data?.photos.filter((p) => p.looked).length
  // What the machine has seen since brings first guesses, and a scale card may change the size.
  useEffect(() => {
    void queries.invalidateQueries({ queryKey: ['measure', dogId] })
  }, [queries, dogId, seen])
  return dog
}

const LOOKING_MS = 600
const OTHERS_MS = 8000

/** Some photo is being looked at, or is about to be. */
const looking = (dog: Dog) =>
  [...dog.photos, ...dog.spares].some(
    (p) => p.job?.kind === 'waiting' || p.job?.kind === 'working' || (!p.looked && !p.job),
  )
