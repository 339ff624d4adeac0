import type { Schemas } from '../../api/client'
import { noTimeline, undoable, type Timeline, type Undo } from '../../undo/undoable'

export type Check = Schemas['CheckOut']
export type TouchUp = Schemas['TouchUpOut']
export type Done = NonNullable<TouchUp['done']>
/** What was done about each place that came out long, by its key; a place left out is open. */
export type DoneBy = Readonly<Record<string, Done>>

export type CheckState = Timeline<DoneBy> & { readonly done: DoneBy }

export type CheckAction =
  | { type: 'say'; place: string; done: Done }
  | { type: 'open'; place: string }
  | { type: 'enough'; places: readonly string[] }
  | { type: 'theirs'; done: DoneBy }
  | Undo

export const beginCheck = (done: DoneBy): CheckState => ({ done, ...noTimeline })

function reducer(state: CheckState, action: Exclude<CheckAction, Undo>): CheckState {
  switch (action.type) {
    case 'say':
      return { ...state, done: { ...state.done, [action.place]: action.done } }
    case 'open': {
      const others = Object.entries(state.done).filter(([place]) => place !== action.place)
      return { ...state, done: Object.fromEntries(others) }
    }
    // The dog has had enough: what is still open is left.
    case 'enough':
      return {
        ...state,
        done: {
          ...Object.fromEntries(action.places.map((place) => [place, 'left' as const])),
          ...state.done,
        },
      }
    case 'theirs':
      return { ...state, done: action.done }
  }
}

export const checkReducer = undoable<CheckState, DoneBy, CheckAction>(reducer, {
  partOf: (state) => state.done,
  lay: (state, done) => ({ ...state, done }),
})

/** What was said of a check's places, as the server has it. */
export const doneIn = (check: Check): DoneBy =>
  Object.fromEntries(check.touch_ups.flatMap((t) => (t.done ? [[t.place, t.done]] : [])))

/** The first place nothing was said of yet. */
export const nextOpen = (check: Check, done: DoneBy): TouchUp | undefined =>
  check.touch_ups.find((t) => !done[t.place])

/** Ticks long enough to be drawn, photo px: outward where hair is left, inward where it is short. */
export const drawnTicks = (photo: Check['photos'][number], leastMm: number) =>
  photo.ticks.filter((tick) => Math.abs(tick.mm) >= leastMm)
