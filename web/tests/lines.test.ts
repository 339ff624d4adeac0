import { describe, expect, it } from 'vitest'
import { levelled } from '../src/sheet/level'
import { furryPath, signedArea, smoothPath } from '../src/sheet/lines'
import { length } from '../src/ui/units'

const square = [
  [100, 100],
  [200, 100],
  [200, 200],
  [100, 200],
]
const room = { width: 300, height: 300 }

describe('lines', () => {
  it('stands hairs off the outside, whichever way the line runs', () => {
    for (const line of [square, [...square].reverse()]) {
      const hairs = [...furryPath(line, 10, 20, room).matchAll(/M([\d.]+) ([\d.]+)l(-?[\d.]+) (-?[\d.]+)/g)]
      expect(hairs.length).toBe(20)
      for (const [, x, y, dx, dy] of hairs) {
        const outward = (Number(x) - 150) * Number(dx) + (Number(y) - 150) * Number(dy)
        expect(outward).toBeGreaterThan(-600)
      }
      const total = hairs.reduce(
        (sum, [, x, y, dx, dy]) => sum + (Number(x) - 150) * Number(dx) + (Number(y) - 150) * Number(dy),
        0,
      )
      expect(total).toBeGreaterThan(0)
    }
  })

  it('grows no hair along the photo’s frame', () => {
    expect(
      furryPath(
        [
          [0, 0],
          [300, 0],
          [300, 300],
          [0, 300],
        ],
        10,
        20,
        room,
      ),
    ).toBe('')
  })

  it('knows which way a line runs and refuses a line of two points', () => {
    expect(signedArea(square)).toBe(-signedArea([...square].reverse()))
    expect(smoothPath(square.slice(0, 2))).toBe('')
  })

  it('lays a turned photo level at its own scale', () => {
    const at = levelled({ photo_id: 1, at: [400, 300], px_per_mm_up: [0.9, -3.2] })
    expect(at.toSheet([400, 300])).toEqual([0, 0])
    const [x, y] = at.toSheet([400.9 + 9 * 0.9, 300 - 32])
    expect(x).toBeCloseTo(0, 5)
    expect(y).toBeCloseTo(-10, 5)
  })

  it('reads lengths in whole mm or sixteenths of an inch', () => {
    expect(length(19.4, 'mm')).toBe('19')
    expect(length(25.4, 'in')).toBe('1″')
    expect(length(19.05, 'in')).toBe('3/4″')
    expect(length(41.3, 'in')).toBe('1 5/8″')
  })
})
