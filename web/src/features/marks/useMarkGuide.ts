import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, type Dog, type Measured } from '../../api/client'

/** Which marks there are, where they are felt, and in which order they are placed. */
export const useMarkGuide = () => useQuery({ queryKey: ['guide'], queryFn: api.guide, staleTime: Infinity })

/** What would help most now, once the head is measured. */
export const useNext = (dog: Dog, measured: Measured | undefined) =>
  useQuery({
    queryKey: ['next', dog.id, measured?.measures.map((m) => m.sigma), dog.coat_probes],
    queryFn: () => api.next(dog.id),
    enabled: measured?.solved === true,
    placeholderData: keepPreviousData,
  })
