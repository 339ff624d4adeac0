import { useCallback, useEffect, useRef } from 'react'
import { useQueryClient } from '@tanstack/react-query'
import type { Versioned } from '../../api/client'
import { outbox } from '../../outbox/outbox'
import { of, wished } from '../../outbox/outboxMachine'
import { useBox, useKept } from '../../outbox/useOutbox'
import { useKeptPast } from '../../undo/keptPast'
import { beginKit, kitReducer, type Kit } from './kitMachine'

const RESTED_MS = 500
const PART = 'kit'

export type Keeping = { kind: 'kept' } | { kind: 'waiting' | 'refused'; reason: string }

/** The kit as it is edited, kept a moment after each change; what is refused stays on the screen with the reason. */
export function useKit(first: Versioned<Kit>) {
  const queries = useQueryClient()
  const [state, act] = useKeptPast(
    kitReducer,
    () => beginKit((wished(outbox.get(), PART) as Kit | undefined) ?? first.value),
    (s) => s.kit,
    PART,
  )
  const base = useRef(first.version)
  const put = useRef(state.kit)
  useKept(({ part, version }) => {
    if (part !== PART) return
    base.current = version
    void queries.invalidateQueries({ queryKey: ['cut'] })
  })
  const seen = useRef(state.kit)
  const send = useCallback(() => {
    if (seen.current === put.current) return
    put.current = seen.current
    outbox.put({ part: PART, words: 'The kit', path: '/api/kit', body: seen.current, base: base.current })
  }, [])
  useEffect(() => {
    seen.current = state.kit
    const timer = window.setTimeout(send, RESTED_MS)
    return () => window.clearTimeout(timer)
  }, [state.kit, send])
  useEffect(() => {
    // Whoever leaves within that moment leaves nothing behind.
    window.addEventListener('pagehide', send)
    return () => {
      window.removeEventListener('pagehide', send)
      send()
    }
  }, [send])
  return { state, act, keeping: useKeeping() }
}

function useKeeping(): Keeping {
  const box = useBox()
  const [mine] = of(box, PART)
  if (mine && mine.state.kind !== 'waiting') return { kind: 'refused', reason: mine.state.reason }
  return mine && box.away
    ? { kind: 'waiting', reason: 'Kept here; sent when the server answers.' }
    : { kind: 'kept' }
}
