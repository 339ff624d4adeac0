import type { Wishes } from '../../api/client'

/** What the owner asked for, and how the dog is: everything that is asked before the first photo. */
export type Asked = {
  readonly wishes: Wishes
  readonly words: string
  readonly traits: readonly string[]
}

export type WishesState = {
  readonly asked: Asked
  readonly past: readonly Asked[]
  readonly future: readonly Asked[]
  /** Words are being typed: a whole sentence is one step of undo. */
  readonly typing: boolean
}

export type WishesAction =
  | { type: 'wish'; change: Partial<Wishes> }
  | { type: 'say'; words: string }
  | { type: 'said' }
  | { type: 'traits'; traits: readonly string[] }
  | { type: 'theirs'; asked: Asked }
  | { type: 'undo' }
  | { type: 'redo' }

const REMEMBERED = 60

export const beginWishes = (asked: Asked): WishesState => ({ asked, past: [], future: [], typing: false })

export function wishesReducer(state: WishesState, action: WishesAction): WishesState {
  const { asked, past, future } = state
  switch (action.type) {
    case 'wish':
      return changed(state, { ...asked, wishes: { ...asked.wishes, ...action.change } })
    case 'say':
      if (state.typing) return { ...state, asked: { ...asked, words: action.words } }
      return { ...changed(state, { ...asked, words: action.words }), typing: true }
    case 'said':
      return { ...state, typing: false }
    case 'traits':
      return changed(state, { ...asked, traits: action.traits })
    case 'theirs':
      return changed(state, action.asked)
    case 'undo': {
      const before = past.at(-1)
      if (!before) return state
      return { asked: before, past: past.slice(0, -1), future: [asked, ...future], typing: false }
    }
    case 'redo': {
      const [after, ...rest] = future
      if (!after) return state
      return { asked: after, past: [...past, asked], future: rest, typing: false }
    }
  }
}

const changed = (state: WishesState, asked: Asked): WishesState => ({
  asked,
  past: [...state.past, state.asked].slice(-REMEMBERED),
  future: [],
  typing: false,
})
