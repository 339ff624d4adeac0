import type { Schemas } from '../api/client'
import type { Line } from './lines'

/** A photo laid on the drafting sheet: mm, origin between the eyes, the head's up pointing up. */
export type Levelled = {
  readonly transform: string
  readonly pxPerMm: number
  toSheet(point: readonly number[]): [number, number]
}

/** From the solved camera's eye point and the picture of one mm upward there. */
export function levelled(level: Schemas['LevelOut']): Levelled {
  const [ux, uy] = level.px_per_mm_up
  const [ex, ey] = level.at
  const pxPerMm = Math.hypot(ux, uy)
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

export function boxOf(points: readonly (readonly number[])[]): Box {
  const xs = points.map((p) => p[0] ?? 0)
  const ys = points.map((p) => p[1] ?? 0)
  return { left: Math.min(...xs), top: Math.min(...ys), right: Math.max(...xs), bottom: Math.max(...ys) }
}

export const onSheet = (line: Line, at: Levelled) => line.map((p) => at.toSheet(p))

export const widened = (box: Box, mm: number): Box => ({
  left: box.left - mm,
  top: box.top - mm,
  right: box.right + mm,
  bottom: box.bottom + mm,
})

export const viewBox = (box: Box) =>
  [box.left, box.top, box.right - box.left, box.bottom - box.top].map((mm) => mm.toFixed(1)).join(' ')
