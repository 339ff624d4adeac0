import type { Guidance, Photo, State, View } from '../../api/client'

/** The camera stage: pointed for a slot, guided, taking by itself when all is well if so wished. */
export type CameraState = {
  readonly phase: 'starting' | 'live' | 'taking' | 'refused' | 'done'
  readonly view: View
  readonly state: State
  readonly byItself: boolean
  readonly guidance: Guidance | null
  readonly reason: string
  readonly taken: readonly View[]
}

export type CameraAction =
  | { type: 'started' }
  | { type: 'refused'; reason: string }
  | { type: 'guided'; guidance: Guidance }
  | { type: 'trouble'; reason: string }
  | { type: 'point'; view: View }
  | { type: 'state'; state: State }
  | { type: 'byItself'; on: boolean }
  | { type: 'take' }
  | { type: 'took'; next: View | null }

export const beginCamera = (slot: { view: View; state: State }): CameraState => ({
  phase: 'starting',
  view: slot.view,
  state: slot.state,
  byItself: true,
  guidance: null,
  reason: '',
  taken: [],
})

export function cameraReducer(now: CameraState, action: CameraAction): CameraState {
  switch (action.type) {
    case 'started':
      return { ...now, phase: 'live', reason: '' }
    case 'refused':
      return { ...now, phase: 'refused', reason: action.reason }
    case 'guided': {
      const guided = { ...now, guidance: action.guidance, reason: '' }
      return now.phase === 'live' && now.byItself && action.guidance.good
        ? { ...guided, phase: 'taking' }
        : guided
    }
    case 'trouble':
      return { ...now, phase: now.phase === 'taking' ? 'live' : now.phase, reason: action.reason }
    case 'point':
      return { ...now, view: action.view, guidance: null, phase: now.phase === 'done' ? 'live' : now.phase }
    case 'state':
      return { ...now, state: action.state, guidance: null, taken: [], phase: 'live' }
    case 'byItself':
      return { ...now, byItself: action.on }
    case 'take':
      return now.phase === 'live' ? { ...now, phase: 'taking' } : now
    case 'took': {
      const taken = [...now.taken, now.view]
      if (!action.next) return { ...now, taken, guidance: null, phase: 'done' }
      // Without a live camera the tablet's own camera app goes on taking.
      const phase = now.phase === 'refused' ? 'refused' : 'live'
      return { ...now, taken, view: action.next, guidance: null, phase }
    }
  }
}

/** The next slot of those wanted that is still empty, after these were filled. */
export function nextEmpty(
  wanted: readonly View[],
  photos: readonly Photo[],
  state: State,
  filled: readonly View[],
): View | null {
  const has = (view: View) =>
    filled.includes(view) || photos.some((p) => p.view === view && p.state === state)
  return wanted.find((view) => !has(view)) ?? null
}
