import { useEffect, useRef, useState } from 'react'
import type { Dog } from '../../api/client'
import { change, partOf, usePart, useWished } from '../../outbox/useOutbox'

const RESTED_MS = 500

/** What the next visit is to know; it stands on Today when the dog comes again. */
export function NextNote({ dog }: { dog: Dog }) {
  const wished = useWished(dog, 'next-note')?.note
  const [typed, setTyped] = useState<string | null>(null)
  const note = typed ?? wished ?? dog.next_note
  const part = usePart(partOf(dog.id, 'next-note'))
  const doing = typed === null ? part : 'waiting'
  const newest = useRef({ dog, typed })
  useEffect(() => {
    newest.current = { dog, typed }
  })
  function keep() {
    const { dog: now, typed: words } = newest.current
    if (words === null) return
    if (words !== now.next_note) change(now, 'next-note', { note: words })
    setTyped(null)
  }
  useEffect(() => {
    if (typed === null) return
    const timer = window.setTimeout(keep, RESTED_MS)
    return () => window.clearTimeout(timer)
  }, [typed])
  return (
    <label className="block">
      <span className="mb-1 flex justify-between font-semibold">
        Note for next time
        <span className="text-sm font-normal text-quiet" data-note={doing}>
          {doing === 'kept' ? (note ? 'saved' : '') : doing === 'away' ? 'kept here' : 'saving…'}
        </span>
      </span>
      <textarea
        value={note}
        rows={2}
        maxLength={400}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        placeholder={dog.note || 'What the next visit is to know'}
        className="w-full rounded-lg border border-rule bg-paper px-3 py-2"
      />
    </label>
  )
}
