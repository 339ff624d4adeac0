import { describe, expect, it } from 'vitest'
import type { Guidance, Photo } from '../src/api/client'
import { beginCamera, cameraReducer, nextEmpty } from '../src/features/camera/cameraMachine'
import {
  distanceToLine,
  edgeReducer,
  held,
  noEdge,
  pulled,
  type EdgeLine,
} from '../src/features/photos/edgeMachine'
import { neckFrom } from '../src/features/photos/NeckDrawing'
import { allDone, countIn, nextWaiting, nothingComing, sortReducer } from '../src/features/photos/sortMachine'
import { imagePoint } from '../src/sheet/points'

const square: EdgeLine = [
  [100, 100],
  [500, 100],
  [500, 500],
  [100, 500],
]

describe('edge', () => {
  it('is drawn toward the hand near it and stays where it was farther off', () => {
    const line = pulled(square, imagePoint(500, 300), imagePoint(560, 300), 80)
    expect(distanceToLine(imagePoint(560, 300), line)).toBeLessThan(1)
    expect(distanceToLine(imagePoint(500, 450), line)).toBeLessThan(1)
    expect(distanceToLine(imagePoint(100, 300), line)).toBeLessThan(1e-6)
  })

  it('is not moved by a pull that goes nowhere', () => {
    const line = pulled(square, imagePoint(500, 300), imagePoint(500, 300), 80)
    for (const [x, y] of line) expect(distanceToLine(imagePoint(x, y), square)).toBeLessThan(1e-6)
  })

  const begun = edgeReducer(noEdge, {
    type: 'loaded',
    line: square,
    neck: null,
    past: [],
    future: [],
  })
  const other: EdgeLine = square.map(([x, y]) => [x + 9, y])
  const stroke = { points: square.slice(0, 2), coat: true }

  it('goes back and forth through its changes', () => {
    let state = edgeReducer(begun, { type: 'pulled', line: other })
    state = edgeReducer(state, { type: 'undo' })
    expect(state.drawn.line).toBe(square)
    state = edgeReducer(state, { type: 'redo' })
    expect(state.drawn.line).toBe(other)
    expect(edgeReducer(state, { type: 'redo' })).toBe(state)
  })

  it('takes strokes back one by one with the line they made', () => {
    const bare = { ...stroke, coat: false }
    let state = edgeReducer(begun, { type: 'followed', line: other, stroke })
    state = edgeReducer(state, { type: 'followed', line: square.slice(1), stroke: bare })
    expect(state.drawn.strokes).toEqual([stroke, bare])
    state = edgeReducer(state, { type: 'undo' })
    expect(state.drawn).toEqual({ line: other, strokes: [stroke], neck: null })
    state = edgeReducer(state, { type: 'undo' })
    expect(state.drawn).toEqual({ line: square, strokes: [], neck: null })
  })

  it('keeps strokes through a pull, and the latest of many', () => {
    const state = edgeReducer(edgeReducer(begun, { type: 'followed', line: other, stroke }), {
      type: 'pulled',
      line: square,
    })
    expect(state.drawn).toEqual({ line: square, strokes: [stroke], neck: null })
    const many = Array.from({ length: 50 }, (_, i) => ({ ...stroke, coat: i % 2 === 0 }))
    expect(held(many, { ...stroke, points: [] })).toHaveLength(40)
    expect(held(many, { ...stroke, points: [] }).at(-1)?.points).toEqual([])
  })

  it('lays a line that was found again beside the one drawn, and takes it only when told', () => {
    const offered = edgeReducer(begun, { type: 'offered', line: other })
    expect(offered.drawn.line).toBe(square)
    expect(offered.past).toEqual([])
    expect(edgeReducer(offered, { type: 'declined' })).toEqual(begun)
    const taken = edgeReducer(offered, { type: 'taken' })
    expect([taken.drawn.line, taken.offered]).toEqual([other, null])
    expect(edgeReducer(taken, { type: 'undo' }).drawn.line).toBe(square)
    expect(edgeReducer(noEdge, { type: 'offered', line: other }).drawn.line).toBe(other)
  })

  it('is cut off at the neck and whole again by one undo', () => {
    const neck = neckFrom(square.slice(0, 2), 1000)
    const cut = edgeReducer(begun, { type: 'neck', neck })
    expect(cut.drawn).toEqual({ line: square, strokes: [], neck: square.slice(0, 2) })
    expect(edgeReducer(cut, { type: 'pulled', line: other }).drawn.neck).toBe(neck)
    expect(edgeReducer(cut, { type: 'undo' }).drawn.neck).toBeNull()
    expect(neckFrom(square.slice(0, 1), 1000)).toBeNull()
    expect(neckFrom([], 1000)).toBeNull()
  })

  it('forgets what could be redone once something new is done', () => {
    let state = edgeReducer(begun, { type: 'pulled', line: [...square] })
    state = edgeReducer(state, { type: 'undo' })
    state = edgeReducer(state, { type: 'pulled', line: [...square] })
    expect(state.future).toEqual([])
  })
})

const file = (name: string) => ({ name }) as File
const photo = (view: Photo['view'], state: Photo['state'] = 'dry') => ({ view, state }) as Photo

describe('several photos at once', () => {
  const begun = sortReducer(nothingComing, {
    type: 'dropped',
    files: [file('a'), file('b'), file('c')],
    usual: 'dry',
  })

  it('sends one at a time', () => {
    const first = nextWaiting(begun)
    expect(first?.file.name).toBe('a')
    const sending = sortReducer(begun, { type: 'sending', key: first?.key ?? 0 })
    expect(nextWaiting(sending)).toBeUndefined()
  })

  it('keeps a refused one apart from those that are in, and goes on', () => {
    let state = sortReducer(begun, { type: 'refused', key: 1, reason: 'not a photo' })
    state = sortReducer(state, { type: 'in', key: 2, photo: photo('left') })
    expect(nextWaiting(state)?.file.name).toBe('c')
    expect([countIn(state), allDone(state)]).toEqual([1, false])
  })

  it('tries those again that found no server', () => {
    const away = sortReducer(begun, { type: 'away', key: 1, reason: 'away' })
    expect(nextWaiting(away)?.file.name).toBe('b')
    expect(nextWaiting(sortReducer(away, { type: 'again' }))?.file.name).toBe('a')
  })

  it('stops what has not begun, and begins a new count after all are done', () => {
    const one = sortReducer(begun, { type: 'in', key: 1, photo: photo('front') })
    const stopped = sortReducer(one, { type: 'stop' })
    expect(allDone(stopped)).toBe(true)
    const more = sortReducer(stopped, { type: 'dropped', files: [file('d')], usual: 'dry' })
    expect(more.files.map((f) => f.file.name)).toEqual(['d'])
  })
})

const guidance = (good: boolean) => ({ good, advice: [] }) as unknown as Guidance

describe('camera', () => {
  const live = cameraReducer(beginCamera({ view: 'front', state: 'dry' }), { type: 'started' })

  it('takes by itself only when all is well and it was wished', () => {
    expect(cameraReducer(live, { type: 'guided', guidance: guidance(false) }).phase).toBe('live')
    expect(cameraReducer(live, { type: 'guided', guidance: guidance(true) }).phase).toBe('taking')
    const byHand = cameraReducer(live, { type: 'byItself', on: false })
    expect(cameraReducer(byHand, { type: 'guided', guidance: guidance(true) }).phase).toBe('live')
    expect(cameraReducer(byHand, { type: 'take' }).phase).toBe('taking')
  })

  it('goes on to the next empty slot and ends when none is left', () => {
    const taking = cameraReducer(live, { type: 'take' })
    const next = cameraReducer(taking, { type: 'took', next: 'left' })
    expect([next.view, next.phase, next.guidance]).toEqual(['left', 'live', null])
    expect(cameraReducer(taking, { type: 'took', next: null }).phase).toBe('done')
    const DRY = ['front', 'left', 'right', 'top'] as const
    expect(nextEmpty(DRY, [photo('left'), photo('top')], 'dry', ['front'])).toBe('right')
    expect(nextEmpty(DRY, [photo('left', 'wet')], 'dry', ['front'])).toBe('left')
    expect(nextEmpty(['front', 'left', 'top'], [], 'wet', ['front', 'left', 'top'])).toBeNull()
  })

  it('loses nothing when a photo could not be taken', () => {
    const taking = cameraReducer(live, { type: 'take' })
    const back = cameraReducer(taking, { type: 'trouble', reason: 'no server' })
    expect([back.phase, back.view, back.reason, back.taken.length]).toEqual(['live', 'front', 'no server', 0])
  })
})
