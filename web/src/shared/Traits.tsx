import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import type { Schemas } from '../api/client'
import { useCutGuide } from './queries'

const ABOUT = {
  minds: 'It minds',
  dog: 'It is',
  skin: 'Skin and first time',
  coat: 'Coat',
  seen: 'Seen in the coat',
  life: 'Where it lives',
} as const
const CHIP =
  'min-h-11 rounded-lg border border-rule bg-paper px-3 aria-pressed:border-cut aria-pressed:bg-cut aria-pressed:font-semibold aria-pressed:text-sheet'

type Trait = Schemas['TraitOut']
type Props = { chosen: readonly string[]; onChange: (traits: string[]) => void }

/** What the dog minds, how it is, what its skin and coat are like, what is seen in the coat and where. */
export function Traits({ chosen, onChange }: Props) {
  const guide = useCutGuide()
  const toggle = (code: string) =>
    onChange(chosen.includes(code) ? chosen.filter((one) => one !== code) : [...chosen, code])
  return (Object.keys(ABOUT) as (keyof typeof ABOUT)[]).map((about) => (
    <section key={about}>
      <h3 className="mb-1 text-sm text-quiet">{ABOUT[about]}</h3>
      <div className="flex flex-wrap gap-1.5" role="group" aria-label={ABOUT[about]}>
        {guide.data?.traits
          .filter((trait) => trait.about === about)
          .map((trait) =>
            trait.places.length ? (
              <Placed key={trait.code} trait={trait} chosen={chosen} toggle={toggle} />
            ) : (
              <button
                key={trait.code}
                aria-pressed={chosen.includes(trait.code)}
                onClick={() => toggle(trait.code)}
                className={CHIP}
              >
                {trait.words.replace(/^minds /, '')}
              </button>
            ),
          )}
      </div>
    </section>
  ))
}

/** Something seen in the coat: a press asks where. */
function Placed({
  trait,
  chosen,
  toggle,
}: {
  trait: Trait
  chosen: Props['chosen']
  toggle: (code: string) => void
}) {
  const there = trait.places.filter((place) => chosen.includes(place.code))
  return (
    <Popover>
      <PopoverButton aria-pressed={there.length > 0} className={CHIP}>
        {[trait.words, there.map((place) => place.words).join(', ')].filter(Boolean).join(': ')}
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'bottom start', gap: 4 }}
        focus
        className="z-20 flex max-w-[22rem] flex-col gap-2 rounded-xl border-2 border-ink bg-sheet p-3"
      >
        <p className="text-sm text-quiet">Where?</p>
        <div className="flex flex-wrap gap-1.5" role="group" aria-label={`${trait.words}: where`}>
          {trait.places.map((place) => (
            <button
              key={place.code}
              aria-pressed={chosen.includes(place.code)}
              onClick={() => toggle(place.code)}
              className={CHIP}
            >
              {place.words}
            </button>
          ))}
        </div>
      </PopoverPanel>
    </Popover>
  )
}
