import { Trouble } from '../api/client'

const SOON_MS = 1500
const LATER_MS = 5000
const SOON_TIMES = 20

const isAway = (error: unknown): error is Trouble => error instanceof Trouble && error.away
const restMs = (times: number) => (times < SOON_TIMES ? SOON_MS : LATER_MS)

/** A screen that could not be filled because the salon's server was away asks until it is back, however long that is. */
export const QUERIES = {
  retry: (_times: number, error: Error) => isAway(error),
  retryDelay: restMs,
  networkMode: 'always',
} as const

/** The same for a press that does no harm when it is done twice: its answer may be what was lost. */
export const PRESS_AGAIN = QUERIES

/** Such a press that is given up once nobody waits for it; `away` is told each time. */
export async function untilBack<T>(
  ask: () => Promise<T>,
  wanted: () => boolean,
  away: (trouble: Trouble) => void,
): Promise<T> {
  for (let times = 0; ; times++)
    try {
      return await ask()
    } catch (error) {
      if (!isAway(error) || !wanted()) throw error
      away(error)
      await new Promise((rested) => setTimeout(rested, restMs(times)))
    }
}
