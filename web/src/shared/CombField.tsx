import { useState } from 'react'
import { typedMm } from '../ui/units'

type Props = {
  words: string
  /** What is expected there, after the place's name. */
  hint?: string
  /** What was read there before, mm. */
  read?: number
  onKeep: (mm: number) => void
}

/** A place to push a comb into, and its depth typed. */
export function CombField({ words, hint, read, onKeep }: Props) {
  const [text, setText] = useState('')
  const mm = typedMm(text)
  return (
    <form
      className="flex items-center gap-3 text-lg leading-tight"
      onSubmit={(event) => {
        event.preventDefault()
        if (mm === null) return
        onKeep(mm)
        setText('')
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
          placeholder={read === undefined ? 'mm' : `${read} mm`}
          aria-label={`Comb depth, ${words}, mm`}
          className="min-h-12 w-24 rounded-lg border-2 border-rule px-3 text-xl"
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
