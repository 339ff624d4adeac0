import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useReducer, useRef, useState } from 'react'
import { api, Trouble, type Dog, type Schemas } from '../../api/client'
import { beginCut, cutReducer, remembered, type Log, type Remembered, type Sending } from './cutMachine'

type Sheet = Schemas['SheetOut']
const AGAIN_MS = 2000

const nameOf = (dog: Dog, started: string | null) => `dapwick.cut.${dog.id}.${started ?? 'new'}`

function recalled(name: string): Remembered | null {
  const text = localStorage.getItem(name)
  return text ? (JSON.parse(text) as Remembered) : null
}

/** The cut at the table: its machine, kept in this browser, sent to the server as it can be reached. */
export function useCut(dog: Dog, sheet: Sheet, log: Log, started: string | null) {
  const name = nameOf(dog, started)
  const [state, act] = useReducer(cutReducer, null, () => beginCut(sheet.steps, log, recalled(name)))
  useEffect(() => {
    localStorage.setItem(name, JSON.stringify(remembered(state)))
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
  const sending = useSent(dog.id, state.queue, (done) => act({ type: 'sent', sending: done }))
  return { state, act, sending }
}

/** Sends what was said in its order, one at a time; a server that is away is tried again until it has it. */
function useSent(dogId: number, queue: readonly Sending[], sent: (done: Sending) => void) {
  const queries = useQueryClient()
  const [trouble, setTrouble] = useState<Trouble | null>(null)
  const [round, setRound] = useState(0)
  const tell = useRef(sent)
  const busy = useRef(false)
  useEffect(() => {
    tell.current = sent
  })
  const first = queue[0]
  useEffect(() => {
    let again: number | undefined
    async function send(one: Sending) {
      busy.current = true
      try {
        await api.putStep(dogId, one.step, one.entry)
        setTrouble(null)
        tell.current(one)
        void queries.invalidateQueries({ queryKey: ['cut', dogId], refetchType: 'none' })
      } catch (error) {
        setTrouble(error as Trouble)
        again = window.setTimeout(() => setRound((n) => n + 1), AGAIN_MS)
      } finally {
        busy.current = false
      }
    }
    if (first && !busy.current) void send(first)
    return () => window.clearTimeout(again)
  }, [first, round, dogId, queries])
  return { waiting: queue.length, trouble }
}
