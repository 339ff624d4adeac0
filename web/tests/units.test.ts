import { afterEach, describe, expect, it } from 'vitest'
import { numberWords, partLength, runWords, clock } from '../src/features/cut/words'
import type { Step } from '../src/features/cut/cutMachine'
import {
  cardDay,
  dayAfter,
  dayWords,
  fieldDay,
  followDayStyle,
  isoOf,
  shortDay,
  timeWords,
  usualDayStyle,
} from '../src/shared/days'
import { cutLength, length, typedMm, inUnit } from '../src/ui/units'

describe('lengths as they are read', () => {
  it.each([
    [12.4, 'mm', '12'],
    [12.6, 'mm', '13'],
    [25.4, 'in', '1″'],
    [12.7, 'in', '1/2″'],
    [38.1, 'in', '1 1/2″'],
    [19.05, 'in', '3/4″'],
    [1.6, 'in', '1/16″'],
    [0, 'in', '0″'],
  ] as const)('%s mm in %s', (mm, unit, words) => {
    expect(length(mm, unit)).toBe(words)
  })

  it.each([
    [0.25, 'mm', '0.25'],
    [1.52, 'mm', '1.5'],
    [4.96, 'mm', '5'],
    [5.4, 'mm', '5'],
    [1.5, 'in', '0.06″'],
    [6.35, 'in', '1/4″'],
  ] as const)('a blade of %s mm in %s', (mm, unit, words) => {
    expect(cutLength(mm, unit)).toBe(words)
  })

  it.each([
    ['12', 12],
    [' 12,5 ', 12.5],
    ['12.5 mm', 12.5],
    ['12MM', 12],
    ['0', 0],
    ['', null],
    ['  ', null],
    ['wide', null],
    ['1 2', null],
    ['∞', null],
  ])('%j typed', (typed, mm) => {
    expect(typedMm(typed)).toBe(mm)
  })
})

const step = (leave_mm: [number, number] | null) => ({ leave_mm }) as Step

describe('the number of a step', () => {
  it('is one where its places hardly differ, and a span where they do', () => {
    expect(numberWords(step([12.2, 12.9]), 'mm')).toBe('12')
    expect(numberWords(step([12.2, 13.2]), 'mm')).toBe('12–13')
    expect(numberWords(step([12.7, 25.4]), 'in')).toBe('1/2″–1″')
    expect(numberWords(step(null), 'mm')).toBe('')
  })

  it('of a short blade is told to a tenth', () => {
    expect(numberWords(step([1.5, 1.5]), 'mm')).toBe('1.5')
  })

  it('of one place is its own, or close where nothing is left', () => {
    const part = (leave_mm: number | null, run = '') => ({ words: 'jaw', leave_mm, run })
    expect(partLength(part(18), 'mm')).toBe('18')
    expect(partLength(part(null), 'mm')).toBe('close')
    expect(runWords(part(18, '12 at the ear, 25 at the chin'), 'mm')).toBe('12 at the ear, 25 at the chin')
    expect(runWords(part(18, '13 at the ear, 25 at the chin'), 'in')).toBe('1/2″ at the ear, 1″ at the chin')
  })
})

describe('time', () => {
  it.each([
    [0, '0:00'],
    [59.9, '0:59'],
    [60, '1:00'],
    [605, '10:05'],
  ])('%s seconds on the clock', (seconds, words) => {
    expect(clock(seconds)).toBe(words)
  })

  it('steps from day to day over months, years and the change of clocks', () => {
    expect(dayAfter('2026-11-30', 1)).toBe('2026-12-01')
    expect(dayAfter('2027-01-01', -1)).toBe('2026-12-31')
    expect(dayAfter('2026-03-28', 2)).toBe('2026-03-30')
    expect(dayAfter('2028-02-28', 1)).toBe('2028-02-29')
  })

  it('tells the year where it is not this one', () => {
    const now = new Date('2026-11-27T12:00:00')
    expect(shortDay('2026-01-05', now)).toBe('5 Jan')
    expect(shortDay('2025-12-05', now)).toBe('5 Dec 2025')
  })
})

describe('days and times as the salon says them', () => {
  afterEach(() => followDayStyle('day_first'))

  it('begin with the day, of 24 hours', () => {
    expect(dayWords('2026-11-28')).toBe('Saturday 28 November')
    expect(cardDay('2026-11-28')).toBe('28 November')
    expect(timeWords('14:30')).toBe('14:30')
  })
  it('or with the month, of twice twelve', () => {
    followDayStyle('month_first')
    expect(dayWords('2026-11-28')).toBe('Saturday, November 28')
    expect(fieldDay('2026-11-28')).toBe('Sat, Nov 28, 2026')
    expect(['00:05', '09:00', '12:00', '14:30'].map(timeWords)).toEqual([
      '12:05 am',
      '9:00 am',
      '12:00 pm',
      '2:30 pm',
    ])
  })
  it('are taken from the browser until the salon says so', () => {
    expect(usualDayStyle('en-US')).toBe('month_first')
    expect(usualDayStyle('en-GB')).toBe('day_first')
  })
  it('are days of where one stands, late in the evening too', () => {
    expect(isoOf(new Date(2026, 0, 5, 23, 59))).toBe('2026-01-05')
  })
})

describe('a sentence with millimetres', () => {
  it.each([
    ['32 mm guard', '1 1/4″ guard'],
    ['1.5 mm guard, then scissors', '0.06″ guard, then scissors'],
    ['would narrow the jaw from ±24 to ±17 mm.', 'would narrow the jaw from ±15/16″ to ±11/16″.'],
    ['5–10 mm still to grow, 2–3 weeks', '3/16″–3/8″ still to grow, 2–3 weeks'],
    ['10 blade', '10 blade'],
  ])('%s', (mm, inches) => {
    expect(inUnit(mm, 'in')).toBe(inches)
    expect(inUnit(mm, 'mm')).toBe(mm)
  })
})
