import { useQuery } from '@tanstack/react-query'
import { api } from '../api/client'

/** What more than one screen asks of the server, each under one key. */

export const useDogHead = (dogId: number) =>
  useQuery({ queryKey: ['head', dogId], queryFn: () => api.head(dogId) })

export const useMeasured = (dogId: number) =>
  useQuery({ queryKey: ['measure', dogId], queryFn: () => api.measure(dogId) })

/** Every outline to choose from: the families, then the salon's own. */
export const useChoices = () => useQuery({ queryKey: ['choices'], queryFn: api.choices })

/** Words of the cut: what a dog minds, notes at the table. */
export const useCutGuide = () =>
  useQuery({ queryKey: ['cut-guide'], queryFn: api.cutGuide, staleTime: Infinity })

/** Whether this tablet is let in, and whether it may run the salon. */
export const useEntrance = () =>
  useQuery({ queryKey: ['entrance'], queryFn: api.entrance, staleTime: Infinity })

/** The salon's kit with its stylists. */
export const useKit = () => useQuery({ queryKey: ['kit'], queryFn: api.kit })
