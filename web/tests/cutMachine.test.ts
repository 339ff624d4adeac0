import { describe, expect, it } from 'vitest'
import {
  allDone,
  beginCut,
  cutReducer,
  nextEnd,
  remembered,
  saidOf,
  secondsOn,
  type CutAction,
  type CutState,
  type Log,
  type Step,
} from '../src/features/cut/cutMachine'

const step = (id: string, may_end = false) => ({ id, may_end, minutes: 2, title: id }) as unknown as Step
const STEPS = [step('look'), step('ring'), step('cheek:left'), step('cheek:right', true), step('note', true)]
const DONE: Log[string] = { state: 'done', tool: '', notes: [] }

const fresh = (log: Log = {}) => beginCut(STEPS, log, [], null)
const play = (state: CutState, ...actions: CutAction[]) => actions.reduce(cutReducer, state)
const next = (nowMs: number): CutAction => ({ type: 'next', nowMs })
const seen = (nowMs: number): CutAction => ({ type: 'seen', nowMs })

describe('cut machine', () => {
  it('goes on step by step and measures each by the clock', () => {
    const state = play(fresh(), seen(0), next(30_000), next(75_000))
    expect(state.at).toBe('cheek:left')
    expect(state.log['look']).toMatchObject({ state: 'done', seconds: 30 })
    expect(state.log['ring']).toMatchObject({ state: 'done', seconds: 45 })
    expect(state.queue.map((s) => s.step)).toEqual(['look', 'ring'])
  })

  it('leaves out the time nobody looked', () => {
    const state = play(fresh(), seen(0), { type: 'hidden', nowMs: 10_000 }, seen(600_000))
    expect(secondsOn(state, 'look', 605_000)).toBe(15)
    expect(play(state, next(605_000)).log['look']).toMatchObject({ seconds: 15 })
  })

  it('begins where the log ends', () => {
    expect(fresh({ look: { ...DONE }, ring: { ...DONE } }).at).toBe('cheek:left')
  })

  it('skips, and comes back to what was skipped when all else is done', () => {
    let state = play(fresh(), seen(0), { type: 'skip', nowMs: 1000 })
    expect(state.log['look']).toMatchObject({ state: 'skipped', seconds: null })
    state = play(state, { type: 'go', step: 'look', nowMs: 2000 }, { type: 'undo', nowMs: 3000 })
    expect(state.log['look']).toBeUndefined()
    expect(state.at).toBe('look')
  })

  it('undoes one word after the other and tells the server', () => {
    const state = play(fresh(), seen(0), next(1), next(2), { type: 'undo', nowMs: 3 })
    expect(state.at).toBe('ring')
    expect(state.log['ring']).toBeUndefined()
    expect(state.queue.at(-1)).toMatchObject({ step: 'ring', entry: { state: 'open' } })
    expect(play(state, { type: 'undo', nowMs: 4 }, { type: 'undo', nowMs: 5 }).log).toEqual({})
  })

  it('keeps the first word of a step that is looked at again', () => {
    const state = play(fresh(), seen(0), next(5000), { type: 'back', nowMs: 6000 })
    expect(state.at).toBe('look')
    const on = play(state, next(90_000))
    expect(on.log['look']).toMatchObject({ seconds: 5 })
    expect(on.at).toBe('ring')
    expect(on.past).toEqual(['look'])
  })

  it('holds notes and the real tool for a step until it is done', () => {
    const noted = play(
      fresh(),
      seen(0),
      { type: 'note', code: 'tired' },
      { type: 'really', tool: 'my comb', lengthMm: 4 },
    )
    expect(noted.queue).toEqual([])
    expect(saidOf(noted, 'look')).toMatchObject({ notes: ['tired'], tool: 'my comb', length_mm: 4 })
    const done = play(noted, next(1000))
    expect(done.log['look']).toMatchObject({ notes: ['tired'], tool: 'my comb', length_mm: 4, state: 'done' })
    const later = play(done, { type: 'back', nowMs: 2000 }, { type: 'note', code: 'tired' })
    expect(later.queue.at(-1)).toMatchObject({ step: 'look', entry: { notes: [], state: 'done' } })
  })

  it('sends only the last word on a step', () => {
    const state = play(fresh(), seen(0), next(1), { type: 'undo', nowMs: 2 }, next(3))
    expect(state.queue.filter((s) => s.step === 'look')).toHaveLength(1)
    const [sending] = state.queue
    if (!sending) throw new Error('nothing to send')
    expect(play(state, { type: 'handed_on', sending }).queue).toEqual([])
  })

  it('survives a reload with what the server does not have yet', () => {
    const before = play(fresh(), seen(0), next(9000), { type: 'note', code: 'nick' })
    const kept = JSON.parse(JSON.stringify(remembered(before)))
    const after = beginCut(STEPS, {}, [], kept)
    expect(after.at).toBe('ring')
    expect(after.log['look']).toMatchObject({ state: 'done', seconds: 9 })
    expect(after.queue).toHaveLength(1)
    expect(saidOf(after, 'ring').notes).toEqual(['nick'])
  })

  it('forgets what was said of steps that a new sheet does not have', () => {
    const kept = { ...remembered(play(fresh(), seen(0), next(1))), at: 'gone' }
    const after = beginCut(STEPS.slice(1), {}, [], kept)
    expect(after.queue).toEqual([])
    expect(after.at).toBe('ring')
  })

  it('gives a word again that was taken back, over a reload too, until something new is said', () => {
    const said = play(fresh(), seen(0), next(1000), next(3000))
    const back = play(said, { type: 'undo', nowMs: 4000 }, { type: 'undo', nowMs: 5000 })
    expect(back.log).toEqual({})
    const after = beginCut(STEPS, {}, [], JSON.parse(JSON.stringify(remembered(back))))
    const again = play(after, { type: 'redo', nowMs: 6000 })
    expect(again.log['look']).toEqual(said.log['look'])
    expect(again.at).toBe('ring')
    expect(play(again, { type: 'redo', nowMs: 7000 }).log).toEqual(said.log)
    const other = play(after, { type: 'skip', nowMs: 6000 })
    expect(play(other, { type: 'redo', nowMs: 7000 })).toBe(other)
  })

  it('tells how far it is to where the dog may go home', () => {
    const state = play(fresh(), seen(0), next(1), next(2))
    expect(nextEnd(state)).toMatchObject({ steps: 2, minutes: 4, step: { id: 'cheek:right' } })
  })

  it('knows when all is done, and stays', () => {
    const state = play(fresh(), seen(0), next(1), next(2), { type: 'skip', nowMs: 3 }, next(4), next(5))
    expect(allDone(state)).toBe(true)
    expect(play(state, next(6))).toMatchObject({ at: 'note', past: state.past })
  })
})
