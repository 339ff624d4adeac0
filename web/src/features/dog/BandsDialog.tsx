import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import { useReducer, type FormEvent } from 'react'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { bandsReducer, beginBands, edgesOf, idOf, wrongIn, type Band } from './bandsMachine'
import { useBands, useMovedBands } from './useBands'

/** Where each proportion changes its word; the salon may move the edges. */
export function BandsDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const bands = useBands(open)
  return (
    <Dialog open={open} onClose={onClose} className="relative z-30">
      <div className="fixed inset-0 grid place-items-center overflow-auto bg-black/50 p-4">
        <DialogPanel className="w-full max-w-2xl rounded-xl bg-sheet p-6 text-ink">
          <DialogTitle className="mb-1 text-xl font-bold">Where words change</DialogTitle>
          <p className="mb-4 text-quiet">
            Rules of thumb of the trade, not law. Move them to what your salon says.
          </p>
          {bands.failureReason && !bands.data && <Notice tone="warn">{bands.failureReason.message}</Notice>}
          {bands.data && <BandForm bands={bands.data} onDone={onClose} />}
        </DialogPanel>
      </div>
    </Dialog>
  )
}

const UNITS: Record<string, string> = { stop_angle: '°', plane_angle: '°' }

function BandForm({ bands, onDone }: { bands: readonly Band[]; onDone: () => void }) {
  const [typed, act] = useReducer(bandsReducer, bands, beginBands)
  const keep = useMovedBands(onDone)
  const wrong = wrongIn(typed, bands)
  function submit(event: FormEvent) {
    event.preventDefault()
    if (!wrong) keep.mutate(edgesOf(typed, bands))
  }
  return (
    <form onSubmit={submit}>
      {bands.map((band) => (
        <div key={band.measure} className="flex flex-wrap items-center gap-2 border-t border-rule py-2">
          {band.words.map((word, i) => (
            <span key={word} className="flex items-center gap-2">
              <span className="font-semibold">{word}</span>
              {i < band.edges.length && (
                <input
                  inputMode="decimal"
                  aria-label={`${band.noun}: from ${word} to ${band.words[i + 1] ?? ''} at`}
                  value={typed[idOf(band, i)] ?? ''}
                  onChange={(event) => act({ type: 'type', id: idOf(band, i), text: event.target.value })}
                  className="h-11 w-20 rounded-lg border border-rule bg-paper px-2 text-center font-bold"
                />
              )}
            </span>
          ))}
          <span>{band.noun}</span>
          <span className="ml-auto text-sm text-quiet">
            {band.why} Usual: {band.usual.map((edge) => `${edge}${UNITS[band.measure] ?? ''}`).join(', ')}.
          </span>
        </div>
      ))}
      {(wrong ?? keep.error) && (
        <p role="alert" className="mt-2 text-warn">
          {wrong ? `A number is wanted for the ${wrong.noun}.` : keep.error?.message}
        </p>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button type="button" onClick={() => act({ type: 'usual', bands })}>
          The usual ones
        </Button>
        <Button look="firm" type="submit" disabled={keep.isPending}>
          Save
        </Button>
      </div>
    </form>
  )
}
