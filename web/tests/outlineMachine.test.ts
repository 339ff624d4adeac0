import { describe, expect, it } from 'vitest'
import type { Outline } from '../src/api/client'
import { begin, outlineReducer, type OutlineAction } from '../src/features/outline/outlineMachine'

const play = (...actions: OutlineAction[]) => actions.reduce(outlineReducer, begin('round', {}, {}, true))
const lines = (skin: [number, number][]) => ({
  photo_id: 1,
  skin,
  coat: skin,
  coat_on_head: skin,
  outline: [],
  shortage: [],
  skin_band_px: 1,
})
const drawing = (name: string, skin: [number, number][] = [[0, 0]], family = 'round') =>
  ({
    name,
    family,
    photos: [lines(skin)],
    sheet: skin.length ? { front: {} } : {},
    reasons: skin.length ? ['told'] : [],
  }) as unknown as Outline

describe('outline machine', () => {
  it('drops an answer that a newer one has overtaken', () => {
    const state = play(
      { type: 'drawn', request: 5, drawing: drawing('new') },
      { type: 'drawn', request: 3, drawing: drawing('old') },
    )
    expect(state.drawing?.name).toBe('new')
    expect(state.shown).toBe(5)
  })

  it('keeps what stands still when a moving answer leaves it out', () => {
    const state = play(
      { type: 'drawn', request: 1, drawing: drawing('full', [[7, 8]]) },
      { type: 'drawn', request: 2, drawing: drawing('moving', []) },
    )
    expect(state.drawing?.photos[0]?.skin).toEqual([[7, 8]])
    expect(state.drawing?.reasons).toEqual(['told'])
  })

  it('takes nothing over from another family', () => {
    const state = play(
      { type: 'drawn', request: 1, drawing: drawing('full', [[7, 8]]) },
      { type: 'drawn', request: 2, drawing: drawing('moving', [], 'teddy') },
    )
    expect(state.drawing?.photos[0]?.skin).toEqual([])
  })

  it('brings family, parameters and schools back together', () => {
    const state = play(
      { type: 'set', id: 'fullness', value: 0.5 },
      { type: 'rest' },
      { type: 'school', id: 'jaw', choice: 'two_cuts' },
      { type: 'family', family: 'teddy' },
    )
    expect(state).toMatchObject({ family: 'teddy', params: {}, schools: {}, moving: false })
    const back = outlineReducer(state, { type: 'undo' })
    expect(back).toMatchObject({ family: 'round', params: { fullness: 0.5 }, schools: { jaw: 'two_cuts' } })
    expect(outlineReducer(back, { type: 'undo' }).schools).toEqual({})
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
    expect(undone.params).toEqual({})
    expect(outlineReducer(undone, { type: 'redo' }).params).toEqual({ fullness: 0.3 })
  })

  it('is no longer kept once anything changes', () => {
    expect(play().kept).toBe(true)
    expect(play({ type: 'set', id: 'visor_mm', value: 3 }).kept).toBe(false)
    expect(play({ type: 'school', id: 'fringe', choice: 'straight' }).kept).toBe(false)
  })
})
