import { cutLength, type Unit } from '../../ui/units'
import type { Step } from './cutMachine'

const SAME_MM = 1

/** A step's number as it is cut: one length, or the span of several. */
export function numberWords(step: Step, unit: Unit): string {
  if (!step.leave_mm) return ''
  const [low, high] = step.leave_mm
  if (high - low < SAME_MM) return cutLength(low, unit)
  // A span is read as a span: whole millimetres.
  return unit === 'mm'
    ? `${Math.round(low)}–${Math.round(high)}`
    : `${cutLength(low, unit)}–${cutLength(high, unit)}`
}

/** One place's own length. */
export const partLength = (part: Step['parts'][number], unit: Unit): string =>
  part.leave_mm === null ? 'close' : cutLength(part.leave_mm, unit)

/** How a place's length runs, or nothing where one number does. */
export const runWords = (part: Step['parts'][number], unit: Unit): string =>
  unit === 'mm' ? part.run : part.run.replace(/\d+/g, (mm) => cutLength(Number(mm), unit))

export const clock = (seconds: number) =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds) % 60).padStart(2, '0')}`
