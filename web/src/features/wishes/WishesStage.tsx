import { ArrowRight } from 'lucide-react'
import { Link } from 'react-router'
import { useDog } from '../../app/Visit'
import type { Dog, Wishes } from '../../api/client'
import { partOf, usePart } from '../../outbox/useOutbox'
import { Notice } from '../../ui/Notice'
import { Scroller } from '../../ui/Scroller'
import { UndoButtons } from '../../undo/UndoButtons'
import { FromLast, partsFor } from '../../shared/FromLast'
import { Traits } from '../../shared/Traits'
import { useWishes } from './useWishes'
import { WishSketch } from './WishSketch'
import { WishSlider } from './WishSlider'

/** The owner's words as they were said, what follows from them for the plan, and how the dog is. */
export function WishesStage() {
  const dog = useDog()
  return <Asking key={dog.visits.at(-1)?.id} dog={dog} />
}

const EYES = ['any', 'open', 'veiled'] as const
const BEARD = ['any', 'short', 'long'] as const
const EARS = ['any', 'keep', 'short'] as const
const WORDS: Readonly<Record<string, string>> = {
  any: 'as it comes',
  open: 'to be seen',
  veiled: 'half hidden',
  short: 'short',
  long: 'long',
  keep: 'left long',
}
const FULLNESS: readonly [number, string][] = [
  [-0.6, 'shorter'],
  [0, 'as it comes'],
  [0.6, 'fuller'],
]
const CHIPS: readonly [string, Partial<Wishes>][] = [
  ['eyes showing', { eyes: 'open' }],
  ['short beard that does not drip', { beard: 'short' }],
  ['ears left long', { ears: 'keep' }],
  ['ears short', { ears: 'short' }],
  ['keep the length', { fullness: 0.6 }],
  ['low upkeep', { fullness: -0.6, weeks_between: 10 }],
]

function Asking({ dog }: { dog: Dog }) {
  const { state, act, finish, resting } = useWishes(dog)
  const { wishes, words, traits } = state.asked
  const wish = (change: Partial<Wishes>) => act({ type: 'wish', change })
  const doing = [usePart(partOf(dog.id, 'wishes')), usePart(partOf(dog.id, 'traits'))]
  const met = (part: Partial<Wishes>) =>
    Object.entries(part).every(([key, value]) => wishes[key as keyof Wishes] === value)
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] gap-4 p-4 portrait:grid-cols-1 portrait:grid-rows-[minmax(0,1fr)_minmax(0,1fr)]">
      <Scroller
        outer="rounded-xl border border-rule bg-sheet overflow-hidden"
        className="flex flex-col gap-4 p-5 low:gap-3 low:p-4"
        role="region"
        aria-label="Wishes"
      >
        <div className="flex items-start justify-between gap-3">
          <h1 className="text-2xl font-bold">What is wished for {dog.name}?</h1>
          <Keeping doing={resting ? doing : ['waiting']} />
          <UndoButtons
            undo={state.past.length ? () => act({ type: 'undo' }) : null}
            redo={state.future.length ? () => act({ type: 'redo' }) : null}
          />
        </div>
        {dog.note && (
          <p className="border-l-4 border-tape pl-3 text-lg" data-last-note>
            <span className="block text-sm text-quiet">Noted before</span>
            {dog.note}
          </p>
        )}
        <FromLast parts={partsFor(dog, 'wishes')} />
        <label className="block">
          <span className="mb-1 block font-semibold">The owner’s words</span>
          <textarea
            value={words}
            maxLength={1000}
            rows={2}
            onChange={(event) => act({ type: 'say', words: event.target.value })}
            onBlur={() => act({ type: 'said' })}
            placeholder="As they were said"
            className="w-full rounded-lg border border-rule bg-paper px-3 py-2 text-lg"
          />
        </label>
        <div className="flex flex-wrap gap-2" role="group" aria-label="Often said">
          {CHIPS.map(([said, part]) => (
            <button
              key={said}
              aria-pressed={met(part)}
              onClick={() => wish(part)}
              className="min-h-12 rounded-full border border-rule bg-paper px-4 aria-pressed:border-ink aria-pressed:bg-tape aria-pressed:font-semibold aria-pressed:text-[#17352f]"
            >
              {said}
            </button>
          ))}
        </div>
        <div className="grid gap-x-6 gap-y-3 sm:grid-cols-2">
          <Pick label="Eyes" ids={EYES} value={wishes.eyes ?? 'any'} onPick={(eyes) => wish({ eyes })} />
          <Pick label="Beard" ids={BEARD} value={wishes.beard ?? 'any'} onPick={(beard) => wish({ beard })} />
          <Pick label="Ears" ids={EARS} value={wishes.ears ?? 'any'} onPick={(ears) => wish({ ears })} />
          <WishSlider
            label="Length all over"
            value={wishes.fullness ?? 0}
            low={-1}
            high={1}
            step={0.1}
            words={(v) => FULLNESS.find(([at]) => Math.abs(at - v) < 0.05)?.[1] ?? lengthWords(v)}
            ends={['shorter', 'fuller']}
            onChange={(fullness) => wish({ fullness })}
          />
          <WishSlider
            label="Weeks between visits"
            value={wishes.weeks_between ?? 0}
            low={0}
            high={16}
            step={1}
            words={(v) => (v ? `${v} weeks` : 'not specified')}
            ends={['not specified', '16']}
            onChange={(weeks) => wish({ weeks_between: weeks || null })}
          />
        </div>
      </Scroller>
      <aside className="flex min-h-0 flex-col gap-4">
        <section className="min-h-64 shrink-0 low:min-h-44 portrait:min-h-32 portrait:max-h-40 overflow-hidden rounded-xl border border-rule bg-sheet p-3">
          <WishSketch wishes={wishes} />
        </section>
        <Scroller
          outer="flex-1 rounded-xl border border-rule bg-sheet overflow-hidden "
          className="flex flex-col gap-3 p-4"
          role="region"
          aria-label={`How ${dog.name} is`}
        >
          <h2 className="text-xl font-bold">How is {dog.name}?</h2>
          <Traits chosen={traits} onChange={(now) => act({ type: 'traits', traits: now })} />
          {traits.some((t) => CARED.includes(t)) && (
            <Notice tone="warn">
              Note it, tell the owner, refer to a vet where in doubt. Leaving a head a little unfinished is
              right when the dog has had enough.
            </Notice>
          )}
        </Scroller>
        <Link
          to={`/dogs/${dog.id}/photos`}
          onClick={finish}
          className="inline-flex min-h-14 shrink-0 items-center justify-center gap-2 rounded-lg bg-cut px-5 text-lg font-semibold text-sheet"
        >
          {state.past.length || words ? 'Go on to photos' : 'Nothing special: go on to photos'}{' '}
          <ArrowRight size={18} aria-hidden />
        </Link>
      </aside>
    </main>
  )
}

function Keeping({ doing }: { doing: readonly string[] }) {
  return (
    <p role="status" className="ml-auto pt-2 text-sm text-quiet" data-keeping={doing.join(' ')}>
      {doing.every((one) => one === 'kept')
        ? 'Saved'
        : doing.includes('away')
          ? 'Kept here; sent when the server answers.'
          : 'Saving…'}
    </p>
  )
}

const CARED = ['ill', 'skin_trouble', 'ear_trouble', 'eye_trouble', 'mats']
const lengthWords = (v: number) => (v < 0 ? 'a little shorter' : 'a little fuller')

type PickProps<T extends string> = {
  label: string
  ids: readonly T[]
  value: T
  onPick: (id: T) => void
}

function Pick<T extends string>({ label, ids, value, onPick }: PickProps<T>) {
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">{label}</legend>
      <div className="flex gap-1.5">
        {ids.map((id) => (
          <button
            key={id}
            aria-pressed={value === id}
            onClick={() => onPick(id)}
            className="min-h-12 flex-1 rounded-lg border border-rule bg-paper px-2 aria-pressed:border-cut aria-pressed:bg-cut aria-pressed:font-semibold aria-pressed:text-sheet"
          >
            {WORDS[id]}
          </button>
        ))}
      </div>
    </fieldset>
  )
}
