import { useEffect, useReducer, useRef, type Dispatch } from 'react'
import { isRecord, keep, recall, type Shelf } from '../ui/shelf'

type WithPast = { readonly past: readonly unknown[]; readonly future: readonly unknown[] }
type Kept = {
  readonly present: string
  readonly past: unknown[]
  readonly future: unknown[]
  readonly more?: Record<string, unknown>
}

const MOST = 40
const RESTED_MS = 300
const nameOf = (name: string) => `dapwick.past.${name}`

const none = () => ({})

const isKept = (value: unknown): value is Kept =>
  isRecord(value) &&
  typeof value['present'] === 'string' &&
  Array.isArray(value['past']) &&
  Array.isArray(value['future'])

/** The same for the same content, in whatever order it came. */
const named = (value: unknown) =>
  JSON.stringify(value, (_, part: unknown) =>
    part && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  )

/** Undo and redo as they were before a reload, as long as what they lead back from is still what is there. */
export function withPast<S extends WithPast>(start: S, present: unknown, name: string, shelf: Shelf): S {
  const kept = recall(shelf, nameOf(name), isKept)
  if (kept?.present !== named(present)) return start
  return { ...start, ...kept.more, past: kept.past, future: kept.future }
}

export function keepPast(
  state: WithPast,
  present: unknown,
  name: string,
  shelf: Pick<Storage, 'setItem'>,
  more: Record<string, unknown> = {},
): void {
  const kept: Kept = {
    more,
    present: named(present),
    past: state.past.slice(-MOST),
    future: state.future.slice(0, MOST),
  }
  // A full shelf costs the undo after a reload, nothing else.
  keep(shelf, nameOf(name), JSON.stringify(kept))
}

/**
 * A reducer whose undo and redo outlive a reload of the page. `presentOf`: what undo leads back from; `moreOf`: what
 * else is only here and comes back with it.
 */
export function useKeptPast<S extends WithPast, A>(
  reducer: (state: S, action: A) => S,
  begin: () => S,
  presentOf: (state: S) => unknown,
  name: string,
  moreOf: (state: S) => Record<string, unknown> = none,
): [S, Dispatch<A>] {
  const [state, act] = useReducer(reducer, null, () => {
    const start = begin()
    return withPast(start, presentOf(start), name, sessionStorage)
  })
  const parts = useRef({ presentOf, moreOf })
  useEffect(() => {
    parts.current = { presentOf, moreOf }
  })
  useEffect(() => {
    const rest = () =>
      keepPast(state, parts.current.presentOf(state), name, sessionStorage, parts.current.moreOf(state))
    const timer = window.setTimeout(rest, RESTED_MS)
    window.addEventListener('pagehide', rest)
    return () => {
      window.clearTimeout(timer)
      window.removeEventListener('pagehide', rest)
    }
  }, [state, name])
  return [state, act]
}
