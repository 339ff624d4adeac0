/**
 * How many strands a device can draw while the head turns, found from how long its pictures take. On a slow one a
 * turning head is drawn with few, wider strands, and sharpened in steps when it rests.
 */
export type Pace = { readonly share: number }

const AIM_MS = 22
const LEAST = 0.06
/** A picture that takes longer than that at rest is not sharpened further, */
const MOST_AT_REST_MS = 1500
/** but no head rests with less than this. */
const LEAST_AT_REST = 0.3

export const FIRST: Pace = { share: 0.12 }

/** The share for the next moving picture, after one with `share` took `ms`. */
export function paced({ share }: Pace, ms: number): Pace {
  if (ms <= 0) return { share }
  const wanted = share * Math.min(Math.max(AIM_MS / ms, 0.4), 1.8)
  return { share: Math.min(Math.max(wanted, LEAST), 1) }
}

/** The next sharper share at rest, or null when it is as sharp as it gets on this device. */
export function sharper(share: number, ms: number): number | null {
  if (share >= 1) return null
  const next = Math.min(share * 3, 1)
  if (next <= LEAST_AT_REST || (ms * next) / share <= MOST_AT_REST_MS) return next
  return share < LEAST_AT_REST ? LEAST_AT_REST : null
}
