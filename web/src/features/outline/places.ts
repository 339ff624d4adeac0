import type { Schemas, Thumb } from '../../api/client'

/** One tile of the strip: its outline as it is fitted, or none yet. */
export type Place = { readonly key: string; readonly name: string; readonly thumb: Thumb | null }

/**
 * Tiles that hold still while outlines are fitted anew. ranked: keys, best first, joined by commas, as they were when
 * all were fitted last; those it does not name come after, as they are offered.
 */
export function inPlaces(
  choices: readonly Schemas['ChoiceOut'][],
  found: readonly Thumb[],
  ranked: string,
): Place[] {
  const rank = new Map(ranked.split(',').map((key, at) => [key, at]))
  const last = rank.size
  return choices
    .map(({ key, name }) => ({ key, name, thumb: found.find((t) => t.family === key) ?? null }))
    .sort((a, b) => (rank.get(a.key) ?? last) - (rank.get(b.key) ?? last))
}
