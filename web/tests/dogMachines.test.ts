import { describe, expect, it } from 'vitest'
import { bandsReducer, beginBands, edgesOf, idOf, wrongIn, type Band } from '../src/features/dog/bandsMachine'
import {
  beginBooking,
  bookingReducer,
  canCancel,
  canKeep,
  type Booked,
  type BookingAction,
} from '../src/shared/bookingMachine'

const band = (measure: string, edges: number[], usual = edges) =>
  ({ measure, edges, usual, words: [], noun: measure, why: '' }) as unknown as Band
const BANDS = [band('muzzle_ratio', [0.55, 0.8], [0.5, 0.8]), band('plane_angle', [12])]

describe('where words change', () => {
  const type = (id: string, text: string) => bandsReducer(beginBands(BANDS), { type: 'type', id, text })

  it('begins with what the salon says', () => {
    expect(edgesOf(beginBands(BANDS), BANDS)).toEqual({ muzzle_ratio: [0.55, 0.8], plane_angle: [12] })
    expect(wrongIn(beginBands(BANDS), BANDS)).toBeUndefined()
  })

  it('takes numbers as hands type them', () => {
    expect(edgesOf(type('muzzle_ratio.1', '0,9'), BANDS)['muzzle_ratio']).toEqual([0.55, 0.9])
  })

  it.each(['', 'wide', '1..2'])('names the band where %j is typed', (text) => {
    expect(wrongIn(type('plane_angle.0', text), BANDS)?.measure).toBe('plane_angle')
  })

  it('goes back to the usual ones', () => {
    const state = bandsReducer(type('muzzle_ratio.0', '9'), { type: 'usual', bands: BANDS })
    expect(edgesOf(state, BANDS)['muzzle_ratio']).toEqual([0.5, 0.8])
    expect(idOf(BANDS[0] as Band, 1)).toBe('muzzle_ratio.1')
  })
})

describe('a time in the book', () => {
  const kept = { id: 4, day: '2026-12-03', starts: '09:30', minutes: 60, words: 'mats', visit_id: null }
  const fresh: Booked = { kind: 'new', day: '2026-11-27', dog: null }
  const change = (more: object = {}) =>
    ({ kind: 'change', booking: { ...kept, ...more }, dog: { name: 'Fogbell' } }) as unknown as Booked
  const play = (booked: Booked, ...actions: BookingAction[]) =>
    actions.reduce(bookingReducer, beginBooking(booked))

  it('is kept free for a dog on the day that is shown', () => {
    const state = play(fresh)
    expect(state.form).toEqual({ day: '2026-11-27', starts: '', minutes: 90, words: '' })
    expect(canKeep(state)).toBe(false)
    const named = bookingReducer(state, { type: 'dog', dog: { id: 3, name: 'Tiller' } })
    expect(named.name).toBe('Tiller')
    expect(canKeep(named)).toBe(true)
  })

  it('wants a day', () => {
    const state = play(change(), { type: 'set', change: { day: '' } })
    expect(canKeep(state)).toBe(false)
  })

  it('is moved with everything else as it was', () => {
    const state = play(change(), { type: 'set', change: { starts: '10:00' } })
    expect(state.form).toEqual({ day: '2026-12-03', starts: '10:00', minutes: 60, words: 'mats' })
    expect(state.name).toBe('Fogbell')
    expect(canKeep(state)).toBe(true)
  })

  it('is cancelled as long as no visit was begun with it', () => {
    expect(canCancel(play(change()))).toBe(true)
    expect(canCancel(play(change({ visit_id: 9 })))).toBe(false)
    expect(canCancel(play(fresh))).toBe(false)
  })
})
