import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import { Button } from '../../ui/Button'
import { isDone, nextEnd, stepAt, type CutState } from './cutMachine'

type Props = {
  open: boolean
  state: CutState
  onClose: () => void
  onGo: (step: string) => void
  onEnd: (stoppedAfter: string | null) => void
}

/** Stopping early: here, where that is safe; else how far it is to where it is. */
export function StopDialog({ open, state, onClose, onEnd }: Props) {
  const step = stepAt(state)
  if (!step) return null
  const at = state.steps.indexOf(step)
  const before = state.steps.slice(0, isDone(state, step.id) ? at + 1 : at).at(-1)
  // Standing at a step that is not begun, the one before it is where one would stop.
  const here = isDone(state, step.id) ? step : before
  const safe = here?.may_end ?? false
  const next = nextEnd(state)
  return (
    <Dialog open={open} onClose={onClose} className="relative z-30">
      <div data-mode="table" className="fixed inset-0 grid place-items-center bg-black/60 p-4">
        <DialogPanel className="w-full max-w-xl rounded-xl bg-sheet p-6 text-ink" data-safe={safe}>
          <DialogTitle className="mb-3 text-2xl font-bold">
            {safe ? 'Stop here: both sides are alike' : 'Not a good place to stop'}
          </DialogTitle>
          {safe ? (
            <p className="mb-5 text-lg">
              {here?.ends_with} A little unfinished is right when the dog has had enough.
            </p>
          ) : (
            <p className="mb-5 text-lg">
              Something begun on one side is not done on the other.{' '}
              {next &&
                `After ${next.steps} more ${next.steps === 1 ? 'step' : 'steps'}, about ${Math.max(1, Math.round(next.minutes))} min, it may go home: “${next.step.title}”.`}{' '}
              If the dog cannot go on, stop all the same.
            </p>
          )}
          <div className="flex flex-wrap gap-3">
            <Button look="firm" onClick={onClose}>
              Go on
            </Button>
            <Button onClick={() => onEnd(here?.id ?? null)} disabled={!here}>
              {safe ? 'Stop here' : 'Stop all the same'}
            </Button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  )
}
