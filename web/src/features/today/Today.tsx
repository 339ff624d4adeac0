import {
  CalendarDays,
  CalendarPlus,
  ChevronLeft,
  ChevronRight,
  Dog,
  Plus,
  Printer,
  Scissors,
  Store,
} from 'lucide-react'
import { useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { Tape } from '../../app/Tape'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { Settings } from '../../ui/Settings'
import { BookDialog } from '../../shared/BookDialog'
import type { Booked } from '../../shared/bookingMachine'
import { BringBack } from './BringBack'
import { dayAfter, dayWords } from '../../shared/days'
import { DayField } from '../../shared/DayField'
import { DueCard } from './DueCard'
import { FindDog } from '../../shared/FindDog'
import { NewDogDialog } from './NewDogDialog'
import { useDay, useTry } from './useToday'
import { Scroller } from '../../ui/Scroller'

const LINK =
  'inline-flex min-h-12 items-center gap-2 rounded-lg border border-rule bg-sheet px-4 font-semibold hover:border-ink'

/** Dogs in the order of the day; one tap goes on where a visit stands. */
export function Today() {
  const [search, setSearch] = useSearchParams()
  const chosen = search.get('day')
  const today = useDay(chosen)
  const [adding, setAdding] = useState(false)
  const [booking, setBooking] = useState<Booked | null>(null)
  const day = today.data?.day
  const go = (by: number) => day && setSearch({ day: dayAfter(day, by) })
  return (
    <div className="flex h-full flex-col">
      <Tape>
        <Settings />
      </Tape>
      <Scroller role="main" outer="flex-1" className="p-5">
        <div className="mx-auto flex max-w-6xl flex-col gap-4">
          <header className="flex flex-wrap items-center gap-x-3 gap-y-2">
            <h1 className="mr-1 text-3xl font-bold tracking-tight">
              {!day || today.data?.today ? 'Today' : dayWords(day)}
            </h1>
            <Button onClick={() => go(-1)} aria-label="The day before">
              <ChevronLeft size={20} aria-hidden />
            </Button>
            <Button onClick={() => go(1)} aria-label="The day after">
              <ChevronRight size={20} aria-hidden />
            </Button>
            <DayField
              label="Day"
              value={day ?? ''}
              onChange={(chosen) => setSearch({ day: chosen })}
              className="bg-sheet"
            />
            {today.data && !today.data.today && <Button onClick={() => setSearch({})}>Today</Button>}
            <span className="ml-auto flex flex-wrap items-center gap-2">
              <FindDog />
              <Button onClick={() => setBooking({ kind: 'new', day: day ?? '', dog: null })}>
                <CalendarPlus size={18} aria-hidden /> Book
              </Button>
              <Button look="firm" onClick={() => setAdding(true)}>
                <Plus size={20} aria-hidden /> New dog
              </Button>
            </span>
          </header>
          <BringBack />
          {today.failureReason && !today.data && <Notice tone="warn">{today.failureReason.message}</Notice>}
          {today.isPending && !today.failureReason && <Notice>Loading the day…</Notice>}
          {today.data?.dogs.length === 0 && (
            <EmptyDay today={today.data.today} onAdd={() => setAdding(true)} />
          )}
          <ul className="flex flex-col gap-2.5" data-day={day}>
            {today.data?.dogs.map((due) => (
              <li key={`${due.dog_id}-${due.booking?.id ?? 'open'}`}>
                <DueCard
                  due={due}
                  onChange={(booked) => setBooking({ kind: 'change', booking: booked, dog: due })}
                />
              </li>
            ))}
          </ul>
          <nav aria-label="The salon" className="flex flex-wrap gap-2">
            <Link to="/kit" className={LINK}>
              <Scissors size={18} aria-hidden /> Kit
            </Link>
            <Link to="/salon" className={LINK}>
              <Store size={18} aria-hidden /> Salon
            </Link>
            <a href="/api/calendar.ics" download className={LINK}>
              <CalendarDays size={18} aria-hidden /> The book as a calendar file
            </a>
          </nav>
        </div>
      </Scroller>
      <NewDogDialog open={adding} onClose={() => setAdding(false)} />
      {booking && <BookDialog booked={booking} onClose={() => setBooking(null)} />}
    </div>
  )
}

function EmptyDay({ today, onAdd }: { today: boolean; onAdd: () => void }) {
  return (
    <div className="graph rounded-xl border border-rule p-12 text-center">
      <p className="mb-2 text-2xl font-bold">No dogs {today ? 'yet' : 'booked on this day'}</p>
      <p className="mb-6 text-quiet">
        {today
          ? 'Enter the first one, or find a dog that was here before. Two photos and a calliper reading are enough for an outline with lengths.'
          : 'Book one, or go back to today.'}
      </p>
      <div className="flex flex-wrap justify-center gap-3">
        <Button look="firm" onClick={onAdd}>
          <Plus size={20} aria-hidden /> New dog
        </Button>
        {today && <TryFirst />}
      </div>
    </div>
  )
}

/** For who opens it for the first time: a dog to try on, and the card to print. */
function TryFirst() {
  const tried = useTry()
  return (
    <>
      <Button disabled={tried.isPending} onClick={() => tried.mutate()}>
        <Dog size={18} aria-hidden /> {tried.isPending ? 'Putting it in…' : 'Try it on a demo dog'}
      </Button>
      <a href="/api/scale-card.pdf?paper=a4" target="_blank" rel="noreferrer" className={LINK}>
        <Printer size={18} aria-hidden /> Print the scale card
      </a>
      {tried.error && <Notice tone="warn">{tried.error.message}</Notice>}
    </>
  )
}
