import type { Outline } from '../../api/client'

export type Params = Readonly<Record<string, number>>
export type Schools = Readonly<Record<string, string>>

/** What the user has set; the drawing itself comes from the server and is kept beside it. */
export type OutlineState = {
  readonly family: string
  readonly params: Params
  readonly schools: Schools
  readonly past: readonly Params[]
  readonly future: readonly Params[]
  /** Number of the newest setting asked for, and of the newest one drawn. */
  readonly asked: number
  readonly shown: number
  readonly drawing: Outline | null
  readonly kept: boolean
}

export type OutlineAction =
  | { type: 'set'; id: string; value: number }
  | { type: 'rest' }
  | { type: 'school'; id: string; choice: string }
  | { type: 'as_fitted' }
  | { type: 'drawn'; request: number; drawing: Outline }
  | { type: 'ground_changed' }
  | { type: 'kept' }
  | { type: 'undo' }
  | { type: 'redo' }

export function begin(family: string, params: Params, schools: Schools, kept: boolean): OutlineState {
  return { family, params, schools, past: [params], future: [], asked: 1, shown: 0, drawing: null, kept }
}

const again = (state: OutlineState, params: Params) => ({
  ...state,
  params,
  asked: state.asked + 1,
  kept: false,
})

/** A drawing made while moving leaves out what stands still; it is taken over from the one before. */
function withStill(drawing: Outline, before: Outline | null): Outline {
  const photos = drawing.photos.map((lines) => {
    const still = before?.photos.find((p) => p.photo_id === lines.photo_id)
    if (!still || lines.skin.length) return lines
    return { ...lines, skin: still.skin, coat: still.coat, coat_on_head: still.coat_on_head }
  })
  return { ...drawing, photos }
}

export function outlineReducer(state: OutlineState, action: OutlineAction): OutlineState {
  switch (action.type) {
    case 'set':
      return again(state, { ...state.params, [action.id]: action.value })
    case 'rest': {
      // One step of undo for a whole drag, not one for each position of the slider.
      if (state.past.at(-1) === state.params) return state
      return { ...state, past: [...state.past, state.params], future: [] }
    }
    case 'school':
      return { ...state, schools: { ...state.schools, [action.id]: action.choice }, kept: false }
    case 'as_fitted':
      return { ...again(state, {}), past: [...state.past, {}], future: [] }
    case 'drawn':
      // An answer that a newer one has overtaken is dropped.
      if (action.request < state.shown) return state
      return { ...state, shown: action.request, drawing: withStill(action.drawing, state.drawing) }
    case 'ground_changed':
      return { ...state, asked: state.asked + 1, drawing: null }
    case 'kept':
      return { ...state, kept: true }
    case 'undo': {
      const before = state.past.at(-2)
      if (!before) return state
      return {
        ...again(state, before),
        past: state.past.slice(0, -1),
        future: [state.params, ...state.future],
      }
    }
    case 'redo': {
      const [after, ...future] = state.future
      if (!after) return state
      return { ...again(state, after), past: [...state.past, after], future }
    }
  }
}
