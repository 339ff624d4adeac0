import { useState } from 'react'
import { Link } from 'react-router'
import { Panel } from '../../ui/Panel'
import { CalendarPlus } from 'lucide-react'
import { screenUrl, type Dog } from '../../api/client'
import { Button } from '../../ui/Button'
import { shortDay } from '../../shared/days'
import { useNewVisit } from './useRecord'
import { familyWords } from '../../shared/words'
import { Scroller } from '../../ui/Scroller'

/** The dog's visits as a strip, older ones fainter; a new one begins here. */
export function Visits({ dog }: { dog: Dog }) {
  const start = useNewVisit(dog)
  const [asking, setAsking] = useState(false)
  const open = dog.visits.at(-1)
  // An empty visit is taken up as it is; in one with photos somebody may be at work.
  const begun = open !== undefined && !open.ended && open.photos > 0
  const last = dog.visits.length - 1
  return (
    <section
      aria-label="Visits"
      className="flex shrink-0 items-center gap-3 rounded-xl border border-rule bg-sheet p-3"
    >
      <Scroller across outer="flex-1" tabIndex={0} className="flex items-center gap-3" fromEnd>
        {dog.visits.map((visit, i) => (
          <div
            key={visit.id}
            className="flex shrink-0 items-center gap-3 border-r border-rule pr-4"
            data-visit
          >
            {visit.picture ? (
              <img
                src={screenUrl({ picture: visit.picture })}
                alt=""
                className="h-16 w-20 rounded-lg object-cover"
                style={{ opacity: Math.max(0.35, 1 - 0.2 * (last - i)) }}
              />
            ) : (
              <span className="graph h-16 w-20 rounded-lg" />
            )}
            <span>
              <b>{i < last ? shortDay(visit.day) : visit.ended ? 'Last visit' : 'Open visit'}</b>
              <br />
              <span className="text-sm text-quiet">
                {visit.photos} {visit.photos === 1 ? 'photo' : 'photos'}
                {visit.bone && ' · bone kept'}
                {visit.outline && <span className="block">{familyWords(visit.outline)}</span>}
              </span>
            </span>
          </div>
        ))}
      </Scroller>
      <Button
        className="shrink-0"
        disabled={start.isPending}
        onClick={() => (begun ? setAsking(true) : start.mutate())}
      >
        <CalendarPlus size={20} aria-hidden /> New visit
      </Button>
      {start.error && (
        <p role="alert" className="text-warn">
          {start.error.message}
        </p>
      )}
      {asking && (
        <Panel title="A visit is open" onClose={() => setAsking(false)}>
          <p className="mb-5 text-lg">
            {dog.name} has an open visit with {open?.photos} {open?.photos === 1 ? 'photo' : 'photos'}. A new
            one ends it.
          </p>
          <div className="flex flex-wrap justify-end gap-3">
            <Button disabled={start.isPending} onClick={() => start.mutate()}>
              End it, begin a new one
            </Button>
            <Link
              to={`/dogs/${dog.id}/photos`}
              className="inline-flex min-h-12 items-center rounded-lg bg-cut px-4 font-semibold text-sheet"
            >
              Go on with the open one
            </Link>
          </div>
        </Panel>
      )}
    </section>
  )
}
