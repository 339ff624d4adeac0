import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { CalendarDays } from 'lucide-react'
import { lazy, Suspense } from 'react'
import { fieldDay, useDayStyle } from './days'

const Month = lazy(() => import('./Month'))

type Props = {
  label: string
  value: string
  onChange: (day: string) => void
  years?: boolean
  className?: string
}

/** A day, said as the salon says days, chosen on a leaf of a calendar. years: it may lie years back, or be unknown. */
export function DayField({ label, value, onChange, years = false, className = 'w-full bg-paper' }: Props) {
  useDayStyle()
  return (
    <Popover className="relative">
      <PopoverButton
        aria-label={`${label}: ${value ? fieldDay(value) : 'not chosen'}`}
        data-day={value}
        className={`flex h-12 items-center gap-2 rounded-lg border border-rule px-3 text-left text-lg whitespace-nowrap ${className}`}
      >
        <CalendarDays size={18} aria-hidden className="shrink-0" />
        {value ? fieldDay(value) : <span className="text-quiet">choose</span>}
      </PopoverButton>
      <PopoverPanel
        focus
        className={`absolute left-0 z-40 rounded-xl border border-rule bg-sheet p-3 text-ink shadow-lg ${years ? 'bottom-full mb-1' : 'top-full mt-1'}`}
      >
        {({ close }) => (
          <Suspense fallback={<p className="p-4">One moment…</p>}>
            <Month
              value={value}
              years={years}
              onChange={(day) => {
                onChange(day)
                close()
              }}
            />
          </Suspense>
        )}
      </PopoverPanel>
    </Popover>
  )
}
