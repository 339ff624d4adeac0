import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import { Download, Printer, X } from 'lucide-react'
import { useState } from 'react'
import type { Dog, View } from '../../api/client'

type Props = { dog: Dog; views: readonly View[]; version: string; onClose: () => void }

const BUTTON = 'grid size-12 place-items-center rounded-lg hover:bg-tape/40 print:hidden'
const WORDS: Partial<Record<View, string>> = { front: 'front', left: 'left side', right: 'right side' }

/** Before and after for the owner: one head, one scale, one level; nothing else. */
export function BeforeAfter({ dog, views, version, onClose }: Props) {
  const [view, setView] = useState<View>(views[0] ?? 'front')
  return (
    <Dialog open onClose={onClose} className="fixed inset-0 z-30">
      <DialogPanel className="flex size-full flex-col gap-3 bg-paper p-6 phone:p-3" data-before-after>
        <div className="flex items-center gap-2 phone:flex-wrap phone:gap-0">
          <DialogTitle className="min-w-0 flex-1 text-4xl phone:order-first phone:basis-[calc(100%-3rem)] phone:text-3xl font-bold tracking-tight">
            {dog.name}
          </DialogTitle>
          {views.length > 1 &&
            views.map((one) => (
              <button
                key={one}
                className={`min-h-12 rounded-lg px-3 text-lg print:hidden ${one === view ? 'bg-tape font-bold text-[#17352f]' : 'underline'}`}
                aria-pressed={one === view}
                onClick={() => setView(one)}
              >
                {WORDS[one]}
              </button>
            ))}
          <a
            className={BUTTON}
            aria-label="Save as a picture"
            href={`/api/dogs/${dog.id}/check/page?of=${version}`}
            download={`${dog.name}-before-after.png`}
          >
            <Download size={24} aria-hidden />
          </a>
          <button className={BUTTON} aria-label="Print" onClick={() => window.print()}>
            <Printer size={24} aria-hidden />
          </button>
          <button className={`${BUTTON} phone:order-first`} aria-label="Close" onClick={onClose}>
            <X size={28} aria-hidden />
          </button>
        </div>
        <img
          key={view}
          src={`/api/dogs/${dog.id}/check/pictures/${view}?of=${version}`}
          alt={`${dog.name}, ${WORDS[view] ?? view}: left before, right after the cut`}
          className="min-h-0 flex-1 rounded-lg object-contain phone:mt-auto phone:flex-none"
        />
        <div className="grid grid-cols-2 text-center text-xl phone:mb-auto font-semibold">
          <span>before</span>
          <span>after</span>
        </div>
      </DialogPanel>
    </Dialog>
  )
}
