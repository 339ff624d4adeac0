import { Label, Radio, RadioGroup } from '@headlessui/react'

type Props<T extends string> = {
  label: string
  value: T
  choices: Readonly<Record<T, string>>
  onChange: (value: T) => void
}

/** One of a few words. */
export function Choices<T extends string>({ label, value, choices, onChange }: Props<T>) {
  return (
    <RadioGroup value={value} onChange={onChange} className="mb-2 flex flex-wrap items-center gap-1.5">
      <Label className="w-16 text-sm text-quiet">{label}</Label>
      {(Object.keys(choices) as T[]).map((choice) => (
        <Radio
          key={choice}
          value={choice}
          className="grid min-h-11 cursor-pointer place-items-center rounded-lg border border-rule bg-paper px-3 data-checked:border-cut data-checked:bg-cut data-checked:font-semibold data-checked:text-sheet"
        >
          {choices[choice]}
        </Radio>
      ))}
    </RadioGroup>
  )
}
