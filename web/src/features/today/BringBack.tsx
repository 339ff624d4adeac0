import { Undo2 } from 'lucide-react'
import { useSyncExternalStore } from 'react'
import { Button } from '../../ui/Button'
import { useAttempt } from '../../ui/useAttempt'
import { lastRemoved, onRemoved } from '../../shared/removed'
import { useRestoredDog } from './useToday'

/** Right after a dog was removed: one tap brings it back. */
export function BringBack() {
  const restore = useRestoredDog()
  const gone = useSyncExternalStore(onRemoved, lastRemoved)
  const { attempt, wrong } = useAttempt()
  if (!gone) return null
  return (
    <div
      role="status"
      className="flex items-center gap-3 rounded-lg border-l-4 border-tape bg-sheet px-4 py-2"
    >
      <span className="flex-1">
        <b>{gone.name}</b> is off the lists. Nothing is lost: it waits under Salon, Removed dogs.
      </span>
      <Button onClick={() => void attempt(() => restore(gone.id))}>
        <Undo2 size={18} aria-hidden /> Restore
      </Button>
      {wrong}
    </div>
  )
}
