import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, type Schemas } from '../api/client'
import { PRESS_AGAIN } from '../app/askedAgain'

type Form = Schemas['BookingIn']

/** Keeping, moving and cancelling one time in the book. bookingId: of one that is there already. */
export function useBooking(bookingId: number | null, done: () => void) {
  const queries = useQueryClient()
  const onSuccess = async () => {
    await Promise.all(['today', 'bookings'].map((key) => queries.invalidateQueries({ queryKey: [key] })))
    done()
  }
  const keep = useMutation({
    ...PRESS_AGAIN,
    mutationFn: ({ dogId, form }: { dogId: number; form: Form }) =>
      bookingId === null ? api.book(dogId, form) : api.changeBooking(bookingId, form),
    onSuccess,
  })
  const cancel = useMutation({
    ...PRESS_AGAIN,
    mutationFn: () => (bookingId === null ? Promise.resolve(null) : api.cancelBooking(bookingId)),
    onSuccess,
  })
  return { keep, cancel, wrong: keep.failureReason ?? cancel.failureReason }
}

/** The times kept free for a dog from today on. */
export const useBookings = (dogId: number) =>
  useQuery({ queryKey: ['bookings', dogId], queryFn: () => api.bookings(dogId) })
