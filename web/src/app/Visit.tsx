import { Outlet, useOutletContext, useParams } from 'react-router'
import type { Dog } from '../api/client'
import { Notice } from '../ui/Notice'
import { Settings } from '../ui/Settings'
import { Tape } from './Tape'
import { useVisit } from './useVisit'

/** The shell of one dog's visit: the tape above, the stage below. */
export function Visit() {
  const dogId = Number(useParams().dogId)
  const dog = useVisit(dogId)
  return (
    <div className="flex h-full flex-col">
      <Tape dog={dog.data}>
        <Settings />
      </Tape>
      {dog.failureReason && !dog.data && <Notice tone="warn">{dog.failureReason.message}</Notice>}
      {dog.isPending && !dog.failureReason && <Notice>Loading the dog…</Notice>}
      {dog.data && <Outlet context={dog.data} />}
    </div>
  )
}

export const useDog = () => useOutletContext<Dog>()
