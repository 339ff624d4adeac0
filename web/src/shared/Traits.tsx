import { useCutGuide } from './queries'

const ABOUT = { minds: 'It minds', dog: 'It is', skin: 'Skin and first time', coat: 'Coat' } as const

/** What the dog minds, how it is, what its skin and coat are like. */
export function Traits({
  chosen,
  onChange,
}: {
  chosen: readonly string[]
  onChange: (traits: string[]) => void
}) {
  const guide = useCutGuide()
  const toggled = (code: string) =>
    chosen.includes(code) ? chosen.filter((one) => one !== code) : [...chosen, code]
  return (Object.keys(ABOUT) as (keyof typeof ABOUT)[]).map((about) => (
    <section key={about}>
      <h3 className="mb-1 text-sm text-quiet">{ABOUT[about]}</h3>
      <div className="flex flex-wrap gap-1.5" role="group" aria-label={ABOUT[about]}>
        {guide.data?.traits
          .filter((trait) => trait.about === about)
          .map((trait) => (
            <button
              key={trait.code}
              aria-pressed={chosen.includes(trait.code)}
              onClick={() => onChange(toggled(trait.code))}
              className="min-h-11 rounded-lg border border-rule bg-paper px-3 aria-pressed:border-cut aria-pressed:bg-cut aria-pressed:font-semibold aria-pressed:text-sheet"
            >
              {trait.words.replace(/^minds /, '')}
            </button>
          ))}
      </div>
    </section>
  ))
}
