import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { Outlet, useOutletContext, useParams } from 'react-router'
import { api, type Dog } from '../api/client'
import { Notice } from '../ui/Notice'
import { Settings } from '../ui/Settings'
import { Tape } from './Tape'

/** The shell of one dog's visit: the tape above, the stage below. */
export function Visit() {
  const dogId = Number(useParams().dogId)
  const dog = useQuery({
    queryKey: ['dog', dogId],
    queryFn: () => api.dog(dogId),
    // Now and then also for what another tablet does.
    refetchInterval: (query) => (query.state.data && looking(query.state.data) ? LOOKING_MS : OTHERS_MS),
  })
  const queries = useQueryClient()
  const seen = dog.data?.photos.filter((p) => p.looked).length
  // What the machine has seen since brings first guesses, and a scale card may change the size.
  useEffect(() => {
    void queries.invalidateQueries({ queryKey: ['measure', dogId] })
  }, [queries, dogId, seen])
  return (
    <div className="flex h-full flex-col">
      <Tape dog={dog.data}>
        <Settings />
      </Tape>
      {dog.failureReason && !dog.data && <Notice tone="warn">{dog.failureReason.message}</Notice>}
      {dog.isPending && !dog.failureReason && <Notice>Fetching the dog…</Notice>}
      {dog.data && <Outlet context={dog.data} />}
    </div>
  )
}

const LOOKING_MS = 600
const OTHERS_MS = 8000

/** Some photo is being looked at, or is about to be. */
const looking = (dog: Dog) =>
  [...dog.photos, ...dog.spares].some(
    (p) => p.job?.kind === 'waiting' || p.job?.kind === 'working' || (!p.looked && !p.job),
  )

export const useDog = () => useOutletContext<Dog>()
