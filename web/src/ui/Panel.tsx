import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import type { ReactNode } from 'react'

type Props = { title: string; onClose: () => void; wide?: boolean; children: ReactNode }

/** A dialog over everything; what it asks for has a name. */
export function Panel({ title, onClose, wide = false, children }: Props) {
  return (
    <Dialog open onClose={onClose} className="relative z-30">
      <div className="fixed inset-0 grid place-items-center overflow-auto bg-black/50 p-4">
        <DialogPanel className={`w-full rounded-xl bg-sheet p-6 text-ink ${wide ? 'max-w-3xl' : 'max-w-lg'}`}>
          <DialogTitle className="mb-4 text-2xl font-bold">{title}</DialogTitle>
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  )
}
