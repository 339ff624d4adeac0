const DAY_MS = 86_400_000

/** A day so many days on, ISO. */
export function dayAfter(day: string, by: number): string {
  return new Date(Date.parse(`${day}T12:00:00Z`) + by * DAY_MS).toISOString().slice(0, 10)
}

/** A day as it is said. */
export const dayWords = (day: string) =>
  new Date(`${day}T12:00:00`).toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' })

/** The same, short, with its year where that is not this one's. */
export function shortDay(day: string, now = new Date()): string {
  const year = day.slice(0, 4) === String(now.getFullYear()) ? undefined : ('numeric' as const)
  return new Date(`${day}T12:00:00`).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year })
}
