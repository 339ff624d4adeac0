import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import { Check, Copy, Printer, X } from 'lucide-react'
import { useState } from 'react'
import type { Dog } from '../../api/client'
import { useSalon } from '../../app/useSalon'
import { Button } from '../../ui/Button'
import type { NextTime } from './nextMachine'

/** A browser gives its clipboard to a trusted page only. */
const CAN_COPY = 'clipboard' in navigator

/** What the owner takes home: on the screen, on paper, or as text. */
export function OwnerCard({ dog, next, onClose }: { dog: Dog; next: NextTime; onClose: () => void }) {
  const salon = useSalon()
  const [copied, setCopied] = useState(false)
  const copy = () =>
    navigator.clipboard.writeText([dog.name, ...next.card].join('\n')).then(() => setCopied(true))
  return (
    <Dialog
      open
      onClose={onClose}
      className="fixed inset-0 z-30 grid place-items-center bg-ink/40 p-6 phone:p-3"
    >
      <DialogPanel
        className="flex w-full max-w-2xl flex-col gap-4 rounded-xl bg-paper p-8 phone:p-5 print:fixed print:inset-0 print:max-w-none"
        data-owner-card
      >
        <div className="flex items-start gap-2">
          <DialogTitle className="min-w-0 flex-1 text-4xl font-bold tracking-tight">{dog.name}</DialogTitle>
          <button
            className="grid size-12 place-items-center rounded-lg hover:bg-tape/40 print:hidden"
            aria-label="Close"
            onClick={onClose}
          >
            <X size={28} aria-hidden />
          </button>
        </div>
        {next.card.map((line) => (
          <p key={line} className="text-2xl leading-snug">
            {line}
          </p>
        ))}
        <p className="text-quiet">{salon.data?.name}</p>
        <div className="flex gap-2 print:hidden">
          {CAN_COPY && (
            <Button onClick={() => void copy()}>
              {copied ? <Check size={18} aria-hidden /> : <Copy size={18} aria-hidden />}{' '}
              {copied ? 'Copied' : 'Copy the text'}
            </Button>
          )}
          <Button onClick={() => window.print()}>
            <Printer size={18} aria-hidden /> Print
          </Button>
        </div>
      </DialogPanel>
    </Dialog>
  )
}
