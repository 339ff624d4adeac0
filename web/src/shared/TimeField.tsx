import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import { Clock } from 'lucide-react'
import { timeWords, useDayStyle } from './days'

const FIRST_HOUR = 5
const HOURS = 18
const QUARTERS = ['00', '15', '30', '45']
const TIMES = Array.from({ length: HOURS }, (_, i) => String(FIRST_HOUR + i).padStart(2, '0')).flatMap(
  (hour) => QUARTERS.map((minutes) => `${hour}:${minutes}`),
)
const MORNING = '09:00'

type Props = { label: string; value: string; onChange: (time: string) => void; open?: string }

/** A time of day by the quarter of an hour, said as the salon says times. open: what stands for no time at all. */
export function TimeField({ label, value, onChange, open }: Props) {
  useDayStyle()
  const times = value && !TIMES.includes(value) ? [...TIMES, value].sort() : TIMES
  return (
    <Listbox value={value} onChange={onChange}>
      <ListboxButton
        aria-label={`${label}: ${value ? timeWords(value) : (open ?? 'not chosen')}`}
        data-time={value}
        className="flex h-12 w-full items-center gap-2 rounded-lg border border-rule bg-paper px-3 text-left text-lg"
      >
        <Clock size={18} aria-hidden className="shrink-0" />
        {value ? timeWords(value) : <span className="text-quiet">{open ?? 'choose'}</span>}
      </ListboxButton>
      <ListboxOptions
        anchor="bottom start"
        className="z-40 max-h-80! min-w-(--button-width) overflow-auto rounded-lg border border-rule bg-sheet text-ink shadow-lg"
      >
        {open && (
          <ListboxOption
            value=""
            className="min-h-12 cursor-pointer px-4 py-3 data-focus:bg-tape/50 data-selected:font-bold"
          >
            {open}
          </ListboxOption>
        )}
        {times.map((time) => (
          <ListboxOption
            key={time}
            value={time}
            ref={!value && time === MORNING ? intoSight : undefined}
            className="min-h-12 cursor-pointer px-4 py-3 data-focus:bg-tape/50 data-selected:font-bold"
          >
            {timeWords(time)}
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  )
}

/** With nothing chosen the list opens at the morning, not in the small hours. */
const intoSight = (row: HTMLElement | null) => row?.scrollIntoView({ block: 'start' })
