import type { Schemas } from '../../api/client'

export type Job = Schemas['JobOut']
/** A backup somebody wants restored: one of the list, or a file. */
export type Wanted = { readonly name: string; readonly file: File | null }

/** wanted: asked about before anything is done; job: the long work that was begun last. */
export type BackupsState = { readonly wanted: Wanted | null; readonly job: Job | null }

export type BackupsAction =
  | { type: 'want'; wanted: Wanted }
  | { type: 'cancel' }
  | { type: 'begun'; job: Job }
  | { type: 'followed'; job: Job }

export const noBackups: BackupsState = { wanted: null, job: null }

export function backupsReducer(state: BackupsState, action: BackupsAction): BackupsState {
  switch (action.type) {
    case 'want':
      return isUnderWay(state.job) ? state : { ...state, wanted: action.wanted }
    case 'cancel':
      return { ...state, wanted: null }
    case 'begun':
      return { wanted: null, job: action.job }
    case 'followed':
      // What is told late of an earlier job is nobody's news.
      return state.job?.id === action.job.id ? { ...state, job: action.job } : state
  }
}

export const isUnderWay = (job: Job | null) => job?.kind === 'working' || job?.kind === 'waiting'

/** How a job ended, in words. */
export function endWords(job: Job): string {
  if (job.kind !== 'done') return job.words
  const made = job.result?.['name'] as string | undefined
  const missing = (job.result?.['missing'] as string[] | undefined) ?? []
  const but = missing.length ? ` Without ${missing.length} whose file is gone: ${missing.join('; ')}.` : ''
  return made ? `${made} is written, read back and checked.${but}` : `Restored.${but}`
}
