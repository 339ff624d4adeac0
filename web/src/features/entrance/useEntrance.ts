import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useReducer } from 'react'
import { api } from '../../api/client'
import { outbox } from '../../outbox/outbox'
import { useEntrance } from '../../shared/queries'
import { codeReducer, noCode } from './codeMachine'

/** Whether this tablet has to give the passcode before anything is shown. */
export function useKeptOut(): boolean {
  const queries = useQueryClient()
  const entrance = useEntrance()
  useEffect(() => {
    const out = () => void queries.invalidateQueries({ queryKey: ['entrance'] })
    window.addEventListener('dapwick-kept-out', out)
    return () => window.removeEventListener('dapwick-kept-out', out)
  }, [queries])
  return Boolean(entrance.data?.passcode && !entrance.data.entered)
}

/** The passcode given once, for a tablet that is not let in yet. */
export function useEntering() {
  const queries = useQueryClient()
  const [state, act] = useReducer(codeReducer, noCode)
  async function give() {
    try {
      queries.setQueryData(['entrance'], await api.enter(state.code))
      outbox.tryNow()
      await queries.invalidateQueries()
    } catch (error) {
      act({ type: 'refused', reason: (error as Error).message })
    }
  }
  return { state, act, give }
}

/** The passcode again, asked where something was refused for it. */
export function useVouching() {
  const queries = useQueryClient()
  const [state, act] = useReducer(codeReducer, noCode)
  useEffect(() => {
    const ask = () => act({ type: 'ask' })
    window.addEventListener('dapwick-vouch', ask)
    return () => window.removeEventListener('dapwick-vouch', ask)
  }, [])
  async function give() {
    try {
      await api.enterAgain(state.code)
      act({ type: 'close' })
      await queries.invalidateQueries({ queryKey: ['entrance'] })
    } catch (error) {
      act({ type: 'refused', reason: (error as Error).message })
    }
  }
  return { state, act, give }
}
