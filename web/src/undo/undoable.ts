/** What was there before, the latest last, and what was taken back, the latest first. */
export type Timeline<Part> = { readonly past: readonly Part[]; readonly future: readonly Part[] }

export type Undo = { type: 'undo' } | { type: 'redo' }

type Rules<State, Part, Action> = {
  /** What undo brings back: kept by reference, so an action that leaves it alone is no step. */
  partOf: (state: State) => Part
  /** A part laid back, with whatever else of the state that entails. */
  lay: (state: State, part: Part) => State
  /** Whether an action goes on with the step before it: a drag, a sentence being typed. */
  joins?: (state: State, action: Action) => boolean
  most?: number
}

const MOST = 60

export const noTimeline: Timeline<never> = { past: [], future: [] }

/** A reducer with undo and redo of a part of its state: every action that changes the part is one step. */
export function undoable<State extends Timeline<Part>, Part, Action extends { type: string }>(
  reducer: (state: State, action: Exclude<Action, Undo>) => State,
  { partOf, lay, joins = () => false, most = MOST }: Rules<State, Part, Action>,
) {
  return (state: State, action: Action): State => {
    const part = partOf(state)
    if (isUndo(action)) {
      const back = action.type === 'undo'
      const to = back ? state.past.at(-1) : state.future[0]
      if (to === undefined) return state
      const past = back ? state.past.slice(0, -1) : [...state.past, part]
      const future = back ? [part, ...state.future] : state.future.slice(1)
      return { ...lay(state, to), past, future }
    }
    const after = reducer(state, action as Exclude<Action, Undo>)
    // A state that brings a timeline of its own (as it was before a reload) keeps it.
    if (after.past !== state.past || partOf(after) === part) return after
    if (joins(state, action)) return { ...after, future: [] }
    return { ...after, past: [...state.past, part].slice(-most), future: [] }
  }
}

const isUndo = (action: { type: string }): action is Undo => action.type === 'undo' || action.type === 'redo'
