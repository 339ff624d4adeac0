import { Dialog, DialogPanel, DialogTitle, Field, Input, Label, Radio, RadioGroup } from '@headlessui/react'
import { useState } from 'react'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { Choices } from '../../ui/Choices'
import { COATS } from '../../shared/coats'
import { CARRIAGES, MUZZLES, type Carriage, type Muzzle } from '../../shared/headKinds'
import { useNewDog } from './useToday'

/** A name, how the coat stands, what kind of head: what the plan needs before any photo. */
export function NewDogDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [name, setName] = useState('')
  const [coat, setCoat] = useState('standing')
  const [muzzle, setMuzzle] = useState<Muzzle>('any')
  const [ears, setEars] = useState<Carriage>('any')
  const add = useNewDog()
  return (
    <Dialog open={open} onClose={onClose} className="relative z-30">
      <div className="fixed inset-0 grid place-items-center bg-black/50 p-4">
        <DialogPanel className="w-full max-w-lg rounded-xl bg-sheet p-6 text-ink">
          <form
            onSubmit={(event) => {
              event.preventDefault()
              add.mutate({ name, coat, muzzle, ears })
            }}
          >
            <DialogTitle className="mb-4 text-2xl font-bold">New dog</DialogTitle>
            <Field className="mb-4">
              <Label className="mb-1 block font-semibold">Name</Label>
              <Input
                autoFocus
                value={name}
                maxLength={80}
                onChange={(event) => setName(event.target.value)}
                className="h-12 w-full rounded-lg border border-rule bg-paper px-3 text-lg"
              />
            </Field>
            <p className="mb-2 font-semibold" id="coat-question">
              How does the coat stand?
            </p>
            <RadioGroup
              value={coat}
              onChange={setCoat}
              aria-labelledby="coat-question"
              className="mb-5 grid grid-cols-2 gap-2"
            >
              {COATS.map((kind) => (
                <Radio
                  key={kind.id}
                  value={kind.id}
                  className="min-h-12 cursor-pointer rounded-lg border-2 border-rule px-3 py-2 data-checked:border-ink data-checked:bg-tape data-checked:text-[#17352f]"
                >
                  <span className="block font-semibold">{kind.words}</span>
                  <span className="text-sm">{kind.hint}</span>
                </Radio>
              ))}
            </RadioGroup>
            <p className="mb-2 font-semibold">What kind of head?</p>
            <Choices label="Muzzle" value={muzzle} choices={MUZZLES} onChange={setMuzzle} />
            <Choices label="Ears" value={ears} choices={CARRIAGES} onChange={setEars} />
            <p className="mb-5 text-sm text-quiet">Where hair hides them, it helps to find the marks.</p>
            {add.error && <Notice tone="warn">{add.error.message}</Notice>}
            <div className="flex justify-end gap-3">
              <Button type="button" onClick={onClose}>
                Cancel
              </Button>
              <Button look="firm" type="submit" disabled={!name.trim() || add.isPending}>
                Go on
              </Button>
            </div>
          </form>
        </DialogPanel>
      </div>
    </Dialog>
  )
}
