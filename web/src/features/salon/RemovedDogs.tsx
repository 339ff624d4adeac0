import { PackagePlus } from 'lucide-react'
import { useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'
import { useAttempt } from '../../ui/useAttempt'
import { shortDay } from '../../shared/days'
import { sizeWords } from './Backups'
import { Card } from './Card'
import { useRemovedDogs, useSalonRecord } from './useSalonRecord'

type Removed = Schemas['RemovedOut']

/** Dogs off the lists: back again, or gone for good; and dogs that come in from another machine. */
export function RemovedDogs() {
  const record = useSalonRecord()
  const removed = useRemovedDogs()
  const { attempt, wrong, busy } = useAttempt()
  const [purging, setPurging] = useState<Removed | null>(null)
  return (
    <Card title="Dogs in and out">
      <ImportDog />
      <h3 className="mt-4 font-semibold">Removed dogs</h3>
      {removed.data?.length === 0 && <p className="text-quiet">None.</p>}
      <ul>
        {removed.data?.map((dog) => (
          <li
            key={dog.id}
            className="flex flex-wrap items-center gap-2 border-t border-rule py-1"
            data-removed={dog.id}
          >
            <span className="min-w-40 flex-1">
              <b>{dog.name}</b>{' '}
              <span className="text-sm text-quiet">
                removed {shortDay(dog.removed)} · {goesWords(dog)}
              </span>
            </span>
            <Button disabled={busy} onClick={() => void attempt(() => record.restoreDog(dog.id))}>
              Restore
            </Button>
            <Button disabled={busy} onClick={() => setPurging(dog)}>
              Delete for good…
            </Button>
          </li>
        ))}
      </ul>
      {wrong}
      {purging && <Purge dog={purging} onClose={() => setPurging(null)} />}
    </Card>
  )
}

const goesWords = (dog: Removed) =>
  `${dog.visits} ${dog.visits === 1 ? 'visit' : 'visits'}, ${dog.photos} photos (${sizeWords(dog.photo_bytes)}), ${dog.outlines} outlines, ${dog.cuts} cuts`

function Purge({ dog, onClose }: { dog: Removed; onClose: () => void }) {
  const record = useSalonRecord()
  const { attempt, wrong, busy } = useAttempt()
  const [name, setName] = useState('')
  return (
    <Panel title={`Delete ${dog.name} for good?`} onClose={onClose}>
      <p className="mb-3">
        This cannot be undone. What goes: <b>{goesWords(dog)}</b>, every measure, note and booking. Backups
        that were made before still hold it.
      </p>
      <label className="mb-4 block">
        <span className="mb-1 block font-semibold">Type its name to be sure: {dog.name}</span>
        <input
          value={name}
          onChange={(event) => setName(event.target.value)}
          className="h-12 w-full rounded-lg border border-rule bg-paper px-3 text-lg"
        />
      </label>
      {wrong}
      <div className="flex justify-end gap-3">
        <Button onClick={onClose}>Cancel</Button>
        <Button
          look="firm"
          disabled={busy || name.trim() !== dog.name}
          onClick={() =>
            void attempt(async () => {
              await record.purge(dog.id, name)
              onClose()
            })
          }
        >
          Delete for good
        </Button>
      </div>
    </Panel>
  )
}

function ImportDog() {
  const record = useSalonRecord()
  const go = useNavigate()
  const { attempt, wrong, busy } = useAttempt()
  const file = useRef<HTMLInputElement>(null)
  return (
    <>
      <p className="mb-2 text-quiet">
        A dog’s bundle holds everything kept of it. Export one on the dog’s own page; import one here.
      </p>
      <Button disabled={busy} onClick={() => file.current?.click()}>
        <PackagePlus size={18} aria-hidden /> {busy ? 'Checking it…' : 'Import a dog'}
      </Button>
      <input
        ref={file}
        type="file"
        accept=".zip"
        aria-label="A dog’s bundle"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const bundle = event.target.files?.[0]
          event.target.value = ''
          if (!bundle) return
          void attempt(async () => {
            const dog = await record.importDog(bundle)
            void go(`/dogs/${dog.id}`)
          })
        }}
      />
      {wrong}
    </>
  )
}
