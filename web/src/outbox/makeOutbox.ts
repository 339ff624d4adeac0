import type { Trouble } from '../api/client'
import { isRecord, keep, recall, type Shelf } from '../ui/shelf'
import {
  due,
  empty,
  of,
  outboxReducer,
  recalled,
  type Change,
  type Outbox,
  type OutboxAction,
  type Wish,
} from './outboxMachine'

const AGAIN_MS = 2000
const NAME = 'dapwick.outbox'

type Listener = () => void
/** A change that the server has kept: what it now holds, what it answered, and the version that made. */
export type Kept = {
  readonly part: string
  readonly body: unknown
  readonly answer: unknown
  readonly version: string | null
}
type KeptListener = (kept: Kept) => void
type Caller = { kept: () => void; refused: (why: Trouble) => void }
export type Send = (change: Change) => Promise<{ answer: unknown; version: string | null }>

/** Sends what is put into it, one after the other; kept in this browser until the server has it. */
export function makeOutbox(send: Send, shelf: Shelf, againMs = AGAIN_MS) {
  let box: Outbox = read(shelf)
  const listeners = new Set<Listener>()
  const keptListeners = new Set<KeptListener>()
  const callers = new Map<number, Caller[]>()
  let again: ReturnType<typeof setTimeout> | undefined

  function act(action: OutboxAction) {
    box = outboxReducer(box, action)
    keep(shelf, NAME, JSON.stringify({ changes: box.changes, next: box.next }))
    listeners.forEach((tell) => tell())
  }

  async function pump(): Promise<void> {
    clearTimeout(again)
    for (let change = due(box); change; change = due(box)) {
      act({ type: 'sending', id: change.id })
      try {
        const { answer, version } = await send(change)
        act({ type: 'kept', id: change.id, version })
        answered(change.id).forEach((caller) => caller.kept())
        const { part, body } = change
        keptListeners.forEach((tell) => tell({ part, body, answer, version }))
      } catch (error) {
        const trouble = error as Trouble
        if (trouble.away || trouble.status === 401) {
          act({ type: 'away' })
          again = setTimeout(() => void pump(), againMs)
          return
        }
        const id = change.id
        if (trouble.overtaken)
          act({ type: 'overtaken', id, reason: trouble.message, version: trouble.overtaken.version })
        else {
          act({ type: 'refused', id, reason: trouble.message })
          // Whoever asked tells it beside its field; nobody needs to be asked again.
          const asked = answered(id)
          if (asked.length) act({ type: 'theirs', part: change.part })
          asked.forEach((caller) => caller.refused(trouble))
        }
      }
    }
  }

  function answered(id: number): Caller[] {
    const asked = callers.get(id) ?? []
    callers.delete(id)
    return asked
  }

  void pump()
  return {
    get: () => box,
    subscribe(tell: Listener) {
      listeners.add(tell)
      return () => void listeners.delete(tell)
    },
    onKept(tell: KeptListener) {
      keptListeners.add(tell)
      return () => void keptListeners.delete(tell)
    },
    put(wish: Wish) {
      act({ type: 'put', wish })
      void pump()
    },
    /** The same for a field that tells a refusal itself: rejects with it, and the wish is let go. */
    ask(wish: Wish): Promise<void> {
      act({ type: 'put', wish })
      const id = of(box, wish.part).at(-1)?.id ?? 0
      const told = new Promise<void>((kept, refused) =>
        callers.set(id, [...(callers.get(id) ?? []), { kept, refused }]),
      )
      void pump()
      return told
    },
    /** Settle a part that another tablet has changed: this one's wish over it, or theirs. */
    settle(part: string, whose: 'mine' | 'theirs') {
      act({ type: whose, part })
      void pump()
    },
    tryNow: () => void pump(),
  }
}

function read(shelf: Shelf): Outbox {
  const kept = recall(shelf, NAME, isKept)
  return kept ? recalled(kept) : empty
}

const isKept = (value: unknown): value is Pick<Outbox, 'changes' | 'next'> =>
  isRecord(value) &&
  typeof value['next'] === 'number' &&
  Array.isArray(value['changes']) &&
  value['changes'].every(isChange)

const isChange = (value: unknown): value is Change =>
  isRecord(value) &&
  typeof value['id'] === 'number' &&
  [value['part'], value['words'], value['path']].every((text) => typeof text === 'string') &&
  (value['base'] === null || typeof value['base'] === 'string') &&
  isRecord(value['state']) &&
  ['waiting', 'refused', 'overtaken'].includes(String(value['state']['kind']))
