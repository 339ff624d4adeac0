import { useQuery } from '@tanstack/react-query'
import { api } from '../api/client'

/** Dogs by a few letters of their name or owner's words. */
export const useFoundDogs = (asked: string) =>
  useQuery({
    queryKey: ['find', asked],
    queryFn: () => api.findDogs(asked),
    placeholderData: (before) => before,
  })
