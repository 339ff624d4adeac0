import { Check } from 'lucide-react'
import type { Dog, State } from '../../api/client'
import { stateWords, viewWords } from '../../shared/photoWords'
import { ViewSketch } from '../../shared/ViewSketch'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { Panel } from '../../ui/Panel'
import { usePhoneCode } from './usePhoneCode'

/** The code a phone scans to be the camera of this visit; what it takes arrives here by itself. */
export function PhoneCode({ dog, state, onClose }: { dog: Dog; state: State; onClose: () => void }) {
  const { code, shown, wrong } = usePhoneCode(dog, state)
  return (
    <Panel title={`A phone as the camera for ${dog.name}`} onClose={onClose} wide>
      {wrong && <Notice tone="warn">{wrong.message}</Notice>}
      {code && !code.reachable && (
        <Notice tone="warn">
          This salon answers on its own machine only, so no phone reaches it. Start it with{' '}
          <code>--host 0.0.0.0</code>: see Salon › Tablets.
        </Notice>
      )}
      <div className="flex flex-wrap gap-6">
        {code && (
          <img
            src={`/api/phone/${code.token}/code.svg`}
            alt={`QR code of ${code.address}`}
            className="size-64 shrink-0 rounded-lg border border-rule bg-white"
          />
        )}
        <div className="min-w-64 flex-1">
          <p className="mb-1">
            Point the phone’s camera here, or open <b className="break-all">{code?.address ?? '…'}</b>.
          </p>
          <p className="mb-4 text-quiet">
            For this visit alone, until {code?.minutes ?? 20} minutes after the last photo. No passcode is
            asked.
          </p>
          <p className="text-lg font-bold" role="status" data-phone-next={shown?.view ?? 'none'}>
            {!shown
              ? 'Making the code…'
              : shown.view
                ? `Next: ${viewWords(shown.view).toLowerCase()}`
                : 'All are in.'}
          </p>
          <p className="mb-2 text-sm text-quiet">{stateWords(shown?.state ?? state)}</p>
          <ul className="flex gap-2">
            {shown?.views.map((one) => (
              <li
                key={one.view}
                data-arrived={one.photo ? one.view : undefined}
                className={`relative grid size-18 place-items-center rounded-lg border-2 [&>svg:first-child]:size-14 ${one.view === shown.view ? 'border-ink bg-tape text-[#17352f]' : 'border-rule'}`}
              >
                <ViewSketch view={one.view} />
                <span className="sr-only">
                  {viewWords(one.view)}: {one.photo ? 'is in' : 'not yet'}
                </span>
                {one.photo && (
                  <Check size={20} strokeWidth={3} className="absolute top-0.5 right-0.5" aria-hidden />
                )}
              </li>
            ))}
          </ul>
        </div>
      </div>
      <Button className="mt-5" onClick={onClose}>
        Back to the photos
      </Button>
    </Panel>
  )
}
