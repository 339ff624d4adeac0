import { describe, expect, it } from 'vitest'
import {
  beginCheck,
  checkReducer,
  doneIn,
  drawnTicks,
  nextOpen,
  type Check,
} from '../src/features/check/checkMachine'

const touch = (place: string, done: 'done' | 'skipped' | 'left' | null = null) =>
  ({ place, done }) as Check['touch_ups'][number]
const check = { touch_ups: [touch('cheek/left'), touch('crown/right', 'skipped')] } as Check

describe('the check', () => {
  it('begins with what was said before, and shows the first open place', () => {
    const done = doneIn(check)
    expect(done).toEqual({ 'crown/right': 'skipped' })
    expect(nextOpen(check, done)?.place).toBe('cheek/left')
  })

  it('keeps what was said of a place, takes it back, and undoes both', () => {
    let state = checkReducer(beginCheck({}), { type: 'say', place: 'cheek/left', done: 'done' })
    expect(state.done).toEqual({ 'cheek/left': 'done' })
    state = checkReducer(state, { type: 'open', place: 'cheek/left' })
    expect(state.done).toEqual({})
    state = checkReducer(state, { type: 'undo' })
    expect(state.done).toEqual({ 'cheek/left': 'done' })
    state = checkReducer(checkReducer(state, { type: 'undo' }), { type: 'redo' })
    expect(state.done).toEqual({ 'cheek/left': 'done' })
  })

  it('leaves what is open when the dog has had enough, and nothing that was said before', () => {
    const state = checkReducer(beginCheck({ 'crown/right': 'done' }), {
      type: 'enough',
      places: ['crown/right', 'cheek/left'],
    })
    expect(state.done).toEqual({ 'crown/right': 'done', 'cheek/left': 'left' })
    expect(nextOpen(check, state.done)).toBeUndefined()
  })

  it('draws no tick that is shorter than what can be seen', () => {
    const ticks = [1, -2, 3].map((mm) => ({ planned: [0, 0], found: [0, 0], mm }))
    const photo = { ticks } as unknown as Check['photos'][number]
    expect(drawnTicks(photo, 1.5).map((tick) => tick.mm)).toEqual([-2, 3])
  })
})
