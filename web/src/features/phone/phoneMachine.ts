import type { Schemas, State, View } from '../../api/client'

export type Shown = Schemas['PhoneOut']

/** A phone at work: what the salon told last, the view somebody pointed at instead, a photo not yet brought. */
export type PhoneState = {
  readonly shown: Shown | null
  readonly pointed: View | null
  readonly file: File | null
  readonly sending: boolean
  readonly reason: string
  /** The code is no longer good: nothing more goes through it. */
  readonly over: boolean
}

export type PhoneAction =
  | { type: 'told'; shown: Shown }
  | { type: 'point'; view: View }
  | { type: 'took'; file: File }
  | { type: 'again' }
  | { type: 'brought'; shown: Shown }
  | { type: 'refused'; reason: string; over: boolean; keep: boolean }

export const beginPhone: PhoneState = {
  shown: null,
  pointed: null,
  file: null,
  sending: false,
  reason: '',
  over: false,
}

/** What is taken next: where somebody pointed, else what is wanted, else the first once more. */
export const nextView = (now: PhoneState): View =>
  now.pointed ?? now.shown?.view ?? now.shown?.views[0]?.view ?? 'front'

export function phoneReducer(now: PhoneState, action: PhoneAction): PhoneState {
  switch (action.type) {
    case 'told':
      return { ...now, shown: action.shown, over: false, reason: now.file ? now.reason : '' }
    case 'point':
      return now.sending ? now : { ...now, pointed: action.view }
    case 'took':
      return { ...now, file: action.file, sending: true, reason: '' }
    case 'again':
      return now.file ? { ...now, sending: true, reason: '' } : now
    case 'brought':
      return { ...now, shown: action.shown, file: null, sending: false, pointed: null, reason: '' }
    case 'refused':
      return {
        ...now,
        sending: false,
        file: action.keep ? now.file : null,
        reason: action.reason,
        over: action.over,
      }
  }
}

/** How one view is doing. */
export type Doing = 'missing' | 'looking' | 'fine' | 'again'

export function doing(shown: Shown['views'][number]): Doing {
  const { photo } = shown
  if (!photo) return 'missing'
  const kind = photo.job?.kind
  if (kind === 'waiting' || kind === 'working' || (!photo.looked && !photo.job)) return 'looking'
  return photo.findings.length ? 'again' : 'fine'
}

export const inState = (now: PhoneState): State => now.shown?.state ?? 'dry'
