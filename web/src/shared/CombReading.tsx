import { useState } from 'react'
import type { Dog } from '../api/client'
import { change, useWished } from '../outbox/useOutbox'
import { typedMm } from '../ui/units'

type Props = {
  dog: Dog
  zone: string
  /** Null: both sides. */
  side: 'left' | 'right' | null
  words: string
  /** What is expected there, after the place's name. */
  hint?: string
}

/** One place to push a comb into: its depth typed and kept, in the stead of an earlier one. */
export function CombReading({ dog, zone, side, words, hint }: Props) {
  const [text, setText] = useState('')
  const probes = useWished(dog, 'coat-probes') ?? dog.coat_probes
  const mine = probes.find((probe) => probe.zone === zone && probe.side === side)
  const mm = typedMm(text)
  function keep() {
    if (mm === null) return
    const others = probes.filter((probe) => probe !== mine)
    change(dog, 'coat-probes', [...others, { zone, side, depth_mm: mm }])
    setText('')
  }
  return (
    <form
      className="flex items-center gap-3 text-lg leading-tight"
      onSubmit={(event) => {
        event.preventDefault()
        keep()
      }}
    >
      <label className="flex min-w-0 flex-1 items-center gap-3">
        <span className="flex-1">
          <b>{words}</b>
          {hint}
        </span>
        <input
          inputMode="decimal"
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder={mine ? `${mine.depth_mm} mm` : 'depth, mm'}
          aria-label={`Comb depth, ${words}, mm`}
          className="min-h-12 w-32 rounded-lg border-2 border-rule px-3 text-xl"
        />
      </label>
      <button
        type="submit"
        disabled={mm === null}
        className="min-h-12 rounded-lg border-2 border-rule px-4 font-semibold disabled:opacity-30"
      >
        Save
      </button>
    </form>
  )
}
