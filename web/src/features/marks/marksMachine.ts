import type { Mark } from '../../api/client'
import type { ImagePoint } from '../../sheet/points'
import { noTimeline, undoable, type Timeline, type Undo } from '../../undo/undoable'

export type Marks = Readonly<Record<string, Mark>>
export type AllMarks = Readonly<Record<number, Marks>>

/** Everything the Marks stage knows; what is drawn follows from it alone. */
export type MarksState = Timeline<AllMarks> & {
  readonly photoId: number
  readonly all: AllMarks
  readonly selected: string | null
  readonly skipped: readonly string[]
}

export type MarksAction =
  | { type: 'show'; photoId: number }
  | { type: 'select'; mark: string | null }
  | { type: 'place'; mark: string; at: ImagePoint }
  | { type: 'nudge'; dx: number; dy: number }
  | { type: 'remove'; mark: string }
  | { type: 'unsure' }
  | { type: 'accept'; ghosts: readonly Suggestion[] }
  | { type: 'skip'; mark: string }
  | { type: 'theirs'; photoId: number; marks: Marks }
  | Undo

/** expected: by the solve alone; taken, it tells nothing new. */
export type Suggestion = { mark: string; at: readonly [number, number]; expected: boolean }

const REMEMBERED = 200

export function begin(photoId: number, all: AllMarks): MarksState {
  return { photoId, all, selected: null, skipped: [], ...noTimeline }
}

export const marksOf = (state: MarksState): Marks => state.all[state.photoId] ?? {}

const tenth = (value: number) => Math.round(value * 10) / 10

function changed(state: MarksState, marks: Marks, selected: string | null): MarksState {
  return {
    ...state,
    all: { ...state.all, [state.photoId]: marks },
    selected,
  }
}

function moved(marks: Marks, mark: string, x: number, y: number): Marks {
  const now = { kind: null, unsure: false, ...marks[mark] }
  return { ...marks, [mark]: { ...now, expected: false, at: [tenth(x), tenth(y)] } }
}

/** The photo whose marks differ between two states of all photos, for undo to show it. */
function photoThatDiffers(a: AllMarks, b: AllMarks, otherwise: number): number {
  const ids = Object.keys({ ...a, ...b }).map(Number)
  return ids.find((id) => a[id] !== b[id]) ?? otherwise
}

function reducer(state: MarksState, action: Exclude<MarksAction, Undo>): MarksState {
  const marks = marksOf(state)
  switch (action.type) {
    case 'show':
      return { ...state, photoId: action.photoId, selected: null, skipped: [] }
    case 'select':
      return { ...state, selected: action.mark }
    case 'place':
      return changed(state, moved(marks, action.mark, action.at.x, action.at.y), action.mark)
    case 'nudge': {
      const now = state.selected ? marks[state.selected] : undefined
      if (!state.selected || !now) return state
      return changed(
        state,
        moved(marks, state.selected, now.at[0] + action.dx, now.at[1] + action.dy),
        state.selected,
      )
    }
    case 'remove': {
      if (!marks[action.mark]) return state
      const rest = Object.fromEntries(Object.entries(marks).filter(([id]) => id !== action.mark))
      return changed(state, rest, null)
    }
    case 'unsure': {
      const now = state.selected ? marks[state.selected] : undefined
      if (!state.selected || !now) return state
      return changed(state, { ...marks, [state.selected]: { ...now, unsure: !now.unsure } }, state.selected)
    }
    case 'accept': {
      if (!action.ghosts.length) return state
      // Taken all at once, nobody has looked at each: they count as not sure.
      const unsure = action.ghosts.length > 1
      const taken = Object.fromEntries(
        action.ghosts.map((g) => [
          g.mark,
          {
            kind: null,
            unsure,
            expected: g.expected,
            at: [tenth(g.at[0]), tenth(g.at[1])],
          } as Mark,
        ]),
      )
      // It goes on by itself to the next one.
      return changed(state, { ...marks, ...taken }, null)
    }
    case 'theirs':
      // Another tablet changed them: undo leads back to what was here.
      return { ...state, all: { ...state.all, [action.photoId]: action.marks } }
    case 'skip':
      return { ...state, skipped: [...state.skipped, action.mark], selected: null }
  }
}

export const marksReducer = undoable<MarksState, AllMarks, MarksAction>(reducer, {
  partOf: (state) => state.all,
  lay: (state, all) => ({
    ...state,
    all,
    photoId: photoThatDiffers(all, state.all, state.photoId),
    selected: null,
  }),
  most: REMEMBERED,
})

/** The next mark to place on this photo, in the guided order, past those put off. */
export function nextMark(state: MarksState, order: readonly string[]): string | null {
  const marks = marksOf(state)
  return order.find((id) => !marks[id] && !state.skipped.includes(id)) ?? null
}

/** The first other photo, front first, that has marks to place still; null where all have theirs. */
export function nextPhoto<P extends { id: number; view: string; state: string }>(
  state: MarksState,
  photos: readonly P[],
  orders: Readonly<Record<string, readonly string[]>>,
): P | null {
  const open = photos.filter(
    (p) => p.id !== state.photoId && (orders[p.view] ?? []).some((mark) => !state.all[p.id]?.[mark]),
  )
  return open.find((p) => p.view === 'front') ?? open[0] ?? null
}

/** Marks of this photo that were taken as suggested, all at once, and that nobody has looked at. */
export const guessed = (state: MarksState): string[] =>
  Object.entries(marksOf(state))
    .filter(([, mark]) => mark.unsure)
    .map(([id]) => id)
