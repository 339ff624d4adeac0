import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useReducer, useRef, useState } from 'react'
import { api, Trouble } from '../../api/client'
import { inTurn } from '../../ui/inTurn'
import { beginKit, kitReducer, type Kit } from './kitMachine'

const RESTED_MS = 500
const AGAIN_MS = 2000

export type Keeping = { kind: 'kept' } | { kind: 'waiting' | 'refused'; reason: string }

/** The kit as it is edited, kept a moment after each change; what is refused stays on the screen with the reason. */
export function useKit(first: Kit) {
  const queries = useQueryClient()
  const [state, act] = useReducer(kitReducer, first, beginKit)
  const [keeping, setKeeping] = useState<Keeping>({ kind: 'kept' })
  const [round, setRound] = useState(0)
  const [oneByOne] = useState(() => inTurn(1))
  const kept = useRef(first)
  useEffect(() => {
    if (state.kit === kept.current) return
    let again: number | undefined
    const timer = window.setTimeout(() => {
      void oneByOne(async () => {
        try {
          await api.putKit(state.kit)
          kept.current = state.kit
          queries.setQueryData(['kit'], state.kit)
          void queries.invalidateQueries({ queryKey: ['cut'] })
          setKeeping({ kind: 'kept' })
        } catch (error) {
          const away = error instanceof Trouble && error.away
          setKeeping({ kind: away ? 'waiting' : 'refused', reason: (error as Error).message })
          if (away) again = window.setTimeout(() => setRound((n) => n + 1), AGAIN_MS)
        }
      })
    }, RESTED_MS)
    return () => {
      window.clearTimeout(timer)
      window.clearTimeout(again)
    }
  }, [state.kit, round, oneByOne, queries])
  return { state, act, keeping }
}
