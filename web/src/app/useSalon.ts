import { useQuery } from '@tanstack/react-query'
import { api } from '../api/client'

/** The salon itself: its name, whether it was begun, who can reach it. */
export const useSalon = () => useQuery({ queryKey: ['salon'], queryFn: api.salon, staleTime: 60_000 })
