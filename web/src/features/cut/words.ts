import { cutLength, type Unit } from '../../ui/units'
import type { Step } from './cutMachine'

const SAME_MM = 1

/** A step's number as it is cut: one length, or the span of several. */
export function numberWords(step: Step, unit: Unit): string {
  if (!step.leave_mm) return ''
  const [low, high] = step.leave_mm
  return high - low < SAME_MM ? cutLength(low, unit) : `${cutLength(low, unit)}–${cutLength(high, unit)}`
}

/** One place's own length. */
export const partLength = (part: Step['parts'][number], unit: Unit): string =>
  part.leave_mm === null ? 'close' : cutLength(part.leave_mm, unit)

export const clock = (seconds: number) =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds) % 60).padStart(2, '0')}`
