import { describe, expect, it } from 'vitest'
import type { MovingOutline, Outline } from '../src/api/client'
import { begin, outlineReducer, type OutlineAction } from '../src/features/outline/outlineMachine'

const play = (...actions: OutlineAction[]) => actions.reduce(outlineReducer, begin('round', {}, {}, true))
const drawing = (name: string) =>
  ({
    name,
    family: 'round',
    photos: [{ photo_id: 1, skin: [[0, 0]], outline: [], setting: [[[1, 1]]] }],
    reasons: ['told'],
    weeks: 0,
  }) as unknown as Outline
const moved = (request: number, family = 'round'): OutlineAction => ({
  type: 'moved',
  request,
  drawing: {
    family,
    photos: [{ photo_id: 1, outline: [[5, 5]] }],
    reasons: [],
    weeks: 3,
  } as unknown as MovingOutline,
})

describe('outline machine', () => {
  it('drops an answer that a newer one has overtaken', () => {
    const state = play(
      { type: 'drawn', request: 5, drawing: drawing('new') },
      { type: 'drawn', request: 3, drawing: drawing('old') },
    )
    expect(state.drawing?.name).toBe('new')
    expect(state.shown).toBe(5)
  })

  it('keeps what stands still while the rest moves', () => {
    const state = play({ type: 'drawn', request: 1, drawing: drawing('full') }, moved(2))
    expect(state.drawing?.photos[0]).toMatchObject({ skin: [[0, 0]], outline: [[5, 5]] })
    expect(state.drawing).toMatchObject({ name: 'full', reasons: ['told'], weeks: 3 })
    expect(state.shown).toBe(2)
  })

  it('moves nothing of another family, before the first drawing, or by an answer that came late', () => {
    const teddy = play({ type: 'drawn', request: 1, drawing: drawing('full') }, moved(2, 'teddy'))
    expect(teddy.drawing?.photos[0]?.outline).toEqual([])
    expect(play(moved(1)).drawing).toBeNull()
    const late = play({ type: 'drawn', request: 3, drawing: drawing('full') }, moved(2))
    expect(late.drawing?.photos[0]?.outline).toEqual([])
  })

  it('brings family, parameters and schools back together', () => {
    const state = play(
      { type: 'set', id: 'fullness', value: 0.5 },
      { type: 'rest' },
      { type: 'school', id: 'jaw', choice: 'two_cuts' },
      { type: 'family', family: 'teddy' },
    )
    expect(state).toMatchObject({ setting: { family: 'teddy', params: {}, schools: {} }, moving: false })
    const back = outlineReducer(state, { type: 'undo' })
    expect(back).toMatchObject({
      setting: { family: 'round', params: { fullness: 0.5 }, schools: { jaw: 'two_cuts' } },
    })
    expect(outlineReducer(back, { type: 'undo' }).setting.schools).toEqual({})
  })

  it('asks for a whole drawing once it rests', () => {
    const moving = play({ type: 'set', id: 'fullness', value: 0.5 })
    expect(moving.moving).toBe(true)
    const rested = outlineReducer(moving, { type: 'rest' })
    expect(rested.moving).toBe(false)
    expect(rested.asked).toBe(moving.asked + 1)
    expect(outlineReducer(rested, { type: 'rest' })).toBe(rested)
  })

  it('counts a whole drag as one step back', () => {
    const set = (value: number): OutlineAction => ({ type: 'set', id: 'fullness', value })
    const state = play(set(0.1), set(0.2), set(0.3), { type: 'rest' })
    const undone = outlineReducer(state, { type: 'undo' })
    expect(undone.setting.params).toEqual({})
    expect(outlineReducer(undone, { type: 'redo' }).setting.params).toEqual({ fullness: 0.3 })
  })

  it('is no longer kept once anything changes', () => {
    expect(play().kept).toBe(true)
    expect(play({ type: 'set', id: 'visor_mm', value: 3 }).kept).toBe(false)
    expect(play({ type: 'school', id: 'fringe', choice: 'straight' }).kept).toBe(false)
  })
})
