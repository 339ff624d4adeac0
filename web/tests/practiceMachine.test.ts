import { describe, expect, it } from 'vitest'
import {
  answerOf,
  begin,
  figure,
  missing,
  practiceReducer,
  type PracticeAction,
  type PracticeState,
  type Task,
} from '../src/features/practice/practiceMachine'

const task = (of: Partial<Task>): Task => ({
  id: 1,
  drill: 'bone',
  name: '',
  number: 1,
  of: 3,
  view: null,
  scene: null,
  photo: null,
  marks: [],
  measure: null,
  sure: [],
  places: [],
  place_of: '',
  families: [],
  reasons: [],
  wish: '',
  weeks: null,
  coat: '',
  zones: [],
  tools: [],
  ...of,
})
const mark = (id: string) => ({ id, words: id, feel: '', kind: 'felt' as const })
const ray = { start: [0, 0, 0] as [number, number, number], along: [1, 0, 0] as [number, number, number] }
const run = (state: PracticeState, ...actions: PracticeAction[]) => actions.reduce(practiceReducer, state)

describe('a drill being answered', () => {
  it('sets marks one after the other, and any again', () => {
    let state = begin(task({ marks: [mark('stop'), mark('crown')] }))
    expect(state.draft.active).toBe('stop')
    state = run(state, { type: 'mark', at: { x: 0.1, y: 0.2, ray } })
    expect(state.draft.active).toBe('crown')
    expect(answerOf(state)).toBeNull()
    state = run(state, { type: 'mark', at: { x: 0.3, y: 0.4, ray } })
    expect(state.draft.active).toBeNull()
    expect(answerOf(state)).toEqual({ drill: 'bone', rays: { stop: ray, crown: ray }, px: {} })
    state = run(state, { type: 'choose', mark: 'stop' }, { type: 'mark', at: { x: 0.9, y: 0.9, ray } })
    expect(state.draft.marks['stop']?.x).toBe(0.9)
  })

  it('answers on a photo in its own pixels', () => {
    const photo = { dog: 'Tiller', url: '', under: null, width_px: 1200, height_px: 900 }
    const state = run(begin(task({ marks: [mark('stop')], photo })), {
      type: 'mark',
      at: { x: 600, y: 300, ray: null },
    })
    expect(answerOf(state)).toEqual({ drill: 'bone', rays: {}, px: { stop: [600, 300] } })
  })

  it('wants a guess and how sure, and says which is missing', () => {
    let state = begin(task({ drill: 'eye', sure: [5, 10] }))
    expect(missing(state)).toBe('Say a number.')
    state = run(state, { type: 'guess', value: 80 })
    expect(missing(state)).toBe('How sure are you?')
    state = run(state, { type: 'within', percent: 10 })
    expect(missing(state)).toBe('')
    expect(answerOf(state)).toEqual({ drill: 'eye', guess: 80, within: 10 })
    expect(answerOf(run(state, { type: 'guess', value: null }))).toBeNull()
  })

  it('takes a drag as one step back', () => {
    const state = run(
      begin(task({ drill: 'eye' })),
      { type: 'guess', value: 50 },
      { type: 'guess', value: 51 },
      { type: 'guess', value: 52 },
    )
    expect(state.past).toHaveLength(1)
    const back = run(state, { type: 'undo' })
    expect(back.draft.guess).toBeNull()
    expect(run(back, { type: 'redo' }).draft.guess).toBe(52)
  })

  it('orders by pressing, and a second press takes out', () => {
    const families = ['round', 'teddy', 'brick'].map((id) => ({ id, name: id, description: '' }))
    const press = (id: string): PracticeAction => ({ type: 'rank', id })
    let state = run(begin(task({ drill: 'suits', families })), press('round'), press('brick'), press('round'))
    expect(state.draft.order).toEqual(['brick'])
    state = run(state, press('teddy'), press('round'))
    expect(answerOf(state)).toBeNull()
    expect(missing(state)).toContain('against the last')
    state = run(state, { type: 'why', id: 'hair' })
    expect(answerOf(state)).toEqual({ drill: 'suits', order: ['brick', 'teddy', 'round'], why: 'hair' })
  })

  it('wants an outline, a tool and a turn for each place of a plan', () => {
    const zones = ['cheek', 'jaw'].map((zone) => ({ zone, words: zone, now_mm: 40 }))
    let state = begin(task({ drill: 'plan', zones }))
    expect(state.draft.lengths).toEqual({ cheek: 40, jaw: 40 })
    state = run(state, { type: 'family', id: 'round' }, { type: 'length', zone: 'jaw', mm: 12 })
    expect(missing(state)).toBe('A tool for each place.')
    for (const zone of ['cheek', 'jaw'])
      state = run(state, { type: 'tool', zone, id: 'shears' }, { type: 'rank', id: zone })
    expect(answerOf(state)).toEqual({
      drill: 'plan',
      family: 'round',
      lengths: { cheek: 40, jaw: 12 },
      tools: { cheek: 'shears', jaw: 'shears' },
      order: ['cheek', 'jaw'],
    })
  })

  it('says the place and about how much', () => {
    const state = run(
      begin(task({ drill: 'long_side' })),
      { type: 'place', zone: 'jaw', side: 'right' },
      { type: 'amount', mm: 5 },
    )
    expect(answerOf(state)).toEqual({ drill: 'long_side', zone: 'jaw', side: 'right', mm: 5 })
  })

  it('says figures as they are said', () => {
    expect(figure(3.26, 'mm')).toBe('3.3')
    expect(figure(0.124, '%')).toBe('12')
    expect(figure(0.8, 'share')).toBe('80')
  })
})
