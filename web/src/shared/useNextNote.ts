import { useCallback, useEffect, useRef, useState } from 'react'
import type { Dog } from '../api/client'
import { change, partOf, usePart, useWished } from '../outbox/useOutbox'

const RESTED_MS = 500

/** The note for next time as it is typed: kept a moment after the last letter, and whenever its page is left. */
export function useNextNote(dog: Dog) {
  const wished = useWished(dog, 'next-note')?.note
  const part = usePart(partOf(dog.id, 'next-note'))
  const [typed, setTyped] = useState<string | null>(null)
  const newest = useRef({ dog, typed })
  useEffect(() => {
    newest.current = { dog, typed }
  })
  const keep = useCallback(() => {
    const { dog: now, typed: words } = newest.current
    if (words === null) return
    newest.current = { dog: now, typed: null }
    if (words !== now.next_note) change(now, 'next-note', { note: words })
    setTyped(null)
  }, [])
  useEffect(() => {
    if (typed === null) return
    const timer = window.setTimeout(keep, RESTED_MS)
    return () => window.clearTimeout(timer)
  }, [typed, keep])
  useEffect(() => {
    // Whoever leaves within that moment leaves nothing behind.
    window.addEventListener('pagehide', keep)
    return () => {
      window.removeEventListener('pagehide', keep)
      keep()
    }
  }, [keep])
  return { note: typed ?? wished ?? dog.next_note, doing: typed === null ? part : 'waiting', setTyped, keep }
}
