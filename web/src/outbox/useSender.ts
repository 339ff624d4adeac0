import { useEffect, useRef, useState } from 'react'
import { Trouble } from '../api/client'

const AGAIN_MS = 2000

/** The server's own no; being away, or wanting the passcode first, is none. */
const isRefusal = (error: unknown): error is Trouble =>
  error instanceof Trouble && !error.away && error.status !== 401

/**
 * Sends a queue's head, one at a time and in its order; a server that is away is tried again until it has it. `sent`
 * takes it off the queue. The head may be replaced while it is on the wire: then the new one goes next. One that the
 * server refuses is told and taken off: it holds up none of those behind it.
 */
export function useSender<T>(
  queue: readonly T[],
  send: (one: T) => Promise<unknown>,
  sent: (one: T) => void,
) {
  const [trouble, setTrouble] = useState<Error | null>(null)
  const [refused, setRefused] = useState<Error | null>(null)
  const [round, setRound] = useState(0)
  const now = useRef({ send, sent })
  const busy = useRef(false)
  useEffect(() => {
    now.current = { send, sent }
  })
  const first = queue[0]
  useEffect(() => {
    let again: number | undefined
    async function go(one: T) {
      busy.current = true
      try {
        await now.current.send(one)
        setTrouble(null)
        now.current.sent(one)
        // The head may have changed meanwhile without a turn of its own.
        setRound((n) => n + 1)
      } catch (error) {
        if (isRefusal(error)) {
          setTrouble(null)
          setRefused(error)
          now.current.sent(one)
          setRound((n) => n + 1)
          return
        }
        setTrouble(error as Error)
        again = window.setTimeout(() => setRound((n) => n + 1), AGAIN_MS)
      } finally {
        busy.current = false
      }
    }
    if (first !== undefined && !busy.current) void go(first)
    return () => window.clearTimeout(again)
  }, [first, round])
  return { waiting: queue.length, trouble, refused, forget: () => setRefused(null) }
}
