import { Field, Label, Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import { ChevronDown } from 'lucide-react'

type Props<T extends string> = {
  label: string
  value: T
  choices: Readonly<Record<T, string>>
  onChange: (value: T) => void
}

/** One of many words. */
export function Select<T extends string>({ label, value, choices, onChange }: Props<T>) {
  return (
    <Field className="min-w-0">
      <Label className="block text-sm text-quiet">{label}</Label>
      <Listbox value={value} onChange={onChange}>
        <ListboxButton className="flex min-h-12 w-full items-center justify-between gap-2 rounded-lg border border-rule bg-paper px-3 text-left">
          <span className="truncate">{choices[value] ?? value}</span>
          <ChevronDown size={18} className="shrink-0" aria-hidden />
        </ListboxButton>
        <ListboxOptions
          anchor="bottom start"
          className="z-40 max-h-80! min-w-(--button-width) overflow-auto rounded-lg border border-rule bg-sheet text-ink shadow-lg"
        >
          {(Object.keys(choices) as T[]).map((choice) => (
            <ListboxOption
              key={choice}
              value={choice}
              className="min-h-12 cursor-pointer px-4 py-3 data-focus:bg-tape/50 data-selected:font-bold"
            >
              {choices[choice]}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
    </Field>
  )
}
