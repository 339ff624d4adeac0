import { Radio, RadioGroup } from '@headlessui/react'
import type { State } from '../api/client'
import { STATES } from './photoWords'

/** Which state the coat is in while photos are taken. */
export function StatePick({ value, onChange }: { value: State; onChange: (state: State) => void }) {
  return (
    <RadioGroup
      value={value}
      onChange={onChange}
      aria-label="State of the coat"
      className="grid grid-cols-3 gap-1.5"
    >
      {STATES.map((s) => (
        <Radio
          key={s.id}
          value={s.id}
          className="grid min-h-12 cursor-pointer place-items-center rounded-lg border-2 border-rule bg-sheet px-1 text-center text-sm font-semibold data-checked:border-ink data-checked:bg-tape data-checked:text-[#17352f]"
        >
          {s.words}
        </Radio>
      ))}
    </RadioGroup>
  )
}
