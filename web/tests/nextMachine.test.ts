import { describe, expect, it } from 'vitest'
import type { Dog } from '../src/api/client'
import type { Step } from '../src/features/cut/cutMachine'
import { cutsPlace, partsAt } from '../src/features/cut/partsAt'
import {
  beginNote,
  noteReducer,
  saidIn,
  told,
  weeksShown,
  weeksTo,
  type NextTime,
} from '../src/features/next/nextMachine'

const part = (id: string, words: string, kept = true) => ({
  part: { id, place: 'cut' as const, words, zone: 'cheek', side: 'left' as const },
  kept,
})
const next = {
  parts: [part('long:cheek/left', 'left cheek was left 5 mm long'), part('stopped', 'stopped early', false)],
  events: [{ high: 9.4 }, { high: 30 }],
  weeks: 7,
} as unknown as NextTime

describe('the note for next time', () => {
  it('is told as it came until somebody says otherwise', () => {
    expect(told(next, {}).map((p) => [p.id, p.kept])).toEqual([
      ['long:cheek/left', true],
      ['stopped', false],
    ])
    expect(Object.keys(saidIn(next))).toEqual(['stopped'])
  })

  it('keeps what was left out and put in other words, and takes each back', () => {
    let state = beginNote({})
    state = noteReducer(state, { type: 'keep', part: 'long:cheek/left', kept: false })
    state = noteReducer(state, { type: 'word', part: 'stopped', words: ' begin with the visor ' })
    expect(told(next, state.said)[0]?.kept).toBe(false)
    expect(told(next, state.said)[1]?.words).toBe('begin with the visor')
    state = noteReducer(state, { type: 'undo' })
    state = noteReducer(state, { type: 'undo' })
    expect(state.said).toEqual({})
    state = noteReducer(state, { type: 'redo' })
    expect(state.said['long:cheek/left']?.kept).toBe(false)
  })

  it('empty words leave the part as it came', () => {
    const state = noteReducer(beginNote({}), { type: 'word', part: 'stopped', words: '  ' })
    expect(told(next, state.said)[1]?.words).toBe('stopped early')
  })
})

describe('the strip of weeks', () => {
  it('shows what is near, and no more than half a year', () => {
    expect(weeksShown(next)).toBe(16)
    expect(weeksShown({ ...next, events: [], weeks: 3 })).toBe(8)
    expect(weeksShown({ ...next, events: [], weeks: 25 })).toBe(26)
  })

  it('puts a day where it lies', () => {
    expect(weeksTo('2026-03-02', '2026-03-23')).toBe(3)
  })
})

describe('a part of the note at its step', () => {
  const step = (number: number, zones: string[], cuts: { zone: string; side: string }[]) =>
    ({ number, zones, cuts }) as unknown as Step
  const dog = {
    from_last: [
      { id: 'a', place: 'cut', words: 'left cheek first', zone: 'cheek', side: 'left' },
      { id: 'b', place: 'cut', words: 'stopped early', zone: '', side: '' },
      { id: 'c', place: 'wishes', words: 'ask about the fringe', zone: 'visor', side: '' },
    ],
  } as unknown as Dog

  it('comes back where its place is cut, what is of no place with the first step', () => {
    const ids = (one: Step) => partsAt(dog, one).map((p) => p.id)
    expect(ids(step(4, ['cheek'], [{ zone: 'cheek', side: 'left' }]))).toEqual(['a'])
    expect(ids(step(5, ['cheek'], [{ zone: 'cheek', side: 'right' }]))).toEqual([])
    expect(ids(step(1, ['crown'], []))).toEqual(['b'])
    expect(ids(step(2, ['visor'], []))).toEqual([])
  })

  it('a place without a side is on both', () => {
    expect(cutsPlace(step(1, ['jaw'], [{ zone: 'jaw', side: 'right' }]), 'jaw', '')).toBe(true)
  })
})
