import { useSyncExternalStore } from 'react'
import { stored } from './stored'

export type Unit = 'mm' | 'in'

const unit = stored<Unit>('unit', 'mm')

export function useUnit(): [Unit, () => void] {
  const now = useSyncExternalStore(unit.subscribe, unit.get)
  return [now, () => unit.set(now === 'mm' ? 'in' : 'mm')]
}

const MM_PER_INCH = 25.4

/** A length as it is read at the table: whole mm, or inches to a sixteenth. */
export function length(mm: number, unit: Unit): string {
  if (unit === 'mm') return String(Math.round(mm))
  const sixteenths = Math.round((mm / MM_PER_INCH) * 16)
  const whole = Math.floor(sixteenths / 16)
  let [top, bottom] = [sixteenths % 16, 16]
  while (top && top % 2 === 0) [top, bottom] = [top / 2, bottom / 2]
  if (!top) return `${whole}″`
  return `${whole ? `${whole} ` : ''}${top}/${bottom}″`
}
