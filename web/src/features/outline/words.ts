import type { Outline, Thumb } from '../../api/client'
import { cardDay, dayAfter, isoOf } from '../../shared/days'

const DAYS_A_WEEK = 7

/** When an outline can be cut, as short as a glance. */
export function verdictWords(
  of: Pick<Thumb, 'verdict' | 'weeks' | 'weeks_low' | 'weeks_high' | 'comb_first'>,
): string {
  if (of.verdict === 'today') return of.comb_first.length ? 'comb first' : 'today'
  if (of.verdict === 'not_on_this_coat') return 'not on this coat'
  const [low, high] = [of.weeks_low, of.weeks_high]
  return low === high ? `in ${of.weeks} ${of.weeks === 1 ? 'week' : 'weeks'}` : `in ${low}–${high} weeks`
}

/** The day some weeks from now, as it is written on a card. */
export const dayIn = (weeks: number, from = new Date()) =>
  cardDay(dayAfter(isoOf(from), Math.round(weeks * DAYS_A_WEEK)))

/** Left and right of every zone, left first. */
export function pairsOf(zones: Outline['zones']) {
  const names = [...new Set(zones.map((z) => z.zone))]
  return names.flatMap((zone) => {
    const left = zones.find((z) => z.zone === zone && z.side === 'left')
    const right = zones.find((z) => z.zone === zone && z.side === 'right')
    return left && right ? [{ zone, left, right }] : []
  })
}
