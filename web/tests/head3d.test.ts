import { describe, expect, it } from 'vitest'
import type { Mesh } from '../src/api/client'
import { FIRST, paced, sharper } from '../src/head3d/pace'
import { strandsOf } from '../src/head3d/strands'
import { surfaceOf, unpackDepths, unpackMesh, type Left } from '../src/head3d/unpack'

type Kind = typeof Int16Array | typeof Uint16Array | typeof Uint8Array
const packed = (values: number[], kind: Kind) =>
  btoa(String.fromCharCode(...new Uint8Array(kind.from(values).buffer)))
const mm = (values: number[]) =>
  packed(
    values.map((v) => v * 20),
    Int16Array,
  )
const unit = (values: number[]) =>
  packed(
    values.map((v) => v * 16384),
    Int16Array,
  )

/** A square of skin 40 mm wide with 10 mm of hair, one corner of it bare; two ears of one face each; a square neck. */
const SQUARE = [0, 0, 0, 40, 0, 0, 40, 40, 0, 0, 40, 0]
const UP = [0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]
const EARS = [50, 0, 0, 60, 0, 0, 50, 10, 5, -50, 0, 0, -60, 0, 0, -50, 10, 5]
const mesh: Mesh = {
  ground: 'abc',
  step_mm: 0.05,
  skin: mm(SQUARE),
  outward: unit(UP),
  coat: mm([10, 10, 10, 10]),
  ears: mm(EARS),
  faces: packed([0, 1, 2, 0, 2, 3, 4, 5, 6, 7, 9, 8], Uint16Array),
  bare: packed([1, 0, 0, 0], Uint8Array),
  eyes_mm: [[0, 0, 0]],
  eye_wide_mm: 4,
  nose_mm: [200, 0, 0],
  nose_wide_mm: 4,
  lips_mm: [],
  colours: packed(
    Array.from({ length: 30 }, (_, i) => (i % 3 === 0 ? 255 : 51)),
    Uint8Array,
  ),
  leather: [25, 25, 25],
  stand: packed([90, 90, 90, 90], Uint8Array),
  coat_type: 'standing',
  neck: {
    positions: mm(SQUARE.map((v) => v - 100)),
    outward: unit(UP),
    faces: packed([0, 1, 2, 0, 2, 3], Uint16Array),
    fade: packed([255, 255, 0, 0], Uint8Array),
    like: packed([2, 2, 2, 2], Uint16Array),
  },
}
const solid = unpackMesh(mesh)
const left: Left = unpackDepths({ leave: mm([4, 4, 4, 4]), short: mm([0, 0, 0, 12]), ears: mm(EARS) })
const rounded = (values: ArrayLike<number>) => Array.from(values, (v) => Math.round(v * 100) / 100)

describe('the solid head', () => {
  it('is unpacked into millimetres and shares', () => {
    expect(rounded(solid.skin)).toEqual(SQUARE)
    expect(rounded(solid.outward)).toEqual(UP)
    expect([...solid.faces].slice(0, 3)).toEqual([0, 1, 2])
    expect(rounded(solid.colours.slice(0, 3))).toEqual([1, 0.2, 0.2])
    expect(rounded(solid.neck.fade)).toEqual([1, 1, 0, 0])
  })

  it('carries its hair outward from the skin', () => {
    const surface = surfaceOf(solid, Float32Array.from([5, 2, 0, 1]), solid.ears, 0.5)
    expect(rounded(surface.slice(0, 6))).toEqual([0, 0, 2.5, 40, 0, 1])
    expect(rounded(surface.slice(12))).toEqual(EARS)
  })
})

describe('its hair', () => {
  const strands = strandsOf(solid, left, { ...left, leave: Float32Array.from([9, 9, 9, 9]) }, 600)
  const column = (from: Float32Array, width: number, k: number) =>
    Array.from({ length: strands.many }, (_, i) => from[width * i + k] ?? NaN)
  const onSkin = column(strands.now, 3, 0).map(
    (x, i) => x >= 0 && x <= 40 && (strands.now[3 * i + 2] ?? 1) === 0,
  )

  it('stands as deep as the plan says: now, finished, weeks on', () => {
    for (const [k, depth] of [10, 4, 9].entries()) {
      const found = column(strands.depths, 3, k).filter((_, i) => onSkin[i])
      expect(found.length).toBeGreaterThan(200)
      expect(Math.min(...found)).toBeCloseTo(depth, 3)
      expect(Math.max(...found)).toBeCloseTo(depth, 3)
    }
  })

  it('is rooted all over the skin, on the ears and on the neck, in any first few too', () => {
    const first = column(strands.now, 3, 0).slice(0, 150)
    expect(first.filter((x) => x >= 0 && x <= 20).length).toBeGreaterThan(10)
    expect(first.filter((x) => x > 20 && x <= 40).length).toBeGreaterThan(10)
    expect(first.some((x) => Math.abs(x) >= 50)).toBe(true)
    expect(first.filter((x) => x <= -60).length).toBeGreaterThan(10)
  })

  it('is the same for the same head', () => {
    const again = strandsOf(solid, left, { ...left, leave: Float32Array.from([9, 9, 9, 9]) }, 600)
    expect(again.now).toEqual(strands.now)
    expect(again.own).toEqual(strands.own)
  })

  it('knows where most comes off and what is missing', () => {
    const off = column(strands.kind, 4, 2).filter((_, i) => onSkin[i])
    expect(off.every((share) => Math.abs(share - 0.2) < 1e-3)).toBe(true)
    const missing = column(strands.kind, 4, 3).filter((_, i) => onSkin[i])
    expect(Math.max(...missing)).toBeGreaterThan(0.7)
    expect(Math.min(...missing)).toBeLessThan(0.1)
  })

  it('stands outward on both ears, whichever way their faces run', () => {
    for (let i = 0; i < strands.many; i++) {
      if (Math.abs(strands.now[3 * i] ?? 0) < 50) continue
      expect(Math.hypot(...strands.outward.slice(3 * i, 3 * i + 3))).toBeGreaterThan(0.5)
    }
  })
})

describe('the pace', () => {
  it('draws fewer strands on a slow device and more on a quick one', () => {
    expect(paced(FIRST, 200).share).toBeLessThan(FIRST.share)
    expect(paced(FIRST, 5).share).toBeGreaterThan(FIRST.share)
    let pace = FIRST
    for (let i = 0; i < 30; i++) pace = paced(pace, 1500 * pace.share)
    expect(1500 * pace.share).toBeLessThan(110)
    for (let i = 0; i < 30; i++) pace = paced(pace, 15 * pace.share)
    expect(pace.share).toBe(1)
  })

  it('sharpens at rest until all are drawn, or a slow device would be held up', () => {
    expect(sharper(1, 10)).toBeNull()
    expect(sharper(0.1, 20)).toBeCloseTo(0.3)
    expect(sharper(0.5, 3000)).toBeNull()
    expect(sharper(0.03, 3000)).toBeCloseTo(0.09)
    expect(sharper(0.18, 3000)).toBeCloseTo(0.3)
    expect(sharper(0.3, 3000)).toBeNull()
  })
})
