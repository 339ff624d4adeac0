import type { Photo } from '../../api/client'
import type { EdgeLine, NeckLine } from './edgeMachine'

/** Shorter than this over the photo's width it was a press, not a line. */
const SHORTEST_SHARE = 0.04

/** The straight line from where the hand began to where it let go; none where it only pressed. */
export function neckFrom(points: EdgeLine, width: number): NeckLine | null {
  const [first, last] = [points[0], points.at(-1)]
  if (!first || !last) return null
  return Math.hypot(last[0] - first[0], last[1] - first[1]) < SHORTEST_SHARE * width ? null : [first, last]
}

type Props = { photo: Photo; neck: NeckLine | null; unit: number }

/** A line across the neck with what lies beyond it in the shade: that part of the edge is not used. */
export function NeckDrawing({ photo, neck, unit }: Props) {
  if (!neck) return null
  const [[ax, ay], [bx, by]] = neck
  const long = Math.hypot(bx - ax, by - ay)
  const [ux, uy] = [(bx - ax) / long, (by - ay) / long]
  const far = 2 * Math.hypot(photo.width_px, photo.height_px)
  const side = headSide(photo, neck)
  const [nx, ny] = [-uy * -side * far, ux * -side * far]
  const [lx, ly, rx, ry] = [ax - ux * far, ay - uy * far, bx + ux * far, by + uy * far]
  return (
    <g pointerEvents="none" data-neck>
      <path
        d={`M${lx} ${ly} L${rx} ${ry} L${rx + nx} ${ry + ny} L${lx + nx} ${ly + ny} Z`}
        fill="#10241f"
        fillOpacity="0.55"
      />
      <path d={`M${lx} ${ly} L${rx} ${ry}`} stroke="#10241f" strokeWidth={7 * unit} />
      <path
        d={`M${lx} ${ly} L${rx} ${ry}`}
        stroke="#f6f0dd"
        strokeWidth={3 * unit}
        strokeDasharray={`${3 * unit} ${7 * unit}`}
      />
    </g>
  )
}

/** On which side of the line the eyes lie (1 or -1), as they decide it; without them the other marks, else the upper. */
function headSide(photo: Photo, [[ax, ay], [bx, by]]: NeckLine): number {
  const eyes = [photo.marks['eye_inner_left'], photo.marks['eye_inner_right']].filter((m) => m !== undefined)
  const marks = eyes.length ? eyes : Object.values(photo.marks)
  const over = (x: number, y: number) => (bx - ax) * (y - ay) - (by - ay) * (x - ax)
  const sum = marks.reduce((all, { at }) => all + Math.sign(over(at[0], at[1])), 0)
  if (sum) return Math.sign(sum)
  return Math.sign(over((ax + bx) / 2, (ay + by) / 2 - 100)) || 1
}
