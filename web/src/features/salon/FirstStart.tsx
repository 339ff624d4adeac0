import { useState } from 'react'
import { Button } from '../../ui/Button'
import { Choices } from '../../ui/Choices'
import { useUnit } from '../../ui/units'
import { usualDayStyle } from '../../shared/days'
import { Notice } from '../../ui/Notice'
import { useFirstStart } from './useSalonRecord'

const FIELD = 'h-12 w-full rounded-lg border border-rule bg-paper px-3 text-lg'
const HANDS = { right: 'right hand', left: 'left hand' } as const
const UNITS = { mm: 'millimetres', in: 'inches' } as const

/** The very first screen: look round among demo dogs, or begin with one's own. */
export function FirstStart() {
  const [name, setName] = useState('')
  const [stylist, setStylist] = useState('')
  const [hand, setHand] = useState<'right' | 'left'>('right')
  const [unit, turnUnit] = useUnit()
  const start = useFirstStart()
  return (
    <main className="graph grid h-full place-items-center overflow-auto p-6">
      <div className="w-full max-w-4xl">
        <h1 className="text-4xl font-bold tracking-tight">Dapwick</h1>
        <p className="mb-6 max-w-2xl text-lg text-quiet">
          Measures one dog’s head from photos and plans its outline before the first cut. How do you want to
          begin?
        </p>
        <div className="grid gap-5 sm:grid-cols-2">
          <form
            className="flex flex-col rounded-xl border border-rule bg-sheet p-6"
            onSubmit={(event) => {
              event.preventDefault()
              start.mutate({ kind: 'empty', name, stylist, hand, days: usualDayStyle() })
            }}
          >
            <h2 className="mb-1 text-xl font-bold">With your own dogs</h2>
            <p className="mb-4 text-quiet">Three questions, then an empty book.</p>
            <label className="mb-4 block">
              <span className="mb-1 block font-semibold">The salon’s name</span>
              <input
                value={name}
                maxLength={60}
                onChange={(event) => setName(event.target.value)}
                className={FIELD}
              />
            </label>
            <label className="mb-2 block">
              <span className="mb-1 block font-semibold">Who cuts?</span>
              <input
                value={stylist}
                maxLength={40}
                placeholder="You can say so later"
                onChange={(event) => setStylist(event.target.value)}
                className={FIELD}
              />
            </label>
            <Choices label="With the" value={hand} choices={HANDS} onChange={setHand} />
            <Choices
              label="In"
              value={unit}
              choices={UNITS}
              onChange={(wanted) => wanted !== unit && turnUnit()}
            />
            <Button look="firm" type="submit" className="mt-auto" disabled={!name.trim() || start.isPending}>
              Begin
            </Button>
          </form>
          <section className="flex flex-col rounded-xl border border-rule bg-sheet p-6">
            <h2 className="mb-1 text-xl font-bold">Looking round first</h2>
            <p className="mb-4 text-quiet">
              The Net Loft on the island of Skerrow: eight simulated dogs with photos, two stylists, a day’s
              book. It can be reset or removed at any time under Salon.
            </p>
            <Button
              className="mt-auto"
              disabled={start.isPending}
              onClick={() =>
                start.mutate({ kind: 'demo', name: '', stylist: '', hand: 'right', days: usualDayStyle() })
              }
            >
              {start.isPending ? 'Adding the dogs…' : 'Open the demo salon'}
            </Button>
          </section>
        </div>
        {start.error && <Notice tone="warn">{start.error.message}</Notice>}
      </div>
    </main>
  )
}
