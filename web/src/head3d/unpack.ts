import type { Mesh, Outline } from '../api/client'

/** The head as numbers: positions in mm, head frame (x to the dog's right, y forward, z up). */
export type Solid = {
  readonly ground: string
  readonly skin: Float32Array
  readonly outward: Float32Array
  readonly coat: Float32Array
  readonly ears: Float32Array
  readonly faces: Uint16Array
  readonly bare: Uint8Array
  readonly eyes: readonly (readonly number[])[]
  readonly nose: readonly number[]
}

const STEP_MM = 0.05
const UNIT_STEPS = 16384

export function unpackMesh(mesh: Mesh): Solid {
  return {
    ground: mesh.ground,
    skin: lengths(mesh.skin, mesh.step_mm),
    outward: lengths(mesh.outward, 1 / UNIT_STEPS),
    coat: lengths(mesh.coat, mesh.step_mm),
    ears: lengths(mesh.ears, mesh.step_mm),
    faces: new Uint16Array(bytes(mesh.faces).buffer),
    bare: bytes(mesh.bare),
    eyes: mesh.eyes_mm,
    nose: mesh.nose_mm,
  }
}

/** What a setting leaves on the solid: depths and missing hair (V) mm, ears (mm). */
export type Left = { readonly leave: Float32Array; readonly short: Float32Array; readonly ears: Float32Array }

export const unpackDepths = (depths: Outline['depths']): Left => ({
  leave: lengths(depths.leave, STEP_MM),
  short: lengths(depths.short, STEP_MM),
  ears: lengths(depths.ears, STEP_MM),
})

function bytes(packed: string): Uint8Array<ArrayBuffer> {
  const text = atob(packed)
  const found = new Uint8Array(text.length)
  for (let i = 0; i < text.length; i++) found[i] = text.charCodeAt(i)
  return found
}

function lengths(packed: string, step: number): Float32Array {
  const whole = new Int16Array(bytes(packed).buffer)
  return Float32Array.from(whole, (n) => n * step)
}

/** Skin with so much hair on it, then the ears: the positions of one surface of the head. */
export function surfaceOf(solid: Solid, depth: Float32Array, ears: Float32Array): Float32Array {
  const positions = new Float32Array(solid.skin.length + ears.length)
  for (let v = 0; v < depth.length; v++) {
    for (let k = 0; k < 3; k++) {
      const i = 3 * v + k
      positions[i] = (solid.skin[i] ?? 0) + (depth[v] ?? 0) * (solid.outward[i] ?? 0)
    }
  }
  positions.set(ears, solid.skin.length)
  return positions
}

type Colour = readonly [number, number, number]
const HAIR: Colour = [0.86, 0.8, 0.68]
const OFF: Colour = [0.85, 0.28, 0.17]
const MISSING: Colour = [0.11, 0.38, 0.68]
const LEATHER: Colour = [0.12, 0.1, 0.1]
const LID: Colour = [0.55, 0.47, 0.4]
const NOSE_REACH_MM = 17
/** So much coming off is coloured fully. */
const MOST_OFF_MM = 30
const MOST_SHORT_MM = 12

const mixed = (a: Colour, b: Colour, share: number): Colour => [
  a[0] + (b[0] - a[0]) * share,
  a[1] + (b[1] - a[1]) * share,
  a[2] + (b[2] - a[2]) * share,
]

function nearNose(solid: Solid, v: number): boolean {
  const off = [0, 1, 2].map((k) => (solid.skin[3 * v + k] ?? 0) - (solid.nose[k] ?? 0))
  return Math.hypot(...off) < NOSE_REACH_MM
}

/** Each vertex coloured by how much comes off there, or is missing. */
export function coloursOf(solid: Solid, left: Left): Float32Array {
  const colours = new Float32Array(solid.skin.length + left.ears.length)
  const paint = (v: number, colour: Colour) => colours.set(colour, 3 * v)
  for (let v = 0; v < left.leave.length; v++) {
    const off = Math.max((solid.coat[v] ?? 0) - (left.leave[v] ?? 0), 0) / MOST_OFF_MM
    const short = (left.short[v] ?? 0) / MOST_SHORT_MM
    if (solid.bare[v]) paint(v, nearNose(solid, v) ? LEATHER : LID)
    else paint(v, mixed(mixed(HAIR, OFF, Math.min(off, 1)), MISSING, Math.min(short, 1)))
  }
  const first = left.leave.length
  for (let e = 0; e < left.ears.length / 3; e++) {
    const gone = Math.hypot(
      ...[0, 1, 2].map((k) => (solid.ears[3 * e + k] ?? 0) - (left.ears[3 * e + k] ?? 0)),
    )
    paint(first + e, mixed(HAIR, OFF, Math.min(gone / MOST_OFF_MM, 1)))
  }
  return colours
}
