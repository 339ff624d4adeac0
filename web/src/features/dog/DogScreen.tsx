import { ArrowRight } from 'lucide-react'
import { Link } from 'react-router'
import { useDog } from '../../app/Visit'
import type { Dog } from '../../api/client'
import { Notice } from '../../ui/Notice'
import { DogPanel } from './DogPanel'
import { HeadDrawing } from '../../shared/HeadDrawing'
import { outlinesOf } from '../../shared/outlines'
import { Visits } from './Visits'
import { useDogHead, useMeasured } from '../../shared/queries'
import { useHistory } from './useRecord'

/** The dog in its own numbers: its head drawn, its proportions in words, what is uneven, its visits. */
export function DogScreen() {
  const dog = useDog()
  const measured = useMeasured(dog.id)
  const head = useDogHead(dog.id)
  const history = useHistory(dog.id)
  const uneven = measured.data?.uneven ?? []
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_24rem] gap-4 p-4 portrait:grid-cols-1 portrait:overflow-auto">
      <section className="flex min-h-0 flex-col gap-4">
        <h1 className="sr-only">{dog.name}</h1>
        <div className="min-h-80 flex-1 rounded-xl border border-rule bg-sheet p-3">
          {head.failureReason && !head.data && <Notice tone="warn">{head.failureReason.message}</Notice>}
          {head.isPending && !head.failureReason && <Notice>Drawing the head…</Notice>}
          {head.data && (
            <HeadDrawing
              head={head.data}
              uneven={uneven}
              measures={measured.data?.measures ?? []}
              outlines={outlinesOf(history.data?.visits ?? [])}
            />
          )}
          {head.data === null && <Unmeasured dog={dog} />}
        </div>
        <Visits dog={dog} />
      </section>
      <DogPanel dog={dog} measured={measured.data} history={history.data} />
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
