import type { Schemas } from '../api/client'
import type { Line } from './lines'

/** A photo laid on the drafting sheet: mm, origin between the eyes, the head's up pointing up. */
export type Levelled = {
  readonly transform: string
  readonly pxPerMm: number
  toSheet(point: readonly number[]): [number, number]
}

/** From the solved camera's eye point and the picture of one mm upward there. upMm: how far the handle stands off the eyes. */
export function levelled(handle: Schemas['HandleOut'], upMm: number): Levelled {
  const [ux, uy] = handle.px_per_mm_up
  const pxPerMm = Math.hypot(ux, uy)
  const [ex, ey] = [handle.at[0] - ux * upMm, handle.at[1] - uy * upMm]
  const turn = Math.atan2(ux, -uy)
  const [c, s] = [Math.cos(-turn) / pxPerMm, Math.sin(-turn) / pxPerMm]
  return {
    pxPerMm,
    // Rounded, so that a redrawing that moved nothing is seen to have moved nothing.
    transform: `scale(${(1 / pxPerMm).toFixed(5)}) rotate(${((-turn * 180) / Math.PI).toFixed(2)}) translate(${(-ex).toFixed(1)} ${(-ey).toFixed(1)})`,
    toSheet: ([x = 0, y = 0]) => [c * (x - ex) - s * (y - ey), s * (x - ex) + c * (y - ey)],
  }
}

export type Box = { left: number; top: number; right: number; bottom: number }

export function boxOf(points: readonly (readonly [number, number])[]): Box {
  const xs = points.map((p) => p[0])
  const ys = points.map((p) => p[1])
  return { left: Math.min(...xs), top: Math.min(...ys), right: Math.max(...xs), bottom: Math.max(...ys) }
}

export const onSheet = (line: Line, at: Levelled) => line.map((p) => at.toSheet(p))
