import { Trouble } from '../api/client'

const SOON_MS = 1500
const LATER_MS = 5000
const SOON_TIMES = 20

/** A screen that could not be filled because the salon's server was away asks until it is back, however long that is. */
export const QUERIES = {
  retry: (_times: number, error: Error) => error instanceof Trouble && error.away,
  retryDelay: (times: number) => (times < SOON_TIMES ? SOON_MS : LATER_MS),
  networkMode: 'always',
} as const
