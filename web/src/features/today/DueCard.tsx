import { CalendarClock, ChevronRight, Clock, House } from 'lucide-react'
import { Link } from 'react-router'
import { STAGES } from '../../app/Tape'
import { screenUrl, type Schemas } from '../../api/client'
import { shortDay, timeWords } from '../../shared/days'
import { useBegin } from './useToday'

type Due = Schemas['DueOut']
type Booking = Schemas['BookingOut']

/** One dog of the day: when, how long its head will take, what is known and what is old, last time's note. */
export function DueCard({ due, onChange }: { due: Due; onChange: (booking: Booking) => void }) {
  const begin = useBegin()
  const { booking } = due
  return (
    <div className="relative flex items-stretch overflow-hidden rounded-xl border border-rule bg-sheet">
      <div className="flex w-24 shrink-0 flex-col items-center justify-center border-r portrait:w-18 border-rule bg-tape/30 text-center">
        {booking?.starts ? (
          <>
            <b className="text-xl">{timeWords(booking.starts)}</b>
            <span className="text-sm">to {timeWords(booking.ends)}</span>
          </>
        ) : (
          <span className="px-1 text-sm">
            {due.left_open ? `left open ${shortDay(due.left_open)}` : 'walked in'}
          </span>
        )}
      </div>
      {due.picture ? (
        <img
          src={screenUrl({ picture: due.picture })}
          alt=""
          loading="lazy"
          className="w-32 shrink-0 object-cover portrait:w-24"
        />
      ) : (
        <span className="graph w-32 shrink-0 portrait:w-24" />
      )}
      <div className="min-w-0 flex-1 px-4 py-2.5">
        <p className="flex flex-wrap items-baseline gap-x-3">
          <Link
            to={`/dogs/${due.dog_id}`}
            className="text-2xl font-bold tracking-tight underline-offset-4 hover:underline"
          >
            {due.name}
          </Link>
          <span className="text-quiet">{due.breed}</span>
        </p>
        <p className="flex flex-wrap gap-x-4 gap-y-0.5">
          <span data-expected={Math.round(due.expected.minutes)}>
            <Clock size={16} aria-hidden className="mr-1.5 inline align-[-2px]" />
            head about <b className="whitespace-nowrap">{Math.round(due.expected.minutes)} min</b>{' '}
            <span className="text-quiet">
              ({Math.round(due.expected.low)}–{Math.round(due.expected.high)}
              {due.expected.heads > 0 && `, from ${due.expected.heads} of its own`})
            </span>
          </span>
          {due.known.map((known) => (
            <span key={known.words} className={known.fresh ? 'text-quiet' : 'font-semibold text-warn'}>
              {known.fresh ? '' : '! '}
              {known.words}
            </span>
          ))}
        </p>
        {(due.note || booking?.words) && (
          <p className="line-clamp-2">{[due.note, booking?.words].filter(Boolean).join(' · ')}</p>
        )}
        {due.begun && <Stages stages={due.stages} />}
        {begin.failureReason && (
          <p role="alert" className="text-warn">
            {begin.failureReason.message}
          </p>
        )}
      </div>
      {booking && !due.ended && (
        <button
          className="grid w-14 shrink-0 portrait:w-12 place-items-center text-quiet hover:text-ink"
          onClick={() => onChange(booking)}
          aria-label={`Change the booking of ${due.name}`}
        >
          <CalendarClock size={20} aria-hidden />
        </button>
      )}
      <Onward due={due} begin={() => booking && begin.mutate(booking)} pending={begin.isPending} />
    </div>
  )
}

const ON =
  'flex w-40 shrink-0 items-center portrait:w-28 justify-center gap-1 border-l border-rule text-lg font-bold hover:bg-tape/40'

/** Where one tap goes: on with the visit, or begin it. */
function Onward({ due, begin, pending }: { due: Due; begin: () => void; pending: boolean }) {
  if (due.ended)
    return (
      <Link to={`/dogs/${due.dog_id}`} className={`${ON} text-quiet`}>
        <House size={20} aria-hidden /> gone home
      </Link>
    )
  if (!due.begun)
    return (
      <button className={ON} onClick={begin} disabled={pending} aria-label={`Begin with ${due.name}`}>
        Begin <ChevronRight size={22} aria-hidden />
      </button>
    )
  const next = STAGES.find((stage) => stage.id === due.next)
  return (
    <Link
      to={`/dogs/${due.dog_id}${next ? `/${next.id}` : ''}`}
      className={ON}
      aria-label={`${due.name}: ${next?.words ?? 'done'}`}
    >
      {next?.words ?? 'Done'} <ChevronRight size={22} aria-hidden />
    </Link>
  )
}

const MARK: Readonly<Record<string, string>> = { done: '✓', stale: '↻', needs_you: '○' }

function Stages({ stages }: { stages: Due['stages'] }) {
  return (
    <p className="mt-0.5 flex flex-wrap gap-x-4 text-sm">
      {STAGES.map((stage) => (
        <span key={stage.id} className={stages[stage.id] === 'done' ? 'font-semibold' : 'text-quiet'}>
          {MARK[stages[stage.id] ?? 'needs_you']} {stage.words.toLowerCase()}
        </span>
      ))}
    </p>
  )
}
