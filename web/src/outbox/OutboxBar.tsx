import { useQueryClient } from '@tanstack/react-query'
import { CloudOff, TabletSmartphone } from 'lucide-react'
import { Button } from '../ui/Button'
import { outbox } from './outbox'
import { asking, type Change } from './outboxMachine'
import { useBox, useOutboxKeepsStep } from './useOutbox'

/** Below everything: what the server does not have yet, and what needs its user. */
export function OutboxBar() {
  const box = useBox()
  const queries = useQueryClient()
  useOutboxKeepsStep()
  const asked = asking(box)
  function theirs(change: Change) {
    outbox.settle(change.part, 'theirs')
    // Whatever shows the part takes what the server has.
    void queries.invalidateQueries()
  }
  if (!asked.length && !(box.away && box.changes.length)) return null
  return (
    <aside
      aria-label="Changes on their way"
      className="z-20 flex shrink-0 flex-col gap-2 border-t-4 border-warn bg-sheet px-4 py-2 text-ink"
      data-outbox={box.changes.length}
    >
      {box.away && box.changes.length > 0 && (
        <p role="status" className="flex items-center gap-3">
          <CloudOff size={20} aria-hidden className="text-warn" />
          The salon’s server does not answer. {box.changes.length}{' '}
          {box.changes.length === 1 ? 'change is' : 'changes are'} kept here and sent as soon as it does.
        </p>
      )}
      {asked.map((change) => (
        <div
          key={change.id}
          role="alert"
          className="flex flex-wrap items-center gap-3"
          data-asking={change.part}
        >
          <TabletSmartphone size={20} aria-hidden className="text-warn" />
          <span className="min-w-60 flex-1">{change.state.kind !== 'waiting' && change.state.reason}</span>
          <Button onClick={() => theirs(change)}>
            {change.state.kind === 'overtaken' ? 'Take theirs' : 'Discard'}
          </Button>
          {change.state.kind === 'overtaken' && (
            <Button look="firm" onClick={() => outbox.settle(change.part, 'mine')}>
              Keep mine
            </Button>
          )}
        </div>
      ))}
    </aside>
  )
}
