import type { CutComb } from '../../api/client'
import { CombField } from '../../shared/CombField'
import { length, useUnit } from '../../ui/units'
import type { Check } from './checkMachine'
import type { useCombs } from './useCheck'

type ToComb = Check['comb'][number]
type Combing = ReturnType<typeof useCombs>

/** A place to comb, and its depth typed. words: what it is called, where its name stands above it already. */
export function AskedComb({ asked, comb, words }: { asked: ToComb; comb: Combing['comb']; words?: string }) {
  const mm = useMm()
  const known = words !== undefined && asked.spot === 'middle'
  return (
    <div data-to-comb={`${asked.zone}/${asked.side}`}>
      <CombField
        words={words ?? `${asked.side} ${asked.zone_words}`}
        hint={`, ${mm(asked.leave_mm)} planned${known ? '' : `; ${asked.why}`}`}
        onKeep={(depth_mm) => comb({ zone: asked.zone, side: asked.side, spot: asked.spot, depth_mm })}
      />
    </div>
  )
}

/** What a comb has to tell: the places where photos leave open whether the hair is long, and what was combed. Those
 * that are to be taken in ask for theirs beside what to take in. */
export function Combs({ check, combing }: { check: Check; combing: Combing }) {
  const { combed, comb, forget } = combing
  const mm = useMm()
  const takenIn = new Set(check.touch_ups.map((touch) => touch.place))
  const asked = check.comb.filter((one) => !takenIn.has(`${one.zone}/${one.side}`))
  if (!asked.length && !combed.length) return null
  return (
    <section aria-label="To comb" className="flex flex-col gap-3">
      <h2 className="text-lg font-bold">Comb to be sure</h2>
      {asked.length > 0 && (
        <p className="text-quiet">
          Push a comb to the skin in the middle of the place, and type how deep it goes. Where that leaves it
          open, it is asked for once more beside it.
        </p>
      )}
      {asked.map((one) => (
        <AskedComb key={`${one.zone}/${one.side}`} asked={one} comb={comb} />
      ))}
      {combed.length > 0 && (
        <ul aria-label="Combed">
          {combed.map((one) => (
            <li key={spotOf(one)} className="flex items-center gap-3">
              <span className="flex-1">
                {one.side} {zoneWords(check, one.zone)}
                {SPOTS[one.spot]}: <b>{mm(one.depth_mm)}</b> by comb
              </span>
              <button className="min-h-12 px-2 underline" onClick={() => forget(one)}>
                Remove
                <span className="sr-only">
                  : {one.side} {zoneWords(check, one.zone)}
                  {SPOTS[one.spot]}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

/** A length with its unit, in words. */
export function useMm() {
  const [unit] = useUnit()
  return (value: number) => `${length(value, unit)}${unit === 'mm' ? ' mm' : ''}`
}

const zoneWords = (check: Check, zone: string) =>
  check.places.find((place) => place.zone === zone)?.zone_words ?? zone

/** Where in its place a comb went in, after the place's name. */
const SPOTS: Record<CutComb['spot'], string> = {
  middle: '',
  front: ', further forward',
  back: ', further back',
  above: ', higher up',
  below: ', lower down',
}

const spotOf = (one: Pick<CutComb, 'zone' | 'side' | 'spot'>) => `${one.zone}/${one.side}/${one.spot}`
