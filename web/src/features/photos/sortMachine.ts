import type { Photo, State } from '../../api/client'

/** One file on its way in. */
export type Coming = {
  readonly key: number
  readonly file: File
  /** The state of the coat in the photos it was dropped with. */
  readonly usual: State
  readonly state: 'waiting' | 'sending' | 'in' | 'refused' | 'away'
  readonly reason?: string
  readonly photo?: Photo
}

/** Files taken in several at once; each finds its slot by what it shows. */
export type SortState = { readonly files: readonly Coming[]; readonly next: number }

export type SortAction =
  | { type: 'dropped'; files: readonly File[]; usual: State }
  | { type: 'sending'; key: number }
  | { type: 'in'; key: number; photo: Photo }
  | { type: 'refused'; key: number; reason: string }
  | { type: 'away'; key: number; reason: string }
  | { type: 'again' }
  | { type: 'stop' }
  | { type: 'clear' }

export const nothingComing: SortState = { files: [], next: 1 }

export function sortReducer(state: SortState, action: SortAction): SortState {
  switch (action.type) {
    case 'dropped': {
      const { usual } = action
      const added = action.files.map((file, i) => ({
        key: state.next + i,
        file,
        usual,
        state: 'waiting' as const,
      }))
      const kept = allDone(state) ? [] : state.files
      return { files: [...kept, ...added], next: state.next + added.length }
    }
    case 'sending':
      return with_(state, action.key, { state: 'sending' })
    case 'in':
      return with_(state, action.key, { state: 'in', photo: action.photo })
    case 'refused':
      return with_(state, action.key, { state: 'refused', reason: action.reason })
    case 'away':
      return with_(state, action.key, { state: 'away', reason: action.reason })
    case 'again':
      return {
        ...state,
        files: state.files.map((f) => (f.state === 'away' ? { ...f, state: 'waiting' } : f)),
      }
    case 'stop':
      return { ...state, files: state.files.filter((f) => f.state !== 'waiting' && f.state !== 'away') }
    case 'clear':
      return { ...state, files: state.files.filter((f) => f.state === 'sending') }
  }
}

function with_(state: SortState, key: number, change: Partial<Coming>): SortState {
  return { ...state, files: state.files.map((f) => (f.key === key ? { ...f, ...change } : f)) }
}

export const nextWaiting = (state: SortState) =>
  state.files.some((f) => f.state === 'sending') ? undefined : state.files.find((f) => f.state === 'waiting')
export const allDone = (state: SortState) =>
  state.files.every((f) => f.state === 'in' || f.state === 'refused')
export const countIn = (state: SortState) => state.files.filter((f) => f.state === 'in').length
export const refused = (state: SortState) => state.files.filter((f) => f.state === 'refused')
export const waitsForServer = (state: SortState) => state.files.some((f) => f.state === 'away')
