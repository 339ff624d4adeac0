import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { ArrowRight, CalendarPlus } from 'lucide-react'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { useDog } from '../../app/Visit'
import { api, type Dog } from '../../api/client'
import { Button } from '../../ui/Button'
import { Choices } from '../../ui/Choices'
import { Notice } from '../../ui/Notice'
import { MeasureTable } from '../marks/MeasureTable'
import { BandsDialog } from './BandsDialog'
import { HeadDrawing } from './HeadDrawing'

const MUZZLES = { any: 'not said', short: 'short', medium: 'medium', long: 'long' } as const
const EARS = { any: 'not said', prick: 'prick', tipped: 'tipped', button: 'button', drop: 'drop' } as const

/** The dog in its own numbers: its head drawn, its proportions in words, what is uneven, its visits. */
export function DogScreen() {
  const dog = useDog()
  const measured = useQuery({ queryKey: ['measure', dog.id], queryFn: () => api.measure(dog.id) })
  const head = useQuery({ queryKey: ['head', dog.id], queryFn: () => api.head(dog.id) })
  const [bands, setBands] = useState(false)
  const uneven = measured.data?.uneven ?? []
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_24rem] gap-4 p-4 portrait:grid-cols-1 portrait:overflow-auto">
      <section className="flex min-h-0 flex-col gap-4">
        <h1 className="sr-only">{dog.name}</h1>
        <div className="min-h-80 flex-1 rounded-xl border border-rule bg-sheet p-3">
          {head.failureReason && !head.data && <Notice tone="warn">{head.failureReason.message}</Notice>}
          {head.isPending && !head.failureReason && <Notice>Drawing the head…</Notice>}
          {head.data && (
            <HeadDrawing head={head.data} uneven={uneven} measures={measured.data?.measures ?? []} />
          )}
          {head.data === null && <Unmeasured dog={dog} />}
        </div>
        <Visits dog={dog} />
      </section>
      <aside className="flex min-h-0 flex-col gap-4 overflow-auto">
        <section className="shrink-0 rounded-xl border border-rule bg-sheet p-4">
          <h2 className="text-3xl font-bold tracking-tight">{dog.name}</h2>
          <p className="text-quiet">
            {[dog.breed, dog.born && `born ${dog.born}`].filter(Boolean).join(' · ')}
          </p>
          <ul className="mt-2 text-lg leading-snug">
            {measured.data?.proportions.map((p) => (
              <li key={p.measure} className={p.sure ? 'font-semibold' : ''}>
                {p.words}
                {!p.sure && <span className="text-sm text-quiet"> (not sure yet)</span>}
              </li>
            ))}
          </ul>
          <button className="mt-1 min-h-9 text-sm underline" onClick={() => setBands(true)}>
            Where do these words change?
          </button>
          {uneven.length > 0 && (
            <ol className="mt-3 border-l-4 border-off pl-3" aria-label="Uneven places">
              {uneven.map((u, i) => (
                <li key={u.pair}>
                  <b>{i + 1}</b> {u.words}, ±{Math.round(1.96 * u.sigma)}
                </li>
              ))}
            </ol>
          )}
          {measured.data?.solved && !uneven.length && (
            <p className="mt-3 text-quiet">Left and right differ by no more than the measuring error.</p>
          )}
        </section>
        <HeadKind dog={dog} />
        <section className="shrink-0 rounded-xl border border-rule bg-sheet p-4">
          <MeasureTable measured={measured.data} />
        </section>
      </aside>
      <BandsDialog open={bands} onClose={() => setBands(false)} />
    </main>
  )
}

function Unmeasured({ dog }: { dog: Dog }) {
  const stage = dog.photos.length ? 'marks' : 'photos'
  return (
    <div className="grid h-full place-items-center text-center">
      <div>
        <p className="mb-2 text-2xl font-bold">Not measured yet</p>
        <p className="mb-5 text-quiet">
          The head is drawn here from its own numbers once it is marked on a photo.
        </p>
        <Link
          to={`/dogs/${dog.id}/${stage}`}
          className="inline-flex min-h-12 items-center gap-2 rounded-lg bg-cut px-5 font-semibold text-sheet"
        >
          {stage === 'marks' ? 'Mark the photos' : 'Add photos'} <ArrowRight size={18} aria-hidden />
        </Link>
      </div>
    </div>
  )
}

function HeadKind({ dog }: { dog: Dog }) {
  const queries = useQueryClient()
  const change = useMutation({
    mutationFn: (kind: { muzzle: Dog['muzzle']; ears: Dog['ears'] }) => api.putKind(dog.id, kind),
    onSuccess: (answer) => {
      queries.setQueryData(['dog', dog.id], answer)
      for (const key of ['measure', 'head', 'next'])
        void queries.invalidateQueries({ queryKey: [key, dog.id] })
    },
  })
  return (
    <section className="shrink-0 rounded-xl border border-rule bg-sheet p-4">
      <h2 className="font-bold">What kind of head?</h2>
      <p className="mb-2 text-sm text-quiet">Helps to expect marks before they are placed.</p>
      <Choices
        label="Muzzle"
        value={dog.muzzle}
        choices={MUZZLES}
        onChange={(muzzle) => change.mutate({ muzzle, ears: dog.ears })}
      />
      <Choices
        label="Ears"
        value={dog.ears}
        choices={EARS}
        onChange={(ears) => change.mutate({ muzzle: dog.muzzle, ears })}
      />
      {change.error && (
        <p role="alert" className="mt-2 text-warn">
          {change.error.message}
        </p>
      )}
    </section>
  )
}

function Visits({ dog }: { dog: Dog }) {
  const queries = useQueryClient()
  const go = useNavigate()
  const start = useMutation({
    mutationFn: () => api.newVisit(dog.id),
    onSuccess: (answer) => {
      queries.setQueryData(['dog', dog.id], answer)
      for (const key of ['measure', 'head', 'next']) queries.removeQueries({ queryKey: [key, dog.id] })
      void queries.invalidateQueries({ queryKey: ['today'] })
      void go(`/dogs/${dog.id}/photos`)
    },
  })
  return (
    <section
      aria-label="Visits"
      className="flex shrink-0 items-center gap-3 overflow-x-auto rounded-xl border border-rule bg-sheet p-3"
    >
      {dog.visits.map((visit, i) => (
        <div key={visit.id} className="flex shrink-0 items-center gap-3 border-r border-rule pr-4" data-visit>
          {visit.photo_id ? (
            <img
              src={`/api/photos/${visit.photo_id}/screen`}
              alt=""
              className="h-16 w-20 rounded-lg object-cover"
            />
          ) : (
            <span className="graph h-16 w-20 rounded-lg" />
          )}
          <span>
            <b>{i === dog.visits.length - 1 ? 'Open visit' : visit.day}</b>
            <br />
            <span className="text-sm text-quiet">
              {visit.photos} {visit.photos === 1 ? 'photo' : 'photos'}
              {visit.outline && ` · ${visit.outline.replaceAll('_', ' ')}`}
              {visit.bone && ' · bone kept'}
            </span>
          </span>
        </div>
      ))}
      <Button className="ml-auto shrink-0" disabled={start.isPending} onClick={() => start.mutate()}>
        <CalendarPlus size={20} aria-hidden /> New visit
      </Button>
      {start.error && (
        <p role="alert" className="text-warn">
          {start.error.message}
        </p>
      )}
    </section>
  )
}
