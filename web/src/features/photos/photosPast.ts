import type { Place } from '../../api/client'

/** One photo that lay in one place and then in another. */
export type Moved = { readonly photo: number; readonly from: Place; readonly to: Place }

/** Something done with a photo that can be taken back. */
export type Did =
  | { readonly kind: 'added' | 'removed'; readonly photo: number }
  | { readonly kind: 'moved'; readonly moves: readonly Moved[] }

/** What was done with a visit's photos, and what was taken back of it. */
export type PhotosPast = { readonly past: readonly Did[]; readonly future: readonly Did[] }

export type PhotosPastAction = { type: 'did'; did: Did } | { type: 'undone' } | { type: 'redone' }

export const nothingDone: PhotosPast = { past: [], future: [] }
const REMEMBERED = 60

export function photosPastReducer(state: PhotosPast, action: PhotosPastAction): PhotosPast {
  switch (action.type) {
    case 'did':
      return { past: [...state.past, action.did].slice(-REMEMBERED), future: [] }
    case 'undone': {
      const last = state.past.at(-1)
      return last ? { past: state.past.slice(0, -1), future: [last, ...state.future] } : state
    }
    case 'redone': {
      const [next, ...future] = state.future
      return next ? { past: [...state.past, next], future } : state
    }
  }
}

/** What takes something back. */
export function inverse(did: Did): Did {
  switch (did.kind) {
    case 'added':
      return { kind: 'removed', photo: did.photo }
    case 'removed':
      return { kind: 'added', photo: did.photo }
    case 'moved':
      return { kind: 'moved', moves: did.moves.map(({ photo, from, to }) => ({ photo, from: to, to: from })) }
  }
}
