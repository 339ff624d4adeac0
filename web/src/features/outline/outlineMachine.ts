import type { MovingOutline, Outline } from '../../api/client'
import { noTimeline, undoable, type Timeline, type Undo } from '../../undo/undoable'

export type Params = Readonly<Record<string, number>>
export type Schools = Readonly<Record<string, string>>

/** What the user can set, and what one step of undo brings back. */
export type Setting = {
  readonly family: string
  readonly params: Params
  readonly schools: Schools
}

/** A setting as the server is asked for it. */
export const said = ({ family, params, schools }: Setting) => ({
  family,
  params: { ...params },
  schools: { ...schools },
})

/** The setting, and the drawing of it, which comes from the server. */
export type OutlineState = Timeline<Setting> & {
  readonly setting: Setting
  /** A slider or handle is on its way: drawings leave out what stands still. */
  readonly moving: boolean
  /** Number of the newest setting asked for, and of the newest one drawn. */
  readonly asked: number
  readonly shown: number
  readonly drawing: Outline | null
  readonly kept: boolean
}

export type OutlineAction =
  | { type: 'set'; id: string; value: number }
  | { type: 'set_all'; params: Params }
  | { type: 'rest' }
  | { type: 'school'; id: string; choice: string }
  | { type: 'family'; family: string }
  | { type: 'as_fitted' }
  | { type: 'drawn'; request: number; drawing: Outline }
  | { type: 'moved'; request: number; drawing: MovingOutline }
  | { type: 'ground_changed' }
  | { type: 'kept' }
  | Undo

export const begin = (family: string, params: Params, schools: Schools, kept: boolean): OutlineState => ({
  setting: { family, params, schools },
  ...noTimeline,
  moving: false,
  asked: 1,
  shown: 0,
  drawing: null,
  kept,
})

/** Drawn anew with another setting. */
const again = (state: OutlineState, setting: Partial<Setting>): OutlineState => ({
  ...state,
  setting: { ...state.setting, ...setting },
  moving: false,
  asked: state.asked + 1,
  kept: false,
})

/** A drawing at rest with what has moved since; setting lines wait for the next rest. */
function withMoved(before: Outline, moved: MovingOutline): Outline {
  const photos = before.photos.map((lines) => ({
    ...lines,
    ...moved.photos.find((p) => p.photo_id === lines.photo_id),
    setting: [],
  }))
  return { ...before, ...moved, photos, reasons: before.reasons }
}

function reducer(state: OutlineState, action: Exclude<OutlineAction, Undo>): OutlineState {
  const { family, params, schools } = state.setting
  switch (action.type) {
    case 'set':
      return { ...again(state, { params: { ...params, [action.id]: action.value } }), moving: true }
    case 'set_all':
      return again(state, { params: { ...params, ...action.params } })
    case 'rest':
      return state.moving ? { ...state, moving: false, asked: state.asked + 1 } : state
    case 'school':
      return again(state, { schools: { ...schools, [action.id]: action.choice } })
    case 'family':
      return action.family === family
        ? state
        : again(state, { family: action.family, params: {}, schools: {} })
    case 'as_fitted':
      return again(state, { params: {} })
    case 'drawn':
      // An answer that a newer one has overtaken is dropped.
      if (action.request < state.shown) return state
      return { ...state, shown: action.request, drawing: action.drawing }
    case 'moved':
      if (action.request < state.shown || state.drawing?.family !== action.drawing.family) return state
      return { ...state, shown: action.request, drawing: withMoved(state.drawing, action.drawing) }
    case 'ground_changed':
      return { ...state, moving: false, asked: state.asked + 1 }
    case 'kept':
      return { ...state, kept: true }
  }
}

export const outlineReducer = undoable<OutlineState, Setting, OutlineAction>(reducer, {
  partOf: (state) => state.setting,
  lay: again,
  // One step of undo for a whole drag, not one for each position of the slider.
  joins: (state, action) => state.moving && action.type === 'set',
})
