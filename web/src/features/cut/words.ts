import type { Schemas } from '../../api/client'
import { cutLength, type Unit } from '../../ui/units'
import type { Step } from './cutMachine'

const SAME_MM = 1
/** Shorter than this nobody scissors by number. */
const CLOSE_MM = 1

/** A step's number as it is cut: one length, or the span of several. */
export function numberWords(step: Step, unit: Unit): string {
  if (!step.leave_mm) return ''
  const [low, high] = step.leave_mm
  return high - low < SAME_MM ? cutLength(low, unit) : `${cutLength(low, unit)}–${cutLength(high, unit)}`
}

/** Each zone's own length, where a step's zones or sides are cut to different ones. */
export function zoneWords(step: Step, unit: Unit): string[] {
  const all = step.cuts.map((cut) => cut.leave_mm)
  const clipped = /^(blade|guard)-/.test(step.tool_id ?? '')
  if (!step.leave_mm || clipped || Math.max(...all) - Math.min(...all) < SAME_MM) return []
  const said = (mm: number) => (mm < CLOSE_MM ? 'close' : cutLength(mm, unit))
  const zones = new Map<string, Schemas['CutOfZone'][]>()
  for (const cut of step.cuts) zones.set(cut.zone, [...(zones.get(cut.zone) ?? []), cut])
  return [...zones].map(([zone, cuts]) => {
    const lengths = cuts.map((cut) => cut.leave_mm)
    const apart = Math.max(...lengths) - Math.min(...lengths)
    const words =
      apart < SAME_MM
        ? said(Math.min(...lengths))
        : cuts.map((c) => `${c.side} ${said(c.leave_mm)}`).join(', ')
    return `${zone.replaceAll('_', ' ')} ${words}`
  })
}

export const clock = (seconds: number) =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds) % 60).padStart(2, '0')}`
