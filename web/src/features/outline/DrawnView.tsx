import type { Outline } from '../../api/client'
import { viewBox } from '../../sheet/level'
import { furryPath, plainPath, smoothPath } from '../../sheet/lines'
import { Rulers } from './Rulers'
import type { Cell } from './sheetCells'

const HAIR_MM = 4.2
const HAIR_GAP_MM = 1.9

type Props = { dogName: string; cell: Cell; drawing: Outline }

/** A view that no photo was taken of, from the numbers alone. */
export function DrawnView({ dogName, cell, drawing }: Props) {
  const { skin, coat, outline } = cell.drawn
  return (
    <svg
      viewBox={viewBox(cell.box)}
      className="absolute inset-0 size-full"
      role="img"
      aria-label={`${dogName}, ${cell.words}: ${drawing.name} outline`}
      data-drawn={cell.name}
    >
      <path
        d={plainPath(coat) + smoothPath(outline)}
        fill="var(--color-off)"
        fillOpacity="0.18"
        fillRule="evenodd"
      />
      <path
        d={furryPath(coat, HAIR_MM, HAIR_GAP_MM)}
        stroke="var(--color-coat)"
        strokeWidth="0.6"
        fill="none"
      />
      <path d={smoothPath(skin)} fill="none" stroke="var(--color-skin)" strokeWidth="0.8" />
      <path
        d={smoothPath(outline)}
        fill="none"
        stroke="var(--color-cut)"
        strokeWidth="2"
        data-line="outline-drawn"
      />
      <Rulers frame={cell.box} level={cell.name !== 'top'} centre={cell.name !== 'side'} />
    </svg>
  )
}
