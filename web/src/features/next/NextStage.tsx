import { CalendarPlus, House, IdCard, X } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import type { Dog } from '../../api/client'
import { useDog } from '../../app/Visit'
import { BookDialog } from '../../shared/BookDialog'
import { dayWords, shortDay, timeWords } from '../../shared/days'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { UndoButtons } from '../../undo/UndoButtons'
import { NextNote } from '../../shared/NextNote'
import { NoteParts } from './NoteParts'
import { OwnerCard } from './OwnerCard'
import { WeekStrip } from './WeekStrip'
import type { NextTime } from './nextMachine'
import { useBookNext, useEnding, useNextTime, useNote } from './useNext'
import { Scroller } from '../../ui/Scroller'

/** After the check: what shows first and when, the next visit, the note for it, home. */
export function NextStage() {
  const dog = useDog()
  const next = useNextTime(dog)
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_25rem] gap-4 p-4 max-[1100px]:grid-cols-[minmax(0,1fr)_21rem] portrait:grid-cols-1 portrait:overflow-auto">
      <h1 className="sr-only">Next time for {dog.name}</h1>
      {next.data ? (
        <>
          <Coming dog={dog} next={next.data} />
          <Note key={dog.visits.at(-1)?.id} dog={dog} next={next.data} />
        </>
      ) : (
        <Notice tone={next.failureReason ? 'warn' : 'plain'}>
          {next.failureReason?.message ?? 'Working it out…'}
        </Notice>
      )}
    </main>
  )
}

function Coming({ dog, next }: { dog: Dog; next: NextTime }) {
  return (
    <Scroller
      role="region"
      aria-label="What shows first"
      tabIndex={0}
      outer="rounded-xl border border-rule bg-sheet overflow-hidden"
      className="flex flex-col gap-4 p-5"
    >
      {next.reason ? (
        <Notice>{next.reason}</Notice>
      ) : (
        <>
          <div>
            <p className="text-3xl font-bold tracking-tight" data-proposed={next.day}>
              {next.day && <>Come back about {shortDay(next.day)}</>}
            </p>
            <p className="text-lg" data-why-then>
              {next.words}
            </p>
          </div>
          <WeekStrip next={next} />
        </>
      )}
      <Booking dog={dog} next={next} />
      <Growth next={next} />
    </Scroller>
  )
}

function Booking({ dog, next }: { dog: Dog; next: NextTime }) {
  const { book, cancel, wrong } = useBookNext(dog, next)
  const [other, setOther] = useState(false)
  const [card, setCard] = useState(false)
  const booked = next.booked[0]
  return (
    <div className="flex flex-col gap-2">
      {booked ? (
        <div className="flex flex-wrap items-center gap-3" data-booked={booked.day}>
          <p className="text-2xl font-bold">
            Booked {dayWords(booked.day)}
            {booked.starts && `, ${timeWords(booked.starts)}`}
          </p>
          <a
            href={`/api/bookings/${booked.id}/calendar.ics`}
            download
            className="inline-flex min-h-12 items-center underline"
          >
            Calendar file
          </a>
          <Button disabled={cancel.isPending} onClick={() => cancel.mutate(booked.id)}>
            <X size={18} aria-hidden /> Not then
          </Button>
        </div>
      ) : (
        <>
          <h2 className="text-lg font-bold">Nearest free times</h2>
          <div className="flex flex-wrap gap-2">
            {next.free.map((free) => (
              <Button
                key={`${free.day} ${free.starts}`}
                look={free === next.free[0] ? 'firm' : 'plain'}
                disabled={book.isPending}
                onClick={() => book.mutate(free)}
                data-free={`${free.day} ${free.starts}`}
              >
                {shortDay(free.day)} <b>{timeWords(free.starts)}</b>
              </Button>
            ))}
            <Button onClick={() => setOther(true)}>
              <CalendarPlus size={18} aria-hidden /> Another time
            </Button>
          </div>
        </>
      )}
      {wrong && <Notice tone="warn">{wrong.message}</Notice>}
      {next.card.length > 0 && (
        <Button className="self-start" onClick={() => setCard(true)}>
          <IdCard size={20} aria-hidden /> Card for the owner
        </Button>
      )}
      {other && (
        <BookDialog
          booked={{ kind: 'new', day: next.day ?? '', dog: { id: dog.id, name: dog.name } }}
          onClose={() => setOther(false)}
        />
      )}
      {card && <OwnerCard dog={dog} next={next} onClose={() => setCard(false)} />}
    </div>
  )
}

function Growth({ next }: { next: NextTime }) {
  if (!next.rates.length) return null
  const how =
    next.growth_visits > 0
      ? `from ${next.growth_visits} earlier ${next.growth_visits === 1 ? 'visit' : 'visits'} of its own`
      : 'as this kind of coat usually does, until it was seen twice'
  return (
    <details>
      <summary className="min-h-12 cursor-pointer py-3 font-semibold">How fast it grows, {how}</summary>
      <table className="text-left">
        <tbody>
          {next.rates.map((rate) => (
            <tr key={rate.zone} data-rate={rate.zone}>
              <td className="pr-6">{rate.zone_words}</td>
              <td className="pr-4 text-right font-semibold tabular-nums">
                {rate.mm_a_month.toFixed(0)} mm a month
              </td>
              <td className="text-quiet tabular-nums">
                {rate.low.toFixed(0)} to {rate.high.toFixed(0)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {next.disagreeing.map((words) => (
        <p key={words} className="text-warn">
          {words}
        </p>
      ))}
    </details>
  )
}

function Note({ dog, next }: { dog: Dog; next: NextTime }) {
  const [state, act] = useNote(dog, next)
  const ending = useEnding(dog)
  return (
    <aside className="flex min-h-0 flex-col gap-3">
      <Scroller
        aria-label="The note"
        tabIndex={0}
        outer="flex-1 rounded-xl border border-rule bg-sheet overflow-hidden"
        className="flex flex-col gap-3 p-4"
      >
        <div className="flex items-start gap-2">
          <h2 className="min-w-0 flex-1 text-xl font-bold">For whoever does it next</h2>
          <UndoButtons
            undo={state.past.length ? () => act({ type: 'undo' }) : null}
            redo={state.future.length ? () => act({ type: 'redo' }) : null}
          />
        </div>
        <NoteParts next={next} said={state.said} act={act} />
        <NextNote key={dog.visits.at(-1)?.id} dog={dog} />
      </Scroller>
      {ending.failureReason && <Notice tone="warn">{ending.failureReason.message}</Notice>}
      <Button
        look={next.ended ? 'plain' : 'firm'}
        className="min-h-14 text-lg"
        disabled={ending.isPending}
        onClick={() => ending.mutate(next.ended)}
      >
        <House size={20} aria-hidden />{' '}
        {next.ended ? 'Gone home. Open the visit again' : 'Goes home: end the visit'}
      </Button>
      {next.ended && (
        <Link
          to="/"
          className="inline-flex min-h-14 items-center justify-center rounded-lg bg-cut text-lg font-semibold text-sheet"
        >
          On with Today
        </Link>
      )}
    </aside>
  )
}
