import { describe, expect, it } from 'vitest'
import type { Mark } from '../src/api/client'
import {
  begin,
  guessed,
  marksOf,
  marksReducer,
  nextMark,
  nextPhoto,
  type MarksAction,
} from '../src/features/marks/marksMachine'
import { imagePoint } from '../src/sheet/points'

const play = (...actions: MarksAction[]) => actions.reduce(marksReducer, begin(1, { 1: {}, 2: {} }))
const place = (mark: string, x = 10, y = 20): MarksAction => ({ type: 'place', mark, at: imagePoint(x, y) })

describe('marks machine', () => {
  it('places to a tenth of a pixel and keeps the mark chosen', () => {
    const state = play(place('stop', 10.04, 20.06))
    expect(marksOf(state)['stop']?.at).toEqual([10, 20.1])
    expect(state.selected).toBe('stop')
  })

  it('undoes and redoes across photos and shows the photo that changed', () => {
    const state = play(place('stop'), { type: 'show', photoId: 2 }, place('chin'), {
      type: 'show',
      photoId: 1,
    })
    const undone = marksReducer(state, { type: 'undo' })
    expect(undone.photoId).toBe(2)
    expect(marksOf(undone)).toEqual({})
    const again = marksReducer(undone, { type: 'redo' })
    expect(again.all).toEqual(state.all)
  })

  it('forgets what could be redone once something new is done', () => {
    const state = play(place('stop'), { type: 'undo' }, place('chin'))
    expect(marksReducer(state, { type: 'redo' })).toBe(state)
  })

  it('takes one expected place as sure, several as not sure', () => {
    const ghost = (mark: string) => ({ mark, at: [1, 2] as const, expected: false })
    expect(marksOf(play({ type: 'accept', ghosts: [ghost('stop')] }))['stop']?.unsure).toBe(false)
    const both = marksOf(play({ type: 'accept', ghosts: [ghost('stop'), ghost('chin')] }))
    expect([both['stop']?.unsure, both['chin']?.unsure]).toEqual([true, true])
  })

  it('marks what was taken as the solve expects it, until a hand puts it somewhere', () => {
    const ghost = { mark: 'stop', at: [1, 2] as const, expected: true }
    const taken = play({ type: 'accept', ghosts: [ghost] })
    expect(marksOf(taken)['stop']?.expected).toBe(true)
    const chosen = marksReducer(taken, { type: 'select', mark: 'stop' })
    const placed = marksReducer(chosen, { type: 'nudge', dx: 1, dy: 0 })
    expect(marksOf(placed)['stop']).toMatchObject({ expected: false, at: [2, 2] })
  })

  it('nudges and removes only what is chosen and placed', () => {
    const nothing = play()
    expect(marksReducer(nothing, { type: 'nudge', dx: 1, dy: 0 })).toBe(nothing)
    expect(marksReducer(nothing, { type: 'remove', mark: 'stop' })).toBe(nothing)
    const moved = play(place('stop'), { type: 'nudge', dx: 1, dy: -10 })
    expect(marksOf(moved)['stop']?.at).toEqual([11, 10])
  })

  it('asks for the next mark in order, past those put off', () => {
    const order = ['stop', 'chin', 'crown']
    expect(nextMark(play(place('stop')), order)).toBe('chin')
    expect(nextMark(play(place('stop'), { type: 'skip', mark: 'chin' }), order)).toBe('crown')
  })
})

describe('from one photo to the next', () => {
  const orders = { front: ['stop', 'chin'], left: ['stop'], right: [] }
  const photos = [
    { id: 1, view: 'left', state: 'dry' },
    { id: 2, view: 'front', state: 'dry' },
    { id: 3, view: 'right', state: 'dry' },
  ]
  const mark = { at: [1, 1], kind: null, unsure: false, expected: false } as Mark

  it('front comes first, and only what has marks to place', () => {
    expect(nextPhoto(begin(1, {}), photos, orders)?.id).toBe(2)
    expect(nextPhoto(begin(2, {}), photos, orders)?.id).toBe(1)
    expect(nextPhoto(begin(2, { 1: { stop: mark } }), photos, orders)).toBeNull()
  })

  it('goes on by itself from what is accepted, and tells what rests on guesses', () => {
    const two = ['stop', 'chin'].map((id) => ({ mark: id, at: [1, 2] as const, expected: false }))
    const all = marksReducer(begin(2, {}), { type: 'accept', ghosts: two })
    expect([all.selected, nextMark(all, orders.front)]).toEqual([null, null])
    expect(guessed(all)).toEqual(['stop', 'chin'])
    const one = marksReducer(begin(2, {}), { type: 'accept', ghosts: two.slice(0, 1) })
    expect([one.selected, nextMark(one, orders.front), guessed(one)]).toEqual([null, 'chin', []])
  })
})
