import { useId } from 'react'

type Props = {
  label: string
  value: number
  low: number
  high: number
  step: number
  words: (value: number) => string
  ends: readonly [string, string]
  onChange: (value: number) => void
}

/** A slider that says its value in words. */
export function WishSlider({ label, value, low, high, step, words, ends, onChange }: Props) {
  const id = useId()
  return (
    <div>
      <label htmlFor={id} className="flex justify-between font-semibold">
        {label} <span className="font-normal">{words(value)}</span>
      </label>
      <input
        id={id}
        type="range"
        min={low}
        max={high}
        step={step}
        value={value}
        aria-valuetext={words(value)}
        onChange={(event) => onChange(Number(event.target.value))}
        className="tape-slider h-12 w-full"
      />
      <span className="flex justify-between text-sm text-quiet">
        <span>{ends[0]}</span>
        <span>{ends[1]}</span>
      </span>
    </div>
  )
}
