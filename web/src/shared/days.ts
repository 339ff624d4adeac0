import { useSyncExternalStore } from 'react'
import type { Schemas } from '../api/client'
import { stored } from '../ui/stored'

export type DayStyle = Schemas['SalonOut']['days']

const DAY_MS = 86_400_000
const LOCALES = { day_first: 'en-GB', month_first: 'en-US' } as const

// Kept in the browser too, so that the first picture of a screen already says days as the salon does.
const style = stored<DayStyle>('days', ['day_first', 'month_first'])

/** How this salon says days and times; a screen that reads it is drawn anew when it changes. */
export const useDayStyle = (): DayStyle => useSyncExternalStore(style.subscribe, style.get)

/** What the salon set, as it comes from the server. */
export const followDayStyle = (set: DayStyle) => {
  if (set !== style.get()) style.set(set)
}

/** A day so many days on, ISO. */
export function dayAfter(day: string, by: number): string {
  return new Date(Date.parse(`${day}T12:00:00Z`) + by * DAY_MS).toISOString().slice(0, 10)
}

/** The day it is here at a moment, ISO. */
export const isoOf = (at: Date) =>
  [at.getFullYear(), at.getMonth() + 1, at.getDate()].map((n) => String(n).padStart(2, '0')).join('-')

/** How days are usually said where this browser stands, for a salon that has not said it yet. */
export const usualDayStyle = (language = navigator.language): DayStyle =>
  language === LOCALES.month_first ? 'month_first' : 'day_first'

const said = (day: string, how: Intl.DateTimeFormatOptions) =>
  new Date(`${day}T12:00:00`).toLocaleDateString(LOCALES[style.get()], how)

/** A day as it is said. */
export const dayWords = (day: string) => said(day, { weekday: 'long', day: 'numeric', month: 'long' })

/** The same without its weekday, as it is written on a card. */
export const cardDay = (day: string) => said(day, { day: 'numeric', month: 'long' })

/** The same, short, with its year where that is not this one's. */
export function shortDay(day: string, now = new Date()): string {
  const year = day.slice(0, 4) === String(now.getFullYear()) ? undefined : ('numeric' as const)
  return said(day, { day: 'numeric', month: 'short', year })
}

/** A day where it is chosen: weekday and year too. */
export const fieldDay = (day: string) =>
  said(day, { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' })

/** A time of day, given as 14:30. */
export function timeWords(time: string): string {
  if (style.get() === 'day_first') return time
  const hour = Number(time.slice(0, 2))
  return `${hour % 12 || 12}${time.slice(2, 5)} ${hour < 12 ? 'am' : 'pm'}`
}
