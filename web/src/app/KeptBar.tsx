import { CloudOff } from 'lucide-react'
import { useKeptAt } from './useKeptAt'

/** Says so while what is shown comes from what this tablet had kept. */
export function KeptBar() {
  const at = useKeptAt()
  if (at === null) return null
  return (
    <p
      role="status"
      data-kept-at={at}
      className="z-20 flex shrink-0 items-center gap-3 border-t-4 border-warn bg-sheet px-4 py-2 text-ink"
    >
      <CloudOff size={20} aria-hidden className="shrink-0 text-warn" />
      The salon’s server does not answer. You see what this tablet kept{at && ` at ${at}`}; it is tried again
      by itself.
    </p>
  )
}
