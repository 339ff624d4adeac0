import type { Dog } from '../api/client'
import { useNextNote } from './useNextNote'

/** What the next visit is to know; it stands on Today when the dog comes again. */
export function NextNote({ dog }: { dog: Dog }) {
  const { note, doing, setTyped, keep } = useNextNote(dog)
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
