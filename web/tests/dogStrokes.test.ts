import { describe, expect, it } from 'vitest'
import { earStrokes, faceStrokes, neckStrokes, type Marks, type ViewName } from '../src/shared/dogStrokes'

/** A plain face from the front, mm, y down. */
const FACE: Marks = {
  nose_tip: [0, 22],
  nose_top: [0, 14],
  stop: [0, -4],
  occiput: [0, -30],
  lip_front: [0, 32],
  chin: [0, 44],
  throat: [0, 60],
  eye_inner_left: [16, 0],
  eye_outer_left: [34, -2],
  eye_inner_right: [-16, 0],
  eye_outer_right: [-34, -2],
  mouth_corner_left: [24, 30],
  mouth_corner_right: [-24, 30],
  ear_front_left: [30, -30],
  ear_back_left: [40, -22],
  ear_tip_left: [44, -70],
}
const SIDE: Marks = {
  nose_tip: [-90, 22],
  nose_top: [-84, 14],
  lip_front: [-84, 34],
  mouth_corner_left: [-40, 36],
  eye_inner_left: [-22, 0],
  eye_outer_left: [-8, -2],
  jaw_angle_left: [10, 44],
  cheek_left: [16, 10],
  occiput: [70, -20],
  throat: [30, 52],
}
const RING = Array.from({ length: 40 }, (_, i) => [
  50 * Math.cos(i / 6.37),
  10 + 60 * Math.sin(i / 6.37),
]) as [number, number][]

/** All absolute points of a path, as far as one can tell without drawing it. */
const numbers = (d: string) => (d.match(/-?\d+(\.\d+)?/g) ?? []).map(Number)
const mirrored = (marks: Marks): Marks =>
  Object.fromEntries(
    Object.entries(marks).map(([id, [x, y]]) => [
      id.replace(/left|right/, (side) => (side === 'left' ? 'right' : 'left')),
      [-x, y],
    ]),
  )

describe('a drawn dog', () => {
  it('has two eyes in their lids, a nose with nostrils and a mouth from the front', () => {
    const strokes = faceStrokes(FACE, 'front')
    expect(strokes.filter((s) => s.filled && s.tone === 'ink')).toHaveLength(3)
    expect(strokes.filter((s) => s.filled && s.tone === 'paper')).toHaveLength(4)
    expect(strokes.every((s) => numbers(s.d).every(Number.isFinite))).toBe(true)
  })

  it('keeps its nose between its eyes, whatever the marks say of it', () => {
    for (const room of [4, 16, 60]) {
      const marks: Marks = { ...FACE, eye_inner_left: [room, 0], eye_inner_right: [-room, 0] }
      const [nose] = faceStrokes(marks, 'front')
        .filter((s) => s.filled && s.tone === 'ink')
        .slice(-1)
      const xs = numbers(nose?.d ?? '').filter((_, i) => i % 2 === 0)
      expect(Math.max(...xs)).toBeLessThanOrEqual(14)
      expect(Math.max(...xs)).toBeGreaterThanOrEqual(7)
    }
  })

  it('looks the other way from the other side', () => {
    const left = faceStrokes(SIDE, 'left').map((s) => numbers(s.d)[0] ?? 0)
    const right = faceStrokes(mirrored(SIDE), 'right').map((s) => numbers(s.d)[0] ?? 0)
    expect(right).toHaveLength(left.length)
    left.forEach((x, i) => expect(Math.sign(right[i] ?? 0)).toBe(-Math.sign(x)))
  })

  it('leaves out what no mark tells', () => {
    for (const view of ['front', 'left', 'right', 'top'] as ViewName[]) {
      expect(faceStrokes({}, view)).toEqual([])
      expect(neckStrokes([], {}, view)).toEqual([])
    }
    expect(earStrokes([], FACE, 'left', 'drop')).toEqual([])
  })

  it('draws the fold of an ear by how it is carried', () => {
    const of = (carriage: string) => earStrokes(RING, FACE, 'left', carriage)[0]?.d
    expect(new Set(['drop', 'prick', 'button'].map(of)).size).toBe(3)
  })

  it('runs into a neck', () => {
    expect(neckStrokes(RING, FACE, 'front')).toHaveLength(2)
    expect(neckStrokes(RING, SIDE, 'left')).toHaveLength(2)
  })
})
