import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useReducer } from 'react'
import { api, Trouble, type Dog } from '../../api/client'
import { nextWaiting, nothingComing, sortReducer, waitsForServer } from './sortMachine'

const AGAIN_MS = 2000

/** Several files at once, sent one after the other, each into the slot the server guesses for it. */
export function useSorting(dog: Dog) {
  const queries = useQueryClient()
  const [state, act] = useReducer(sortReducer, nothingComing)
  const due = nextWaiting(state)
  const away = waitsForServer(state)
  useEffect(() => {
    if (!due) return
    act({ type: 'sending', key: due.key })
    api
      .sortPhoto(dog.id, due.file, due.usual)
      .then((photo) => act({ type: 'in', key: due.key, photo }))
      .catch((error: Error) => {
        const kind = error instanceof Trouble && error.away ? 'away' : 'refused'
        act({ type: kind, key: due.key, reason: error.message })
      })
      .finally(() => void queries.invalidateQueries({ queryKey: ['dog', dog.id] }))
  }, [due, dog.id, queries])
  useEffect(() => {
    if (!away) return
    const timer = window.setTimeout(() => act({ type: 'again' }), AGAIN_MS)
    return () => window.clearTimeout(timer)
  }, [away])
  return { state, act }
}
