import type { Mesh, Outline } from '../api/client'

type Place = readonly number[]

/** The head as numbers: positions in mm, head frame (x to the dog's right, y forward, z up); colours 0 to 1. */
export type Solid = {
  readonly ground: string
  readonly skin: Float32Array
  readonly outward: Float32Array
  readonly coat: Float32Array
  readonly ears: Float32Array
  readonly faces: Uint16Array
  readonly bare: Uint8Array
  readonly colours: Float32Array
  readonly leather: Place
  readonly stand: Float32Array
  readonly coatType: string
  readonly eyes: readonly Place[]
  readonly eyeWide: number
  readonly nose: Place
  readonly noseWide: number
  readonly lips: readonly (readonly Place[])[]
  readonly neck: Neck
}

/** A neck to draw: like: the skin's vertex whose hair and colour each of its own has. */
export type Neck = {
  readonly positions: Float32Array
  readonly outward: Float32Array
  readonly faces: Uint16Array
  readonly fade: Float32Array
  readonly like: Uint16Array
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
    faces: shorts(mesh.faces),
    bare: bytes(mesh.bare),
    colours: shares(mesh.colours, 255),
    leather: mesh.leather.map((one) => one / 255),
    stand: shares(mesh.stand, 100),
    coatType: mesh.coat_type,
    eyes: mesh.eyes_mm,
    eyeWide: mesh.eye_wide_mm,
    nose: mesh.nose_mm,
    noseWide: mesh.nose_wide_mm,
    lips: mesh.lips_mm,
    neck: {
      positions: lengths(mesh.neck.positions, mesh.step_mm),
      outward: lengths(mesh.neck.outward, 1 / UNIT_STEPS),
      faces: shorts(mesh.neck.faces),
      fade: shares(mesh.neck.fade, 255),
      like: shorts(mesh.neck.like),
    },
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

const shorts = (packed: string) => new Uint16Array(bytes(packed).buffer)
const shares = (packed: string, whole: number) => Float32Array.from(bytes(packed), (n) => n / whole)

function lengths(packed: string, step: number): Float32Array {
  const whole = new Int16Array(bytes(packed).buffer)
  return Float32Array.from(whole, (n) => n * step)
}

/** Skin with so much hair on it, then the ears: the positions of one surface of the head. */
export function surfaceOf(solid: Solid, depth: Float32Array, ears: Float32Array, share = 1): Float32Array {
  const positions = new Float32Array(solid.skin.length + ears.length)
  for (let v = 0; v < depth.length; v++) {
    for (let k = 0; k < 3; k++) {
      const i = 3 * v + k
      positions[i] = (solid.skin[i] ?? 0) + share * (depth[v] ?? 0) * (solid.outward[i] ?? 0)
    }
  }
  positions.set(ears, solid.skin.length)
  return positions
}
