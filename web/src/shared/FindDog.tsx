import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import type { Schemas } from '../api/client'
import { useLater } from '../ui/useLater'
import { shortDay } from './days'
import { useFoundDogs } from './useFoundDogs'

type Brief = Schemas['BriefOut']
const STILL_MS = 150

/** Any dog that was ever here, by a few letters; without `onFound` its own page opens. */
export function FindDog({
  onFound,
  label = 'Find a dog',
}: {
  onFound?: (dog: Brief) => void
  label?: string
}) {
  const [typed, setTyped] = useState('')
  const asked = useLater(typed, STILL_MS)
  const go = useNavigate()
  const found = useFoundDogs(asked)
  return (
    <Combobox
      value={null as Brief | null}
      onChange={(dog) => {
        if (!dog) return
        if (onFound) onFound(dog)
        else void go(`/dogs/${dog.id}`)
      }}
      immediate
    >
      <ComboboxInput
        aria-label={label}
        placeholder={label}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        className="h-12 w-44 rounded-lg border border-rule bg-sheet px-3"
      />
      <ComboboxOptions
        anchor="bottom end"
        className="z-40 max-h-96! w-80 overflow-auto rounded-lg border border-rule bg-sheet text-ink shadow-lg empty:invisible"
      >
        {found.data?.map((dog) => (
          <ComboboxOption
            key={dog.id}
            value={dog}
            className="min-h-12 cursor-pointer px-4 py-2 data-focus:bg-tape/50"
          >
            <b>{dog.name}</b> <span className="text-sm text-quiet">{dog.breed}</span>
            {dog.last_visit && (
              <span className="block text-sm text-quiet">last here {shortDay(dog.last_visit)}</span>
            )}
          </ComboboxOption>
        ))}
      </ComboboxOptions>
    </Combobox>
  )
}
