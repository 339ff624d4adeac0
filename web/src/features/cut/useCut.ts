import { useEffect, useReducer } from 'react'
import type { Dog, Schemas } from '../../api/client'
import { outbox } from '../../outbox/outbox'
import { withPrefix } from '../../outbox/outboxMachine'
import { useBox } from '../../outbox/useOutbox'
import { isRecord, keep, recall } from '../../ui/shelf'
import {
  beginCut,
  cutReducer,
  remembered,
  type Entry,
  type Log,
  type Remembered,
  type Sending,
} from './cutMachine'

type Sheet = Schemas['SheetOut']

const nameOf = (dog: Dog, started: string | null) => `dapwick.cut.${dog.id}.${started ?? 'new'}`
const partsOf = (dog: Dog) => `cut-step/${dog.id}/`

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

/** What was said of this cut's steps and is on its way to the server. */
const onTheWay = (dog: Dog, version: string | null): Sending[] =>
  withPrefix(outbox.get(), partsOf(dog))
    .filter((change) => change.base === version || change.base === null)
    .map((change) => ({ step: change.part.slice(partsOf(dog).length), entry: change.body as Entry }))

/** The cut at the table: its machine, kept in this browser; what is said goes out by the outbox. */
export function useCut(dog: Dog, sheet: Sheet, log: Log, started: string | null, version: string | null) {
  const name = nameOf(dog, started)
  const [state, act] = useReducer(cutReducer, null, () =>
    beginCut(sheet.steps, log, onTheWay(dog, version), recall(localStorage, name, isRemembered)),
  )
  useEffect(() => {
    for (const sending of state.queue) {
      const title = sheet.steps.find((one) => one.id === sending.step)?.title ?? sending.step
      outbox.put({
        part: partsOf(dog) + sending.step,
        words: `“${title}” of ${dog.name}`,
        path: `/api/dogs/${dog.id}/cut/steps/${encodeURIComponent(sending.step)}`,
        body: sending.entry,
        base: version,
      })
      act({ type: 'handed_on', sending })
    }
  }, [state.queue, dog, sheet, version])
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
  const waiting = withPrefix(useBox(), partsOf(dog)).filter((change) => change.state.kind === 'waiting')
  return { state, act, waiting: waiting.length + state.queue.length }
}
