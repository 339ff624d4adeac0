import { useState } from 'react'
import { Link } from 'react-router'
import type { Schemas } from '../../api/client'
import { TimeField } from '../../shared/TimeField'
import { Button } from '../../ui/Button'
import { useAttempt } from '../../ui/useAttempt'
import { Card } from './Card'
import { useHours, useSetHours } from './useHowFarOff'

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const FIELD = 'h-12 w-full rounded-lg border border-rule bg-paper px-3 text-lg'

/** When the salon works: what free times are looked for in. */
export function Hours() {
  const hours = useHours()
  if (!hours.data) return null
  return <Form key={JSON.stringify(hours.data)} hours={hours.data} />
}

function Form({ hours }: { hours: Schemas['HoursIO'] }) {
  const [form, setForm] = useState(hours)
  const save = useSetHours()
  const { attempt, wrong, busy } = useAttempt()
  const set = (change: Partial<typeof form>) => setForm({ ...form, ...change })
  const changed = JSON.stringify(form) !== JSON.stringify(hours)
  return (
    <Card title="Hours">
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          void attempt(() => save(form))
        }}
      >
        <div className="grid grid-cols-3 gap-2">
          <div>
            <span className="block font-semibold">From</span>
            <TimeField label="From" value={form.opens} onChange={(opens) => set({ opens })} />
          </div>
          <div>
            <span className="block font-semibold">To</span>
            <TimeField label="To" value={form.closes} onChange={(closes) => set({ closes })} />
          </div>
          <label>
            <span className="block font-semibold">Tables</span>
            <input
              type="number"
              min={1}
              max={20}
              required
              value={form.tables}
              onChange={(event) => set({ tables: Number(event.target.value) })}
              className={FIELD}
            />
          </label>
        </div>
        <div className="flex flex-wrap gap-1.5" role="group" aria-label="Open on">
          {DAYS.map((words, day) => (
            <button
              key={words}
              type="button"
              aria-pressed={!form.closed.includes(day)}
              onClick={() =>
                set({
                  closed: form.closed.includes(day)
                    ? form.closed.filter((d) => d !== day)
                    : [...form.closed, day].sort(),
                })
              }
              className="min-h-12 flex-1 rounded-lg border border-rule bg-paper px-1 aria-pressed:border-cut aria-pressed:bg-cut aria-pressed:font-semibold aria-pressed:text-sheet"
            >
              {words}
            </button>
          ))}
        </div>
        <Button type="submit" disabled={!changed || busy}>
          Save the hours
        </Button>
      </form>
      {wrong}
    </Card>
  )
}

/** The way to what the tool got wrong. */
export function OffCard() {
  return (
    <Card title="How far off">
      <p className="mb-3 text-quiet">
        What Dapwick expected before each reading, against what you found on your own dogs.
      </p>
      <Link to="/salon/how-far-off" className="inline-flex min-h-12 items-center font-semibold underline">
        See how far off it is
      </Link>
    </Card>
  )
}
