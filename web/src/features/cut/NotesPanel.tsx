import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import { useState, type Dispatch } from 'react'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { Select } from '../../ui/Select'
import { saidOf, type CutAction, type CutState, type Step } from './cutMachine'
import { useCutGuide } from '../../shared/queries'

type Props = {
  open: boolean
  sheet: Schemas['SheetOut']
  step: Step
  state: CutState
  act: Dispatch<CutAction>
  onClose: () => void
}

/** Quick notes by chip, and what was really used where it differs from the sheet. */
export function NotesPanel({ open, sheet, step, state, act, onClose }: Props) {
  const guide = useCutGuide()
  const said = saidOf(state, step.id)
  const [typed, setTyped] = useState('')
  const tools = {
    '': `as planned: ${step.tool || 'by eye'}`,
    ...Object.fromEntries(sheet.tools.map((t) => [t, t])),
  }
  function setLength(text: string) {
    setTyped(text)
    const mm = Number(text.replace(',', '.'))
    act({ type: 'really', lengthMm: text.trim() && Number.isFinite(mm) && mm >= 0 ? mm : null })
  }
  return (
    <Dialog open={open} onClose={onClose} className="relative z-30">
      <div data-mode="table" className="fixed inset-0 grid place-items-center bg-black/60 p-4">
        <DialogPanel className="w-full max-w-2xl rounded-xl bg-sheet p-6 text-ink">
          <DialogTitle className="mb-3 text-2xl font-bold">Note: {step.title}</DialogTitle>
          <div className="mb-5 flex flex-wrap gap-2" role="group" aria-label="Quick notes">
            {guide.data?.notes.map((note) => {
              const on = said.notes?.includes(note.code) ?? false
              return (
                <button
                  key={note.code}
                  aria-pressed={on}
                  onClick={() => act({ type: 'note', code: note.code })}
                  className={`min-h-14 rounded-lg border-2 px-5 text-lg font-semibold ${on ? 'border-tape bg-tape text-[#17352f]' : 'border-rule'}`}
                >
                  {note.words}
                </button>
              )
            })}
          </div>
          {step.doing === 'work' && (
            <div className="mb-5 grid grid-cols-[1fr_auto] items-end gap-3">
              <Select
                label="Really used"
                value={said.tool ?? ''}
                choices={tools}
                onChange={(tool) => act({ type: 'really', tool })}
              />
              <label className="block">
                <span className="block text-sm text-quiet">Length left, mm</span>
                <input
                  inputMode="decimal"
                  value={typed || (said.length_mm ?? '')}
                  placeholder={step.leave_mm ? String(Math.round(step.leave_mm[0])) : 'by eye'}
                  onChange={(event) => setLength(event.target.value)}
                  className="h-12 w-32 rounded-lg border border-rule bg-paper px-3 text-lg font-bold"
                />
              </label>
            </div>
          )}
          <Button look="firm" onClick={onClose}>
            Back to the step
          </Button>
        </DialogPanel>
      </div>
    </Dialog>
  )
}
