import type { Wishes } from '../../api/client'
import { noTimeline, undoable, type Timeline, type Undo } from '../../undo/undoable'

/** What the owner asked for, and how the dog is: everything that is asked before the first photo. */
export type Asked = {
  readonly wishes: Wishes
  readonly words: string
  readonly traits: readonly string[]
}

export type WishesState = Timeline<Asked> & {
  readonly asked: Asked
  /** Words are being typed: a whole sentence is one step of undo. */
  readonly typing: boolean
}

export type WishesAction =
  | { type: 'wish'; change: Partial<Wishes> }
  | { type: 'say'; words: string }
  | { type: 'said' }
  | { type: 'traits'; traits: readonly string[] }
  | { type: 'theirs'; asked: Asked }
  | Undo

export const beginWishes = (asked: Asked): WishesState => ({ asked, ...noTimeline, typing: false })

function reducer(state: WishesState, action: Exclude<WishesAction, Undo>): WishesState {
  const { asked } = state
  switch (action.type) {
    case 'wish':
      return { ...state, asked: { ...asked, wishes: { ...asked.wishes, ...action.change } }, typing: false }
    case 'say':
      return { ...state, asked: { ...asked, words: action.words }, typing: true }
    case 'said':
      return { ...state, typing: false }
    case 'traits':
      return { ...state, asked: { ...asked, traits: action.traits }, typing: false }
    case 'theirs':
      return { ...state, asked: action.asked, typing: false }
  }
}

export const wishesReducer = undoable<WishesState, Asked, WishesAction>(reducer, {
  partOf: (state) => state.asked,
  lay: (state, asked) => ({ ...state, asked, typing: false }),
  joins: (state, action) => state.typing && action.type === 'say',
})
