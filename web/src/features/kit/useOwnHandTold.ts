import { useQuery, useQueryClient } from '@tanstack/react-query'
import { api } from '../../api/client'

/** Who wants to hear what their own hand leaves long or short. */
export function useOwnHandTold() {
  const queries = useQueryClient()
  const known = useQuery({ queryKey: ['own-hand'], queryFn: api.handNotTold })
  const tell = async (stylist: string, told: boolean) => {
    await api.tellOfHand({ stylist, told })
    await Promise.all(['own-hand', 'hand'].map((key) => queries.invalidateQueries({ queryKey: [key] })))
  }
  return { notTold: known.data ?? [], tell: (stylist: string, told: boolean) => void tell(stylist, told) }
}
