import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useReducer } from 'react'
import { api } from '../../api/client'
import { forgetAnswers } from '../../kept/keptAnswers'
import { outbox } from '../../outbox/outbox'
import { useEntrance } from '../../shared/queries'
import { codeReducer, noCode } from './codeMachine'

const LATE_ANSWERS_MS = 3000

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
  useEffect(() => {
    forgetAnswers()
    // An answer that was on its way when the tablet was locked is kept a moment later: it goes too.
    setTimeout(forgetAnswers, LATE_ANSWERS_MS)
  }, [])
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
