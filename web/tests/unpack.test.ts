import { describe, expect, it } from 'vitest'
import type { Mesh } from '../src/api/client'
import { coloursOf, surfaceOf, unpackDepths, unpackMesh } from '../src/head3d/unpack'

const packed = (values: number[], kind: typeof Int16Array | typeof Uint16Array | typeof Uint8Array) =>
  btoa(String.fromCharCode(...new Uint8Array(kind.from(values).buffer)))

const mesh = {
  ground: 'abc',
  step_mm: 0.05,
  skin: packed([200, 0, -400, 0, 0, 0], Int16Array),
  outward: packed([16384, 0, 0, 0, -16384, 0], Int16Array),
  coat: packed([400, 0], Int16Array),
  ears: packed([20, 40, 60], Int16Array),
  faces: packed([0, 1, 2], Uint16Array),
  bare: packed([0, 1], Uint8Array),
  eyes_mm: [[1, 2, 3]],
  nose_mm: [4, 5, 6],
} as unknown as Mesh

describe('the solid head', () => {
  it('is unpacked into millimetres', () => {
    const solid = unpackMesh(mesh)
    expect([...solid.skin].map((v) => Math.round(v * 100) / 100)).toEqual([10, 0, -20, 0, 0, 0])
    expect([...solid.outward]).toEqual([1, 0, 0, 0, -1, 0])
    expect([...solid.faces]).toEqual([0, 1, 2])
  })

  it('carries its hair outward from the skin', () => {
    const solid = unpackMesh(mesh)
    const surface = surfaceOf(solid, Float32Array.from([5, 2]), solid.ears)
    expect([...surface].map((v) => Math.round(v * 100) / 100)).toEqual([15, 0, -20, 0, -2, 0, 1, 2, 3])
  })

  it('is coloured most where most comes off, and not on the nose', () => {
    const solid = unpackMesh(mesh)
    const left = unpackDepths({
      leave: packed([100, 0], Int16Array),
      short: packed([0, 0], Int16Array),
      ears: mesh.ears,
    })
    const much = coloursOf(solid, left)
    const none = coloursOf(solid, { ...left, leave: solid.coat })
    expect(much[1]).toBeLessThan(none[1] ?? 0)
    expect([...much.slice(3, 6)]).toEqual([...none.slice(3, 6)])
  })
})
