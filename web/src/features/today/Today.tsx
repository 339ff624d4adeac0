import { useQuery } from '@tanstack/react-query'
import { ChevronRight, Plus, Scissors } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import { STAGES, Tape } from '../../app/Tape'
import { api, screenUrl, type Dog } from '../../api/client'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { Settings } from '../../ui/Settings'
import { NewDogDialog } from './NewDogDialog'

/** Dogs in the order of the day; one tap goes on where a visit stands. */
export function Today() {
  const today = useQuery({ queryKey: ['today'], queryFn: api.today })
  const [adding, setAdding] = useState(false)
  return (
    <div className="flex h-full flex-col">
      <Tape>
        <Settings />
      </Tape>
      <main className="mx-auto w-full max-w-5xl flex-1 overflow-auto p-6">
        <div className="mb-5 flex items-center justify-between">
          <h1 className="text-3xl font-bold tracking-tight">Today</h1>
          <span className="flex items-center gap-3">
            <Link
              to="/kit"
              className="inline-flex min-h-12 items-center gap-2 rounded-lg border border-rule bg-sheet px-4 font-semibold hover:border-ink"
            >
              <Scissors size={18} aria-hidden /> Kit
            </Link>
            <Button onClick={() => setAdding(true)}>
              <Plus size={20} aria-hidden /> New dog
            </Button>
          </span>
        </div>
        {today.failureReason && !today.data && <Notice tone="warn">{today.failureReason.message}</Notice>}
        {today.isPending && !today.failureReason && <Notice>Fetching today’s dogs…</Notice>}
        {today.data?.length === 0 && <EmptySalon onAdd={() => setAdding(true)} />}
        <ul className="flex flex-col gap-4">
          {today.data?.map((dog) => (
            <li key={dog.id}>
              <DogCard dog={dog} />
            </li>
          ))}
        </ul>
      </main>
      <NewDogDialog open={adding} onClose={() => setAdding(false)} />
    </div>
  )
}

function EmptySalon({ onAdd }: { onAdd: () => void }) {
  return (
    <div className="graph rounded-xl border border-rule p-12 text-center">
      <p className="mb-2 text-2xl font-bold">No dogs yet</p>
      <p className="mb-6 text-quiet">
        Enter the first one. Two photos and a calliper reading are enough for an outline with lengths.
      </p>
      <Button look="firm" onClick={onAdd}>
        <Plus size={20} aria-hidden /> Enter a dog
      </Button>
    </div>
  )
}

const COATS: Record<string, string> = {
  standing: 'standing coat',
  harsh: 'harsh coat',
  curl: 'curly coat',
  wavy: 'wavy coat',
  fine_drop: 'fine drop coat',
}

function DogCard({ dog }: { dog: Dog }) {
  const front = dog.photos.find((photo) => photo.view === 'front') ?? dog.photos[0]
  const next = STAGES.find((stage) => dog.stages[stage.id] !== 'done') ?? STAGES[STAGES.length - 1]
  return (
    <Link
      to={`/dogs/${dog.id}/${next?.id}`}
      className="group flex items-stretch overflow-hidden rounded-xl border border-rule bg-sheet hover:border-ink"
    >
      {front ? (
        <img
          src={screenUrl(front)}
          alt={`${dog.name} from the ${front.view}`}
          className="h-40 w-52 object-cover"
        />
      ) : (
        <span className="graph grid h-40 w-52 place-items-center text-quiet">no photo yet</span>
      )}
      <span className="flex flex-1 flex-col justify-center gap-1 px-6">
        <span className="flex items-baseline gap-3">
          <span className="text-2xl font-bold">{dog.name}</span>
          <span className="text-lg text-quiet">{dog.starts}</span>
        </span>
        <span className="text-quiet">{[dog.breed, COATS[dog.coat]].filter(Boolean).join(' · ')}</span>
        {dog.note && <span>{dog.note}</span>}
        <span className="mt-2 flex gap-4 text-sm">
          {STAGES.map((stage) => (
            <span key={stage.id} className={dog.stages[stage.id] === 'done' ? 'font-semibold' : 'text-quiet'}>
              {dog.stages[stage.id] === 'done' ? '✓' : '○'} {stage.words.toLowerCase()}
            </span>
          ))}
        </span>
      </span>
      <span className="flex items-center gap-1 px-6 text-lg font-semibold group-hover:underline">
        {next?.words} <ChevronRight aria-hidden />
      </span>
    </Link>
  )
}
