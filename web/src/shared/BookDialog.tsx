import { useReducer, type ReactNode } from 'react'
import { Button } from '../ui/Button'
import { Notice } from '../ui/Notice'
import { Panel } from '../ui/Panel'
import { beginBooking, bookingReducer, canCancel, canKeep, type Booked, type Form } from './bookingMachine'
import { DayField } from './DayField'
import { FindDog } from './FindDog'
import { TimeField } from './TimeField'
import { useBooking } from './useBooking'

const MINUTES = [45, 60, 75, 90, 120, 150]
const FIELD = 'h-12 w-full rounded-lg border border-rule bg-paper px-3 text-lg'

/** Keep a time free for a dog, move it, or cancel it. */
export function BookDialog({ booked, onClose }: { booked: Booked; onClose: () => void }) {
  const [state, act] = useReducer(bookingReducer, booked, beginBooking)
  const { before, dog, form, name } = state
  const { keep, cancel, wrong } = useBooking(before?.id ?? null, onClose)
  const set = (change: Partial<Form>) => act({ type: 'set', change })
  return (
    <Panel title={name ? `A time for ${name}` : 'Book a visit'} onClose={onClose}>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          keep.mutate({ dogId: dog?.id ?? 0, form })
        }}
      >
        {booked.kind === 'new' && !booked.dog && (
          <div className="flex items-center gap-3">
            <span className="font-semibold">Dog</span>
            <FindDog label="Which dog?" onFound={(found) => act({ type: 'dog', dog: found })} />
            <b>{dog?.name}</b>
          </div>
        )}
        <div className="grid grid-cols-2 gap-3">
          <div>
            <span className="mb-1 block font-semibold">Day</span>
            <DayField label="Day" value={form.day} onChange={(day) => set({ day })} />
          </div>
          <div>
            <span className="mb-1 block font-semibold">From</span>
            <TimeField
              label="From"
              open="any time"
              value={form.starts}
              onChange={(starts) => set({ starts })}
            />
          </div>
        </div>
        <fieldset>
          <legend className="mb-1 font-semibold">Kept free</legend>
          <div className="flex flex-wrap gap-1.5">
            {MINUTES.map((minutes) => (
              <button
                key={minutes}
                type="button"
                aria-pressed={form.minutes === minutes}
                onClick={() => set({ minutes })}
                className="min-h-12 flex-1 rounded-lg border border-rule bg-paper px-1 whitespace-nowrap aria-pressed:border-cut aria-pressed:bg-cut aria-pressed:font-semibold aria-pressed:text-sheet"
              >
                {minutes} min
              </button>
            ))}
          </div>
        </fieldset>
        <Labelled words="To know beforehand">
          <input
            value={form.words}
            maxLength={200}
            onChange={(event) => set({ words: event.target.value })}
            className={FIELD}
          />
        </Labelled>
        {wrong && <Notice tone="warn">{wrong.message}</Notice>}
        <div className="flex flex-wrap justify-end gap-3">
          {canCancel(state) && (
            <Button type="button" className="mr-auto" onClick={() => cancel.mutate()}>
              Cancel this booking
            </Button>
          )}
          <Button type="button" onClick={onClose}>
            Cancel
          </Button>
          <Button look="firm" type="submit" disabled={keep.isPending || !canKeep(state)}>
            {before ? 'Save' : 'Book'}
          </Button>
        </div>
      </form>
    </Panel>
  )
}

function Labelled({ words, children }: { words: string; children: ReactNode }) {
  return (
    <label className="block">
      <span className="mb-1 block font-semibold">{words}</span>
      {children}
    </label>
  )
}
