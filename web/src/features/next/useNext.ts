import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { api, type Dog } from '../../api/client'
import { PRESS_AGAIN } from '../../app/askedAgain'
import { change, partOf, useKept, useWished } from '../../outbox/useOutbox'
import { putAnswer } from '../../shared/answers'
import { useKeptPast } from '../../undo/keptPast'
import { beginNote, noteReducer, saidIn, type NextTime, type NoteAction } from './nextMachine'

/** What shows first, the next visit, the note for it. */
export const useNextTime = (dog: Dog) =>
  useQuery({
    queryKey: ['next-time', dog.id, dog.versions['outline'] ?? '', dog.versions['touched_up'] ?? ''],
    queryFn: () => api.nextTime(dog.id),
    placeholderData: (before) => before,
  })

/** The note's parts: at once on the screen, on the server as soon as it can be. */
export function useNote(dog: Dog, next: NextTime) {
  const wished = useWished(dog, 'for-next')?.said
  const [state, act] = useKeptPast(
    noteReducer,
    () => beginNote({ ...(wished ?? saidIn(next)) }),
    (s) => s.said,
    `note.${dog.id}.${dog.visits.at(-1)?.id ?? 0}`,
  )
  const put = useRef(state.said)
  useEffect(() => {
    if (put.current === state.said) return
    put.current = state.said
    change(dog, 'for-next', { said: { ...state.said } })
  }, [dog, state.said])
  const queries = useQueryClient()
  useKept(({ part }) => {
    if (part === partOf(dog.id, 'for-next'))
      void queries.invalidateQueries({ queryKey: ['next-time', dog.id] })
  })
  return [state, act] as const satisfies readonly [typeof state, (action: NoteAction) => void]
}

/** One tap books, one takes it back. */
export function useBookNext(dog: Dog, next: NextTime) {
  const queries = useQueryClient()
  const onSuccess = () =>
    Promise.all(
      ['next-time', 'today', 'bookings'].map((key) => queries.invalidateQueries({ queryKey: [key] })),
    )
  const book = useMutation({
    ...PRESS_AGAIN,
    mutationFn: ({ day, starts }: { day: string; starts: string }) =>
      api.book(dog.id, { day, starts, minutes: next.minutes, words: '' }),
    onSuccess,
  })
  const cancel = useMutation({
    ...PRESS_AGAIN,
    mutationFn: (id: number) => api.cancelBooking(id),
    onSuccess,
  })
  return { book, cancel, wrong: book.failureReason ?? cancel.failureReason }
}

/** The dog goes home, or has not gone yet. */
export function useEnding(dog: Dog) {
  const queries = useQueryClient()
  return useMutation({
    ...PRESS_AGAIN,
    mutationFn: (ended: boolean) => (ended ? api.reopenVisit(dog.id) : api.endVisit(dog.id)),
    onSuccess: async (answer) => {
      putAnswer(queries, ['dog', dog.id], answer)
      await Promise.all(
        ['next-time', 'today', 'history'].map((key) => queries.invalidateQueries({ queryKey: [key] })),
      )
    },
  })
}
