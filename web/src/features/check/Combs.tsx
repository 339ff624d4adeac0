import type { Dog } from '../../api/client'
import { CombField } from '../../shared/CombField'
import { length, useUnit } from '../../ui/units'
import type { Check } from './checkMachine'
import { useCombs } from './useCheck'

/** What a comb has to tell: the places where photos leave open whether the hair is long, and what was combed. */
export function Combs({ dog, check }: { dog: Dog; check: Check }) {
  const { combed, comb, forget } = useCombs(dog, check)
  const [unit] = useUnit()
  const mm = (value: number) => `${length(value, unit)}${unit === 'mm' ? ' mm' : ''}`
  if (!check.comb.length && !combed.length) return null
  return (
    <section aria-label="To comb" className="flex flex-col gap-3">
      <h2 className="text-lg font-bold">Comb to be sure</h2>
      {check.comb.length > 0 && (
        <p className="text-quiet">
          Push a comb to the skin in the middle of the place, and type how deep it goes.
        </p>
      )}
      {check.comb.map((one) => (
        <div key={`${one.zone}/${one.side}`} data-to-comb={`${one.zone}/${one.side}`}>
          <CombField
            words={`${one.side} ${one.zone_words}`}
            hint={`, ${mm(one.leave_mm)} planned; ${one.why}`}
            onKeep={(depth) => comb(one.zone, one.side, depth)}
          />
        </div>
      ))}
      {combed.length > 0 && (
        <ul aria-label="Combed">
          {combed.map((one) => (
            <li key={`${one.zone}/${one.side}`} className="flex items-center gap-3">
              <span className="flex-1">
                {one.side} {zoneWords(check, one.zone)}: <b>{mm(one.depth_mm)}</b> by comb
              </span>
              <button className="min-h-12 px-2 underline" onClick={() => forget(one)}>
                Remove
                <span className="sr-only">
                  : {one.side} {zoneWords(check, one.zone)}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

const zoneWords = (check: Check, zone: string) =>
  check.places.find((place) => place.zone === zone)?.zone_words ?? zone
