import { DayPicker } from 'react-day-picker'
import { Button } from '../ui/Button'
import { fieldDay, isoOf, useDayStyle } from './days'

const YEARS_BACK = 25
const CLASSES = {
  months: 'relative',
  month_caption: 'flex h-12 items-center justify-center text-lg font-bold',
  nav: 'absolute inset-x-0 top-0 z-10 flex h-12 items-center justify-between pointer-events-none',
  button_previous: 'pointer-events-auto grid size-12 place-items-center rounded-lg hover:bg-tape/50',
  button_next: 'pointer-events-auto grid size-12 place-items-center rounded-lg hover:bg-tape/50',
  chevron: 'size-5 fill-current',
  dropdowns: 'relative z-20 flex gap-2',
  dropdown_root: 'relative',
  dropdown: 'h-11 rounded-lg border border-rule bg-paper px-2 font-normal',
  caption_label: 'aria-hidden:hidden',
  weekday: 'h-9 text-sm font-normal text-quiet',
  day: 'p-0 text-center',
  day_button: 'size-11 rounded-lg hover:bg-tape/50 [[data-selected]_&]:bg-cut [[data-selected]_&]:text-sheet',
  today: 'font-bold underline decoration-brass decoration-2 underline-offset-4',
  outside: 'text-quiet',
}

type Props = { value: string; years: boolean; onChange: (day: string) => void }

/** One leaf of a calendar, its weeks begun as the salon begins them. */
export default function Month({ value, years, onChange }: Props) {
  const style = useDayStyle()
  const chosen = value ? new Date(`${value}T12:00:00`) : undefined
  const now = new Date()
  return (
    <>
      <DayPicker
        mode="single"
        required
        autoFocus
        selected={chosen}
        defaultMonth={chosen ?? now}
        onSelect={(day) => onChange(isoOf(day))}
        weekStartsOn={style === 'day_first' ? 1 : 0}
        captionLayout={years ? 'dropdown' : 'label'}
        startMonth={years ? new Date(now.getFullYear() - YEARS_BACK, 0) : undefined}
        endMonth={years ? now : undefined}
        labels={{ labelDayButton: (day) => fieldDay(isoOf(day)) }}
        classNames={CLASSES}
      />
      {years && value && (
        <Button className="mt-2 w-full" onClick={() => onChange('')}>
          Not known
        </Button>
      )}
    </>
  )
}
