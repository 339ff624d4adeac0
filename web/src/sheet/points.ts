/** Points of one frame are never mixed with another's by accident. */
declare const frame: unique symbol
type Framed<F extends string> = { readonly x: number; readonly y: number; readonly [frame]: F }

/** px of the photo as taken (after EXIF orientation), origin at its top-left corner. */
export type ImagePoint = Framed<'image'>
/** CSS px of the browser window. */
export type ScreenPoint = Framed<'screen'>

export const imagePoint = (x: number, y: number) => ({ x, y }) as ImagePoint
export const screenPoint = (x: number, y: number) => ({ x, y }) as ScreenPoint

/** The one way from the window into a photo: through the own transform of the drawing, or of a group laid on it. */
export function toImage(svg: SVGGraphicsElement, at: ScreenPoint): ImagePoint {
  const matrix = svg.getScreenCTM()
  if (!matrix) return imagePoint(0, 0)
  const p = new DOMPoint(at.x, at.y).matrixTransform(matrix.inverse())
  return imagePoint(p.x, p.y)
}
