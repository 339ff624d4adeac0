import { screenUrl, type Photo } from '../../api/client'
import type { ImagePoint } from '../../sheet/points'

const SIZE_PX = 168
const MAGNIFIES = 3
const OFF_THE_FINGER_PX = 26

/** A round of the photo, three times as large, up and aside from the finger so that it is not covered. */
export function Loupe({ photo, at, svg }: { photo: Photo; at: ImagePoint; svg: SVGSVGElement }) {
  const matrix = svg.getScreenCTM()
  const box = svg.getBoundingClientRect()
  if (!matrix) return null
  const where = new DOMPoint(at.x, at.y).matrixTransform(matrix)
  const [x, y] = [where.x - box.left, where.y - box.top]
  const reach = SIZE_PX / (matrix.a * MAGNIFIES)
  const left = x > SIZE_PX + OFF_THE_FINGER_PX ? x - SIZE_PX - OFF_THE_FINGER_PX : x + OFF_THE_FINGER_PX
  const top = Math.min(Math.max(y - SIZE_PX - OFF_THE_FINGER_PX, 4), box.height - SIZE_PX - 4)
  return (
    <svg
      aria-hidden
      data-loupe
      width={SIZE_PX}
      height={SIZE_PX}
      viewBox={`${at.x - reach / 2} ${at.y - reach / 2} ${reach} ${reach}`}
      className="pointer-events-none absolute rounded-full border-4 border-tape bg-[#20302b] shadow-lg"
      style={{ left, top }}
    >
      <image href={screenUrl(photo)} width={photo.width_px} height={photo.height_px} />
      <path
        d={`M${at.x - reach / 2} ${at.y}h${reach * 0.44}m${reach * 0.12} 0h${reach * 0.44}M${at.x} ${at.y - reach / 2}v${reach * 0.44}m0 ${reach * 0.12}v${reach * 0.44}`}
        stroke="#f2c230"
        strokeWidth={reach / 120}
      />
    </svg>
  )
}
