import { useQuery, useQueryClient } from '@tanstack/react-query'
import { api, type Dog } from '../../api/client'

/** What whoever cuts usually leaves long or short, and how they stop hearing of it. */
export function useOwnHand(dog: Dog) {
  const queries = useQueryClient()
  const hand = useQuery({ queryKey: ['hand', dog.id, dog.stylist], queryFn: () => api.hand(dog.id) })
  const stop = async (stylist: string) => {
    await api.tellOfHand({ stylist, told: false })
    await queries.invalidateQueries({ queryKey: ['hand'] })
  }
  return { hand: hand.data, stop: (stylist: string) => void stop(stylist) }
}
