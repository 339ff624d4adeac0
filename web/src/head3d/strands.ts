import type { Left, Solid } from './unpack'

/**
 * Hair strand by strand: where each is rooted, how deep it stands now, finished and weeks on, its colour and its own
 * little differences. The same head gives the same strands.
 */
export type Strands = {
  readonly many: number
  /** Roots (3 each): on the skin all three are one; an ear's surface moves as it is cut. */
  readonly now: Float32Array
  readonly cut: Float32Array
  readonly ahead: Float32Array
  readonly outward: Float32Array
  /** Depth now, cut, ahead, mm. */
  readonly depths: Float32Array
  readonly colour: Float32Array
  /** Three numbers of its own, 0 to 1. */
  readonly own: Float32Array
  /** Depth against length, how whole it is (a neck fades), how much comes off and how much is missing, 0 to 1. */
  readonly kind: Float32Array
}

const ON_EARS_MM = 5
const VELVET_MM = 1.4
const MOST_OFF_MM = 30
const MOST_SHORT_MM = 12
/** Strands on the head and its ears, and on the neck. */
export const MOST_STRANDS = 70_000
const NECK_SHARE = 0.22
/** Hair of the neck lies flatter than the comb lifts it. */
const LIES_ON_NECK = 0.45

/** Numbers from 0 to 1, the same ones every time. */
function numbers(seed: number) {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

type Faces = { readonly faces: Uint16Array; readonly positions: Float32Array }

/** For every strand a face, by its area, and where in it: a strand further on is anywhere, so that a few are enough. */
function scattered({ faces, positions }: Faces, many: number, next: () => number) {
  const ends = new Float64Array(faces.length / 3)
  let total = 0
  for (let f = 0; f < ends.length; f++) ends[f] = total += area(faces, positions, f)
  const corners = new Uint32Array(3 * many)
  const weights = new Float32Array(3 * many)
  for (let i = 0; i < many; i++) {
    const f = found(ends, next() * total)
    const [a, b] = [next(), next()]
    const [u, v] = a + b > 1 ? [1 - a, 1 - b] : [a, b]
    for (let k = 0; k < 3; k++) corners[3 * i + k] = faces[3 * f + k] ?? 0
    weights.set([1 - u - v, u, v], 3 * i)
  }
  return { corners, weights }
}

function area(faces: Uint16Array, at: Float32Array, f: number): number {
  const [a, b, c] = [0, 1, 2].map((k) => 3 * (faces[3 * f + k] ?? 0)) as [number, number, number]
  const one = [0, 1, 2].map((k) => (at[b + k] ?? 0) - (at[a + k] ?? 0)) as [number, number, number]
  const two = [0, 1, 2].map((k) => (at[c + k] ?? 0) - (at[a + k] ?? 0)) as [number, number, number]
  return Math.hypot(
    one[1] * two[2] - one[2] * two[1],
    one[2] * two[0] - one[0] * two[2],
    one[0] * two[1] - one[1] * two[0],
  )
}

function found(ends: Float64Array, value: number): number {
  let [low, high] = [0, ends.length - 1]
  while (low < high) {
    const middle = (low + high) >> 1
    if ((ends[middle] ?? 0) < value) low = middle + 1
    else high = middle
  }
  return low
}

/** What vertices carry (width numbers each), at every strand. */
function carried(from: Float32Array, width: number, corners: Uint32Array, weights: Float32Array) {
  const many = corners.length / 3
  const out = new Float32Array(width * many)
  for (let i = 0; i < many; i++) {
    for (let k = 0; k < 3; k++) {
      const [at, w] = [width * (corners[3 * i + k] ?? 0), weights[3 * i + k] ?? 0]
      for (let j = 0; j < width; j++) out[width * i + j] = (out[width * i + j] ?? 0) + w * (from[at + j] ?? 0)
    }
  }
  return out
}

const joined = (...parts: Float32Array[]) => {
  const all = new Float32Array(parts.reduce((n, p) => n + p.length, 0))
  let at = 0
  for (const part of parts) {
    all.set(part, at)
    at += part.length
  }
  return all
}

/** Strands of the head, its ears and its neck. */
export function strandsOf(solid: Solid, left: Left, ahead: Left, most = MOST_STRANDS): Strands {
  const next = numbers(7)
  const many = solid.skin.length / 3
  const ears = solid.ears.length / 3
  const [now, cut, later] = [solid.ears, left.ears, ahead.ears].map((e) => joined(solid.skin, e))
  const worn = joined(solid.skin, solid.ears)
  const onHead = Math.round(most * (1 - NECK_SHARE))
  const { corners, weights } = scattered({ faces: grown(solid), positions: worn }, onHead, next)
  const head = (from: Float32Array, width: number) => carried(from, width, corners, weights)
  const onEars = new Float32Array(ears).fill(ON_EARS_MM)
  const depths = [solid.coat, left.leave, ahead.leave].map((d) => head(joined(velvet(d), onEars), 1))
  const outward = head(joined(solid.outward, earsOutward(solid)), 3)
  const off = new Float32Array(many + ears)
  const short = new Float32Array(many + ears)
  for (let v = 0; v < many; v++) {
    off[v] = Math.min(Math.max((solid.coat[v] ?? 0) - (left.leave[v] ?? 0), 0) / MOST_OFF_MM, 1)
    short[v] = Math.min((left.short[v] ?? 0) / MOST_SHORT_MM, 1)
  }
  const stand = head(joined(solid.stand, new Float32Array(ears).fill(0.5)), 1)
  const kinds = [stand, new Float32Array(onHead).fill(1), head(off, 1), head(short, 1)]
  const neck = neckStrands(solid, most - onHead, next)
  return inAnyOrder(
    {
      many: most,
      now: joined(head(now ?? worn, 3), neck.at),
      cut: joined(head(cut ?? worn, 3), neck.at),
      ahead: joined(head(later ?? worn, 3), neck.at),
      outward: joined(outward, neck.outward),
      depths: joined(woven(depths), neck.depths),
      colour: joined(head(solid.colours, 3), neck.colour),
      own: Float32Array.from({ length: 3 * most }, next),
      kind: joined(woven(kinds), neck.kind),
    },
    next,
  )
}

/** Within the leather of the nose, or an eye's opening. */
function naked(solid: Solid): (v: number) => boolean {
  const places = [
    ...solid.eyes.map((at) => ({ at, reach: 0.5 * solid.eyeWide })),
    { at: solid.nose, reach: 0.5 * solid.noseWide },
  ]
  return (v) =>
    Boolean(solid.bare[v]) &&
    places.some(
      ({ at, reach }) =>
        Math.hypot(...[0, 1, 2].map((k) => (solid.skin[3 * v + k] ?? 0) - (at[k] ?? 0))) < reach,
    )
}

/** Faces on which hair grows: the leather and the eyes' openings are left out. */
function grown(solid: Solid): Uint16Array {
  const none = naked(solid)
  const kept: number[] = []
  for (let f = 0; f < solid.faces.length; f += 3) {
    const corners = [0, 1, 2].map((k) => solid.faces[f + k] ?? 0)
    if (!corners.every(none)) kept.push(...corners)
  }
  return Uint16Array.from(kept)
}

/** The shortest hair that is seen as hair: round leather and lids there is velvet. */
const velvet = (depth: Float32Array) => depth.map((mm) => Math.max(mm, VELVET_MM))

/** Outward ways of the ears' vertices, from their faces. */
function earsOutward(solid: Solid): Float32Array {
  const first = solid.skin.length / 3
  const out = new Float32Array(solid.ears.length)
  const at = (v: number, k: number) => solid.ears[3 * (v - first) + k] ?? 0
  for (let f = 0; f < solid.faces.length; f += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => solid.faces[f + k] ?? 0) as [number, number, number]
    if (a < first) continue
    const one = [0, 1, 2].map((k) => at(b, k) - at(a, k)) as [number, number, number]
    const two = [0, 1, 2].map((k) => at(c, k) - at(a, k)) as [number, number, number]
    const way = [
      one[1] * two[2] - one[2] * two[1],
      one[2] * two[0] - one[0] * two[2],
      one[0] * two[1] - one[1] * two[0],
    ]
    for (const v of [a, b, c])
      for (let k = 0; k < 3; k++) out[3 * (v - first) + k] = (out[3 * (v - first) + k] ?? 0) + (way[k] ?? 0)
  }
  // Each ear is closed, whichever way its faces run: most of its surface looks away from its middle.
  for (const half of [0, out.length / 2]) turnOutward(solid.ears, out, half, half + out.length / 2)
  for (let v = 0; v < out.length; v += 3) {
    const long = Math.hypot(out[v] ?? 0, out[v + 1] ?? 0, out[v + 2] ?? 0) || 1
    for (let k = 0; k < 3; k++) out[v + k] = (out[v + k] ?? 0) / long
  }
  return out
}

function turnOutward(at: Float32Array, ways: Float32Array, first: number, end: number) {
  const middle = [0, 0, 0]
  for (let i = first; i < end; i++) middle[i % 3] = (middle[i % 3] ?? 0) + ((at[i] ?? 0) * 3) / (end - first)
  let sum = 0
  for (let i = first; i < end; i++) sum += (ways[i] ?? 0) * ((at[i] ?? 0) - (middle[i % 3] ?? 0))
  if (sum < 0) for (let i = first; i < end; i++) ways[i] = -(ways[i] ?? 0)
}

function neckStrands(solid: Solid, many: number, next: () => number) {
  const { neck } = solid
  const { corners, weights } = scattered(neck, many, next)
  const here = (from: Float32Array, width: number) => carried(from, width, corners, weights)
  const like = (of: Float32Array, width: number) => {
    const out = new Float32Array(width * neck.like.length)
    neck.like.forEach((v, i) => out.set(of.subarray(width * v, width * v + width), width * i))
    return out
  }
  const fade = here(neck.fade, 1)
  const none = new Float32Array(many)
  return {
    at: here(neck.positions, 3),
    outward: here(neck.outward, 3),
    // The body keeps its coat: the head is set off from it.
    depths: woven([solid.coat, solid.coat, solid.coat].map((d) => here(like(d, 1), 1))),
    colour: here(like(solid.colours, 3), 3),
    kind: woven([here(like(solid.stand, 1), 1).map((s) => Math.min(s, LIES_ON_NECK)), fade, none, none]),
  }
}

/** Columns side by side: a strand's numbers lie together. */
function woven(columns: Float32Array[]): Float32Array {
  const [width, many] = [columns.length, columns[0]?.length ?? 0]
  const out = new Float32Array(width * many)
  columns.forEach((column, j) => column.forEach((value, i) => (out[width * i + j] = value)))
  return out
}

/** Shuffled, so that any first few of them cover head and neck alike. */
function inAnyOrder(strands: Strands, next: () => number): Strands {
  const order = Uint32Array.from({ length: strands.many }, (_, i) => i)
  for (let i = order.length - 1; i > 0; i--) {
    const j = Math.floor(next() * (i + 1))
    const held = order[i] ?? 0
    order[i] = order[j] ?? 0
    order[j] = held
  }
  const put = (from: Float32Array) => {
    const width = from.length / strands.many
    const out = new Float32Array(from.length)
    order.forEach((from_, i) => out.set(from.subarray(width * from_, width * from_ + width), width * i))
    return out
  }
  const { many, now, cut, ahead, outward, depths, colour, own, kind } = strands
  return {
    many,
    now: put(now),
    cut: put(cut),
    ahead: put(ahead),
    outward: put(outward),
    depths: put(depths),
    colour: put(colour),
    own: put(own),
    kind: put(kind),
  }
}
