import { Check as Tick, Hand, SkipForward } from 'lucide-react'
import { Button } from '../../ui/Button'
import { AskedComb, useMm } from './Combs'
import { nextOpen, type Check, type CheckAction, type Done, type DoneBy, type TouchUp } from './checkMachine'
import type { useCombs } from './useCheck'

type Props = {
  check: Check
  done: DoneBy
  act: (action: CheckAction) => void
  comb: ReturnType<typeof useCombs>['comb']
}

const SAID: Record<Done, string> = { done: 'taken in', skipped: 'skipped', left: 'left' }

/** What to take in, in the order of the sheet: how much, with what, how; each ticked, skipped or left. */
export function TouchUps({ check, done, act, comb }: Props) {
  const next = nextOpen(check, done)
  const open = check.touch_ups.filter((t) => !done[t.place])
  if (!check.touch_ups.length) return <p className="text-xl font-bold">Nothing to take in.</p>
  return (
    <section aria-label="To take in" className="flex flex-col gap-2">
      <div className="flex items-center justify-between gap-2">
        <h2 className="text-xl font-bold">To take in</h2>
        {open.length > 0 && (
          <Button
            onClick={() => act({ type: 'enough', places: open.map((t) => t.place) })}
            aria-label="Leave the rest: it has had enough"
          >
            <Hand size={18} aria-hidden /> It has had enough
          </Button>
        )}
      </div>
      <ol className="flex flex-col gap-2">
        {check.touch_ups.map((touch) => (
          <Place
            key={touch.place}
            touch={touch}
            said={done[touch.place]}
            open={touch === next}
            act={act}
            first={check.comb.find((one) => `${one.zone}/${one.side}` === touch.place)}
            comb={comb}
          />
        ))}
      </ol>
    </section>
  )
}

type PlaceProps = {
  touch: TouchUp
  said: Done | undefined
  open: boolean
  act: (action: CheckAction) => void
  /** What to comb before it is cut. */
  first: Check['comb'][number] | undefined
  comb: Props['comb']
}

function Place({ touch, said, open, act, first, comb }: PlaceProps) {
  const mm = useMm()
  const place = `${touch.side} ${touch.zone_words}`
  return (
    <li
      data-touch-up={touch.place}
      className={`rounded-xl border-2 p-3 ${open ? 'border-off bg-sheet' : 'border-rule bg-sheet/60'}`}
    >
      <div className="flex items-baseline gap-3">
        <b className="text-4xl tabular-nums text-off">{mm(touch.off_mm)}</b>
        <span className="text-xl font-bold">{place}</span>
        {said && <span className="ml-auto text-lg">{SAID[said]}</span>}
      </div>
      <p className="text-quiet">
        {touch.low < 0.5 ? `at most ${mm(touch.high)}` : `${mm(touch.low)} to ${mm(touch.high)}`} too long;
        leave {mm(touch.leave_mm)}
      </p>
      {open && touch.step && (
        <p className="mt-1">
          Step {touch.step.number}: <b>{touch.step.tool || touch.step.title}</b>
          {touch.step.direction && `, ${touch.step.direction}`}. {touch.step.hold}
        </p>
      )}
      {open &&
        touch.step?.cautions.map((words) => (
          <p key={words} className="font-semibold text-warn">
            {words}
          </p>
        ))}
      {first && !said && <AskedComb asked={first} comb={comb} words="Comb before you cut" />}
      {said ? (
        <button className="min-h-12 underline" onClick={() => act({ type: 'open', place: touch.place })}>
          Take that back<span className="sr-only">: {place}</span>
        </button>
      ) : (
        <div className="mt-2 flex gap-2">
          <Button
            look={open ? 'firm' : 'plain'}
            className="flex-1"
            onClick={() => act({ type: 'say', place: touch.place, done: 'done' })}
          >
            <Tick size={18} aria-hidden /> Taken in<span className="sr-only">: {place}</span>
          </Button>
          <Button onClick={() => act({ type: 'say', place: touch.place, done: 'skipped' })}>
            <SkipForward size={18} aria-hidden /> Skip<span className="sr-only">: {place}</span>
          </Button>
        </div>
      )}
    </li>
  )
}
