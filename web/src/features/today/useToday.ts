import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api, type Schemas } from '../../api/client'
import { PRESS_AGAIN } from '../../app/askedAgain'
import { putAnswer } from '../../shared/answers'
import { toRemoved } from '../../shared/removed'

const OTHERS_MS = 15_000

/** A day of the book, asked for again now and then for what others do; null: today. */
export const useDay = (chosen: string | null) =>
  useQuery({
    queryKey: ['today', chosen],
    queryFn: () => api.today(chosen),
    refetchInterval: OTHERS_MS,
    placeholderData: (before) => before,
  })

/** Begin what was booked. */
export function useBegin() {
  const queries = useQueryClient()
  const go = useNavigate()
  return useMutation({
    ...PRESS_AGAIN,
    mutationFn: (booking: Schemas['BookingOut']) => api.beginBooking(booking.id),
    onSuccess: (dog) => {
      putAnswer(queries, ['dog', dog.id], dog)
      void queries.invalidateQueries({ queryKey: ['today'] })
      void go(`/dogs/${dog.id}/wishes`)
    },
  })
}

export function useNewDog() {
  const queries = useQueryClient()
  const go = useNavigate()
  return useMutation({
    mutationFn: (dog: Pick<Schemas['NewDog'], 'name' | 'coat' | 'muzzle' | 'ears'>) =>
      api.addDog({ ...dog, breed: '' }),
    onSuccess: async (dog) => {
      await queries.invalidateQueries({ queryKey: ['today'] })
      void go(`/dogs/${dog.id}/wishes`)
    },
  })
}

/** A demo dog beside one's own, with the scale card the first thing to try. */
export function useTry() {
  const queries = useQueryClient()
  const go = useNavigate()
  return useMutation({
    mutationFn: api.tryDemo,
    onSuccess: async ({ dog_id }) => {
      await queries.invalidateQueries()
      void go(`/dogs/${dog_id}/outline`)
    },
  })
}

/** A dog that was removed just now, back again. */
export function useRestoredDog() {
  const queries = useQueryClient()
  return async (dogId: number) => {
    await api.restoreDog(dogId)
    toRemoved(null)
    await queries.invalidateQueries()
  }
}
