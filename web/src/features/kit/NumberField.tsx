import { useState } from 'react'
import { useUnit } from '../../ui/units'

const MM_PER_INCH = 25.4

type Props = { label: string; mm: number; onChange: (mm: number) => void }

/** A length typed in mm or in inches; kept in mm. What is not a number stays red and is not taken. */
export function LengthField({ label, mm, onChange }: Props) {
  const [unit] = useUnit()
  const [typed, setTyped] = useState<string | null>(null)
  const factor = unit === 'mm' ? 1 : MM_PER_INCH
  const shown = typed ?? String(Math.round((mm / factor) * 1000) / 1000)
  const value = Number(shown.replace(',', '.'))
  const wrong = !Number.isFinite(value) || value <= 0
  return (
    <span className="inline-flex items-center gap-1.5">
      <input
        inputMode="decimal"
        aria-label={`${label}, ${unit}`}
        aria-invalid={wrong}
        value={shown}
        onChange={(event) => {
          setTyped(event.target.value)
          const next = Number(event.target.value.replace(',', '.'))
          if (Number.isFinite(next) && next > 0) onChange(next * factor)
        }}
        onBlur={() => setTyped(null)}
        className="h-11 w-20 rounded-lg border border-rule bg-paper px-2 text-right font-bold aria-invalid:border-warn aria-invalid:text-warn"
      />
      <span className="text-sm text-quiet">{unit}</span>
    </span>
  )
}
