import { useQuery } from '@tanstack/react-query'
import { api } from '../../api/client'

/** The kit as it is kept, read anew each time the screen opens. */
export const useKitNow = () =>
  useQuery({ queryKey: ['kit'], queryFn: api.kit, staleTime: Infinity, gcTime: 0 })

export const useUsualKit = () =>
  useQuery({ queryKey: ['kit', 'usual'], queryFn: api.usualKit, staleTime: Infinity })
