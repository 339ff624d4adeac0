import { useQuery, useQueryClient } from '@tanstack/react-query'
import { PackagePlus } from 'lucide-react'
import { useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { api, type Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'
import { useAttempt } from '../../ui/useAttempt'
import { shortDay } from '../today/days'
import { sizeWords } from './Backups'
import { Card } from './Card'

type Removed = Schemas['RemovedOut']

/** Dogs off the lists: back again, or gone for good; and dogs that come in from another machine. */
export function RemovedDogs() {
  const queries = useQueryClient()
  const removed = useQuery({ queryKey: ['removed'], queryFn: api.removed })
  const { attempt, wrong, busy } = useAttempt()
  const [purging, setPurging] = useState<Removed | null>(null)
  return (
    <Card title="Dogs in and out">
      <TakeIn />
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
            <Button
              disabled={busy}
              onClick={() =>
                void attempt(async () => {
                  await api.restoreDog(dog.id)
                  await queries.invalidateQueries()
                })
              }
            >
              Bring back
            </Button>
            <Button disabled={busy} onClick={() => setPurging(dog)}>
              Purge…
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
  const queries = useQueryClient()
  const { attempt, wrong, busy } = useAttempt()
  const [name, setName] = useState('')
  return (
    <Panel title={`Purge ${dog.name} for good?`} onClose={onClose}>
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
        <Button onClick={onClose}>Leave it</Button>
        <Button
          look="firm"
          disabled={busy || name.trim() !== dog.name}
          onClick={() =>
            void attempt(async () => {
              await api.purge(dog.id, name)
              await queries.invalidateQueries()
              onClose()
            })
          }
        >
          Purge
        </Button>
      </div>
    </Panel>
  )
}

function TakeIn() {
  const queries = useQueryClient()
  const go = useNavigate()
  const { attempt, wrong, busy } = useAttempt()
  const file = useRef<HTMLInputElement>(null)
  return (
    <>
      <p className="mb-2 text-quiet">
        A dog’s bundle holds everything kept of it. Save one on the dog’s own page; take one in here.
      </p>
      <Button disabled={busy} onClick={() => file.current?.click()}>
        <PackagePlus size={18} aria-hidden /> {busy ? 'Checking it…' : 'Take a dog in'}
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
            const dog = await api.takeInBundle(bundle)
            await queries.invalidateQueries({ queryKey: ['today'] })
            void go(`/dogs/${dog.id}`)
          })
        }}
      />
      {wrong}
    </>
  )
}
