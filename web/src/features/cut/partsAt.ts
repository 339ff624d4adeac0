import type { Dog } from '../../api/client'
import { partsFor } from '../../shared/FromLast'
import type { Step } from './cutMachine'

/** Whether a step cuts a place; a place without a side is on both. */
export const cutsPlace = (step: Step, zone: string, side: string) =>
  step.cuts.some((cut) => cut.zone === zone && (!side || cut.side === side)) ||
  (step.zones.includes(zone) && (!side || !step.cuts.length))

/** What the last visit noted for a step: at its place; what belongs to none comes with the first step. */
export const partsAt = (dog: Dog, step: Step) =>
  [...partsFor(dog, 'cut'), ...partsFor(dog, 'outline')].filter((part) =>
    part.zone ? cutsPlace(step, part.zone, part.side) : step.number === 1,
  )
