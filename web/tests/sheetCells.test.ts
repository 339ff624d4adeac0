import { describe, expect, it } from 'vitest'
import type { Outline, Photo } from '../src/api/client'
import { cellsOf } from '../src/features/outline/sheetCells'
import { boxOf, levelled, viewBox, widened } from '../src/sheet/level'

const square = (x: number, y: number, half: number) => [
  [x - half, y - half],
  [x + half, y - half],
  [x + half, y + half],
  [x - half, y + half],
]
const lines = (x: number, y: number) => ({
  skin: square(x, y, 30),
  coat: square(x, y, 50),
  outline: square(x, y, 40),
})
const drawing = (more: object = {}) =>
  ({
    eyes_mm: [0, 5, 20],
    sheet: { front: lines(0, -20), left: lines(-5, -20), top: lines(0, -5) },
    photos: [],
    levels: [],
    ...more,
  }) as unknown as Outline
const photo = (id: number, view: string, state = 'dry') => ({ id, view, state }) as unknown as Photo

describe('a photo laid level on the sheet', () => {
  it('has the eyes at the origin, a millimetre as one, and up pointing up', () => {
    const at = levelled({ photo_id: 1, at: [400, 300], px_per_mm_up: [0, -4] })
    expect(at.pxPerMm).toBe(4)
    expect(at.toSheet([400, 300])).toEqual([0, 0])
    const [x, y] = at.toSheet([400, 260])
    expect([x, y]).toEqual([expect.closeTo(0), expect.closeTo(-10)])
  })

  it('is turned back where the camera was tilted', () => {
    const turn = (30 * Math.PI) / 180
    const up: [number, number] = [4 * Math.sin(turn), -4 * Math.cos(turn)]
    const at = levelled({ photo_id: 1, at: [400, 300], px_per_mm_up: up })
    const [x, y] = at.toSheet([400 + 10 * up[0], 300 + 10 * up[1]])
    expect([x, y]).toEqual([expect.closeTo(0), expect.closeTo(-10)])
    expect(at.transform).toContain('rotate(-30.00)')
  })
})

describe('boxes', () => {
  it('hold their points with a margin', () => {
    const box = boxOf([
      [3, 4],
      [-1, 9],
    ])
    expect(box).toEqual({ left: -1, top: 4, right: 3, bottom: 9 })
    expect(viewBox(widened(box, 2))).toBe('-3.0 2.0 8.0 9.0')
  })
})

describe('the aligned sheet', () => {
  it('draws every view from the numbers where there is no photo', () => {
    const cells = cellsOf(drawing(), [])
    expect(Object.values(cells).map((cell) => cell.words)).toEqual([
      'front, from the numbers',
      'side, from the numbers',
      'top, from the numbers',
    ])
    expect(cells.front.drawn.outline[0]).toEqual([-40, -40])
    expect(cells.front.photo).toBeUndefined()
  })

  it('turns the view from above nose down and its right to the left', () => {
    const nose = { skin: [[10, -95]], coat: [[10, -95]], outline: [[10, -95]] }
    const cells = cellsOf(drawing({ sheet: { front: lines(0, -20), left: lines(-5, -20), top: nose } }), [])
    expect(cells.top.drawn.skin).toEqual([[-10, 90]])
  })

  it('shares heights between front and side and widths between front and top', () => {
    const sheet = { front: lines(0, -20), left: lines(-5, -60), top: { ...lines(30, -5) } }
    const { front, side, top } = cellsOf(drawing({ sheet }), [])
    expect([front.box.top, front.box.bottom]).toEqual([side.box.top, side.box.bottom])
    expect([front.box.left, front.box.right]).toEqual([top.box.left, top.box.right])
    expect(front.box.left).toBe(-front.box.right)
  })

  const seen = (photo_id: number) => ({
    photos: [{ photo_id, coat_on_head: square(400, 300, 200), skin: [], coat: [], outline: [], setting: [] }],
    levels: [{ photo_id, at: [400, 300], px_per_mm_up: [0, -4] }],
  })

  it('lies over a dry photo where there is one', () => {
    const cells = cellsOf(drawing(seen(7)), [photo(7, 'front')])
    expect(cells.front.photo?.photo.id).toBe(7)
    expect(cells.front.words).toBe('front')
    expect(cellsOf(drawing(seen(7)), [photo(7, 'front', 'wet')]).front.photo).toBeUndefined()
  })

  it('shows the side that is asked for, or the other where that has no photo', () => {
    expect(cellsOf(drawing(seen(8)), [photo(8, 'right')], 'right').side.photo?.photo.id).toBe(8)
    expect(cellsOf(drawing(seen(8)), [photo(8, 'right')], 'left').side.photo?.photo.id).toBe(8)
    expect(cellsOf(drawing(seen(8)), [photo(8, 'front')], 'left').side.photo).toBeUndefined()
  })
})
