import type { Schemas } from '../../api/client'

export type Band = Schemas['BandOut']
/** Where words change, as it is typed: each edge's text by its id. */
export type BandsState = Readonly<Record<string, string>>
export type BandsAction =
  { type: 'type'; id: string; text: string } | { type: 'usual'; bands: readonly Band[] }

export const idOf = (band: Band, i: number) => `${band.measure}.${i}`

const texts = (bands: readonly Band[], of: 'edges' | 'usual'): BandsState =>
  Object.fromEntries(bands.flatMap((band) => band[of].map((edge, i) => [idOf(band, i), String(edge)])))

export const beginBands = (bands: readonly Band[]): BandsState => texts(bands, 'edges')

export function bandsReducer(state: BandsState, action: BandsAction): BandsState {
  switch (action.type) {
    case 'type':
      return { ...state, [action.id]: action.text }
    case 'usual':
      return texts(action.bands, 'usual')
  }
}

const numbersOf = (state: BandsState, band: Band) =>
  band.edges.map((_, i) => Number((state[idOf(band, i)] ?? '').replace(',', '.') || NaN))

/** The first band of which something typed is no number. */
export const wrongIn = (state: BandsState, bands: readonly Band[]) =>
  bands.find((band) => numbersOf(state, band).some((n) => !Number.isFinite(n)))

/** All edges as numbers, by measure. */
export const edgesOf = (state: BandsState, bands: readonly Band[]) =>
  Object.fromEntries(bands.map((band) => [band.measure, numbersOf(state, band)]))
