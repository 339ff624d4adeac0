import type { Outline } from '../../api/client'

export type Params = Readonly<Record<string, number>>
export type Schools = Readonly<Record<string, string>>

/** What the user can set, and what one step of undo brings back. */
export type Setting = {
  readonly family: string
  readonly params: Params
  readonly schools: Schools
}

/** The setting, what was set before, and the drawing of it, which comes from the server. */
export type OutlineState = Setting & {
  readonly past: readonly Setting[]
  readonly future: readonly Setting[]
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
  | { type: 'rest' }
  | { type: 'school'; id: string; choice: string }
  | { type: 'family'; family: string }
  | { type: 'as_fitted' }
  | { type: 'drawn'; request: number; drawing: Outline }
  | { type: 'ground_changed' }
  | { type: 'kept' }
  | { type: 'undo' }
  | { type: 'redo' }

export function begin(family: string, params: Params, schools: Schools, kept: boolean): OutlineState {
  const setting = { family, params, schools }
  return { ...setting, past: [setting], future: [], moving: false, asked: 1, shown: 0, drawing: null, kept }
}

const settingOf = ({ family, params, schools }: Setting): Setting => ({ family, params, schools })

const again = (state: OutlineState, setting: Partial<Setting>): OutlineState => ({
  ...state,
  ...setting,
  moving: false,
  asked: state.asked + 1,
  kept: false,
})

/** Set at once, as one step of undo. */
const stepped = (state: OutlineState, setting: Partial<Setting>): OutlineState => {
  const after = again(state, setting)
  return { ...after, past: [...state.past, settingOf(after)], future: [] }
}

/** A drawing made while moving leaves out what stands still; it is taken over from the one before. */
function withStill(drawing: Outline, before: Outline | null): Outline {
  if (!before || before.family !== drawing.family || Object.keys(drawing.sheet).length) return drawing
  const photos = drawing.photos.map((lines) => {
    const still = before.photos.find((p) => p.photo_id === lines.photo_id)
    if (!still || lines.skin.length) return lines
    return { ...lines, skin: still.skin, coat: still.coat, coat_on_head: still.coat_on_head }
  })
  const { sheet, effects, wishes, reasons, text, runs_out } = before
  return { ...drawing, photos, sheet, effects, wishes, reasons, text, runs_out }
}

export function outlineReducer(state: OutlineState, action: OutlineAction): OutlineState {
  switch (action.type) {
    case 'set':
      return { ...again(state, { params: { ...state.params, [action.id]: action.value } }), moving: true }
    case 'rest': {
      // One step of undo for a whole drag, not one for each position of the slider.
      if (state.past.at(-1)?.params === state.params) return state
      return stepped(state, {})
    }
    case 'school':
      return stepped(state, { schools: { ...state.schools, [action.id]: action.choice } })
    case 'family':
      if (action.family === state.family) return state
      return stepped(state, { family: action.family, params: {}, schools: {} })
    case 'as_fitted':
      return stepped(state, { params: {} })
    case 'drawn':
      // An answer that a newer one has overtaken is dropped.
      if (action.request < state.shown) return state
      return { ...state, shown: action.request, drawing: withStill(action.drawing, state.drawing) }
    case 'ground_changed':
      return { ...state, moving: false, asked: state.asked + 1 }
    case 'kept':
      return { ...state, kept: true }
    case 'undo': {
      const before = state.past.at(-2)
      if (!before) return state
      return {
        ...again(state, before),
        past: state.past.slice(0, -1),
        future: [settingOf(state), ...state.future],
      }
    }
    case 'redo': {
      const [after, ...future] = state.future
      if (!after) return state
      return { ...again(state, after), past: [...state.past, after], future }
    }
  }
}
