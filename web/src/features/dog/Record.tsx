import { CalendarPlus, House, Package, Pencil, Trash2 } from 'lucide-react'
import { useState } from 'react'
import type { Dog, Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { useAttempt } from '../../ui/useAttempt'
import { BookDialog } from '../../shared/BookDialog'
import type { Booked } from '../../shared/bookingMachine'
import { shortDay, timeWords } from '../../shared/days'
import { AboutDialog } from './AboutDialog'
import { NextNote } from '../../shared/NextNote'
import { useBookings } from '../../shared/useBooking'
import { useRecord } from './useRecord'
import { familyWords, noteWords } from '../../shared/words'

type Props = { dog: Dog; visits: readonly Schemas['VisitThenOut'][] }

/** Notes and the owner's words of each visit, the book, and what can be done with the whole record. */
export function Record({ dog, visits }: Props) {
  const record = useRecord(dog)
  const [booking, setBooking] = useState<Booked | null>(null)
  const [about, setAbout] = useState(false)
  const { attempt, wrong, busy } = useAttempt()
  const ahead = useBookings(dog.id)
  const ended = dog.visits.at(-1)?.ended ?? false
  const named = { id: dog.id, name: dog.name }
  return (
    <div className="flex flex-col gap-4">
      <NextNote key={dog.visits.at(-1)?.id} dog={dog} />
      <div className="flex flex-wrap gap-2">
        <Button disabled={busy} onClick={() => void attempt(ended ? record.reopenVisit : record.endVisit)}>
          <House size={18} aria-hidden /> {ended ? 'Reopen visit' : 'End visit'}
        </Button>
        <Button onClick={() => setBooking({ kind: 'new', day: '', dog: named })}>
          <CalendarPlus size={18} aria-hidden /> Book the next
        </Button>
      </div>
      {ahead.data && ahead.data.length > 0 && (
        <ul aria-label="Booked">
          {ahead.data.map((one) => (
            <li key={one.id}>
              <button
                className="min-h-11 underline"
                onClick={() => setBooking({ kind: 'change', booking: one, dog: named })}
              >
                {shortDay(one.day)} {one.starts && `at ${timeWords(one.starts)}`}
              </button>{' '}
              <span className="text-quiet">{one.words}</span>
            </li>
          ))}
        </ul>
      )}
      <ol className="flex flex-col gap-3" aria-label="Visits, the latest first">
        {[...visits].reverse().map((visit, i) => (
          <li key={visit.id} className="border-l-4 border-rule pl-3">
            <b>{i === 0 ? 'This visit' : shortDay(visit.day)}</b>{' '}
            <span className="text-sm text-quiet">
              {[
                visit.stylist,
                visit.family && familyWords(visit.family),
                visit.minutes && `${Math.round(visit.minutes)} min`,
              ]
                .filter(Boolean)
                .join(' · ')}
            </span>
            {visit.owner_words && <p>“{visit.owner_words}”</p>}
            {visit.cut_notes.length > 0 && (
              <p className="text-warn">{visit.cut_notes.map(noteWords).join(', ')}</p>
            )}
            {i > 0 && visit.next_note && <p>{visit.next_note}</p>}
          </li>
        ))}
      </ol>
      <div className="flex flex-wrap gap-2 border-t border-rule pt-3">
        <Button onClick={() => setAbout(true)}>
          <Pencil size={18} aria-hidden /> Name and coat
        </Button>
        <a
          href={`/api/dogs/${dog.id}/bundle.zip`}
          download
          className="inline-flex min-h-12 items-center gap-2 rounded-lg border border-rule bg-sheet px-4 font-semibold hover:border-ink"
        >
          <Package size={18} aria-hidden /> Export as a bundle
        </a>
        <Button disabled={busy} onClick={() => void attempt(record.remove)}>
          <Trash2 size={18} aria-hidden /> Remove
        </Button>
      </div>
      {wrong}
      {booking && <BookDialog booked={booking} onClose={() => setBooking(null)} />}
      {about && <AboutDialog dog={dog} onClose={() => setAbout(false)} />}
    </div>
  )
}
