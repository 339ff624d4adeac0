import type { Schemas } from '../api/client'
import type { Line } from '../sheet/lines'

type VisitThen = Schemas['VisitThenOut']

/** A visit's kept outline by view, mm, and how strongly it still shows. */
export type PastOutline = {
  readonly visit: number
  readonly lines: Readonly<Record<string, Line>>
  readonly opacity: number
}

const FADES_TO = 0.5
const MOST = 4

/** The latest few outlines of a dog, oldest first: each visit since fades one by half. */
export function outlinesOf(visits: readonly VisitThen[]): PastOutline[] {
  const kept = visits.filter((visit) => Object.keys(visit.lines).length > 0).slice(-MOST)
  return kept.map((visit, i) => ({
    visit: visit.id,
    lines: visit.lines,
    opacity: FADES_TO ** (kept.length - 1 - i),
  }))
}

/** Zones whose coat was known on at least one visit, those that grew most apart first. */
export function zonesOver(visits: readonly VisitThen[], most: number): string[] {
  const seen = new Map<string, number[]>()
  for (const visit of visits)
    for (const zone of visit.coat) seen.set(zone.zone, [...(seen.get(zone.zone) ?? []), zone.came_mm])
  const spread = (lengths: number[]) => Math.max(...lengths) - Math.min(...lengths)
  return [...seen]
    .sort(([, a], [, b]) => b.length - a.length || spread(b) - spread(a) || Math.max(...b) - Math.max(...a))
    .slice(0, most)
    .map(([zone]) => zone)
}
