import type { Dog } from '../api/client'
import { change, useWished } from '../outbox/useOutbox'
import { CombField } from './CombField'

type Props = {
  dog: Dog
  zone: string
  /** Null: both sides. */
  side: 'left' | 'right' | null
  words: string
  hint?: string
}

/** One place to push a comb into: its depth typed and kept, in the stead of an earlier one. */
export function CombReading({ dog, zone, side, words, hint }: Props) {
  const probes = useWished(dog, 'coat-probes') ?? dog.coat_probes
  const mine = probes.find((probe) => probe.zone === zone && probe.side === side)
  return (
    <CombField
      words={words}
      hint={hint}
      read={mine?.depth_mm}
      onKeep={(mm) =>
        change(dog, 'coat-probes', [...probes.filter((p) => p !== mine), { zone, side, depth_mm: mm }])
      }
    />
  )
}
