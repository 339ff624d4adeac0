import { useSyncExternalStore } from 'react'
import { stored } from './stored'

export type Unit = 'mm' | 'in'

const unit = stored<Unit>('unit', ['mm', 'in'])

export function useUnit(): [Unit, () => void] {
  const now = useSyncExternalStore(unit.subscribe, unit.get)
  return [now, () => unit.set(now === 'mm' ? 'in' : 'mm')]
}

const MM_PER_INCH = 25.4

const TENTHS_UNDER_MM = 5
const SIXTEENTHS_FROM_MM = 3

/** A length as it is cut: short blades to a tenth of a millimetre or a hundredth of an inch. */
export function cutLength(mm: number, unit: Unit): string {
  if (unit === 'mm') {
    const parts = mm < 1 ? 100 : mm < TENTHS_UNDER_MM ? 10 : 1
    return String(Math.round(mm * parts) / parts)
  }
  return mm < SIXTEENTHS_FROM_MM ? `${(mm / MM_PER_INCH).toFixed(2)}″` : length(mm, unit)
}

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

/** The same with its unit, as it stands by itself. */
export const lengthWords = (mm: number, unit: Unit): string => length(mm, unit) + (unit === 'mm' ? ' mm' : '')

const MM_IN_WORDS = /(\d+(?:\.\d+)?)((?:–| to ±?| or | and )\d+(?:\.\d+)?)*\s?mm\b/g

/** A sentence of the server, or a guard's name, with its millimetres in the unit that is wanted. */
export const inUnit = (words: string, unit: Unit): string =>
  unit === 'mm'
    ? words
    : words.replace(MM_IN_WORDS, (told) =>
        told.replace(/\s?mm$/, '').replace(/\d+(?:\.\d+)?/g, (mm) => cutLength(Number(mm), unit)),
      )

/** A typed length in mm, as hands and callipers type it; null while it is none. */
export function typedMm(typed: string): number | null {
  const mm = Number(
    typed
      .trim()
      .replace(',', '.')
      .replace(/\s*mm\s*$/i, '') || NaN,
  )
  return Number.isFinite(mm) ? mm : null
}
