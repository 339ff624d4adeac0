import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useReducer } from 'react'
import { api, type Dog, type Schemas } from '../../api/client'
import { useSender } from '../../outbox/useSender'
import { isRecord, keep, recall } from '../../ui/shelf'
import { beginCut, cutReducer, remembered, type Log, type Remembered, type Sending } from './cutMachine'

type Sheet = Schemas['SheetOut']

const nameOf = (dog: Dog, started: string | null) => `dapwick.cut.${dog.id}.${started ?? 'new'}`

const isSending = (value: unknown): value is Sending =>
  isRecord(value) && typeof value['step'] === 'string' && isRecord(value['entry'])

const isRemembered = (value: unknown): value is Remembered =>
  isRecord(value) &&
  isRecord(value['held']) &&
  isRecord(value['spent']) &&
  Array.isArray(value['past']) &&
  Array.isArray(value['future']) &&
  Array.isArray(value['queue']) &&
  [...value['future'], ...value['queue']].every(isSending)

/** The cut at the table: its machine, kept in this browser, sent to the server as it can be reached. */
export function useCut(dog: Dog, sheet: Sheet, log: Log, started: string | null, version: string | null) {
  const name = nameOf(dog, started)
  const [state, act] = useReducer(cutReducer, null, () =>
    beginCut(sheet.steps, log, recall(localStorage, name, isRemembered)),
  )
  useEffect(() => {
    keep(localStorage, name, JSON.stringify(remembered(state)))
  }, [name, state])
  useEffect(() => {
    const look = () =>
      act({ type: document.visibilityState === 'visible' ? 'seen' : 'hidden', nowMs: Date.now() })
    look()
    document.addEventListener('visibilitychange', look)
    return () => {
      act({ type: 'hidden', nowMs: Date.now() })
      document.removeEventListener('visibilitychange', look)
    }
  }, [])
  const queries = useQueryClient()
  const sending = useSender(
    state.queue,
    async (one: Sending) => {
      await api.putStep(dog.id, one.step, one.entry, version)
      void queries.invalidateQueries({ queryKey: ['cut', dog.id], refetchType: 'none' })
    },
    (done) => act({ type: 'sent', sending: done }),
  )
  return { state, act, sending }
}
