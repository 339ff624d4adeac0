import { Check, X } from 'lucide-react'
import type { Dog, Outline, Wishes } from '../../api/client'
import { useWished } from '../../outbox/useOutbox'
import { plainWishes } from '../../shared/wishes'
import { Choices } from '../../ui/Choices'
import { SaidLengths } from './SaidLengths'

const EYES = { any: 'as it comes', open: 'open', veiled: 'veiled' } as const
const BEARD = { any: 'as it comes', short: 'short', long: 'long' } as const
const EARS = { any: 'as it comes', keep: 'keep', short: 'short' } as const
const FULLNESS = { '-0.6': 'shorter', '0': 'as it comes', '0.6': 'fuller' } as const
const WEEKS = { '0': 'not specified', '4': '4', '6': '6', '8': '8', '10': '10', '12': '12' } as const

type Props = { dog: Dog; drawing: Outline; wish: (wishes: Wishes) => void }

/** What the owner asked for; every outline is fitted to it, and what cannot be met is told. */
export function WishesPanel({ dog, drawing, wish }: Props) {
  const wishes = useWished(dog, 'wishes') ?? dog.wishes
  const change = (part: Partial<Wishes>) => wish({ ...plainWishes(wishes), ...part })
  const fullness = wishes.fullness === 0 ? '0' : wishes.fullness > 0 ? '0.6' : '-0.6'
  return (
    <div>
      {drawing.wishes.length > 0 && (
        <ul className="mb-2 flex flex-col gap-1" aria-label="Wishes met">
          {drawing.wishes.map((told) => (
            <li key={told.wish} className="flex gap-2 text-[0.95rem]" data-met={told.met}>
              {told.met ? (
                <Check size={18} strokeWidth={3} className="mt-0.5 shrink-0" aria-label="met:" />
              ) : (
                <X size={18} strokeWidth={3} className="mt-0.5 shrink-0 text-missing" aria-label="not met:" />
              )}
              <span>
                <b className="first-letter:uppercase">{told.wish}</b> — {told.words}
              </span>
            </li>
          ))}
        </ul>
      )}
      <Choices
        label="Length"
        value={fullness}
        choices={FULLNESS}
        onChange={(v) => change({ fullness: Number(v) })}
      />
      <Choices
        label="Eyes"
        value={wishes.eyes ?? 'any'}
        choices={EYES}
        onChange={(eyes) => change({ eyes })}
      />
      <Choices
        label="Beard"
        value={wishes.beard ?? 'any'}
        choices={BEARD}
        onChange={(beard) => change({ beard })}
      />
      <Choices
        label="Ears"
        value={wishes.ears ?? 'any'}
        choices={EARS}
        onChange={(ears) => change({ ears })}
      />
      <Choices
        label="Weeks between"
        value={String(wishes.weeks_between ?? 0) as keyof typeof WEEKS}
        choices={WEEKS}
        onChange={(weeks) => change({ weeks_between: Number(weeks) || null })}
      />
      <SaidLengths wishes={wishes} change={change} />
    </div>
  )
}
