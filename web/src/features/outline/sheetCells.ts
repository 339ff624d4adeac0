import type { Outline, Photo } from '../../api/client'
import { boxOf, levelled, onSheet, widened, type Box, type Levelled } from '../../sheet/level'
import type { Line } from '../../sheet/lines'

export type Side = 'left' | 'right'
export type CellName = 'front' | 'side' | 'top'

/** One view of the aligned sheet: over its photo where there is one, else from the numbers alone. */
export type Cell = {
  readonly name: CellName
  readonly words: string
  readonly box: Box
  readonly photo?: { photo: Photo; lines: Outline['photos'][number]; at: Levelled }
  readonly drawn: { skin: Line; coat: Line; outline: Line }
}

const MARGIN_MM = 9
const SHOWN = { front: ['front'], top: ['top'] } as const
const sidesFrom = (side: Side) =>
  side === 'left' ? (['left', 'right'] as const) : (['right', 'left'] as const)
const FROM_SHEET: Readonly<Record<CellName, string>> = { front: 'front', side: 'left', top: 'top' }

/** The sheet's lines moved so that the eyes' middle is the origin; from above with the nose pointing down. */
function drawnLines(drawing: Outline, name: CellName) {
  const [x, y, z] = drawing.eyes_mm
  const move: Readonly<Record<CellName, (p: readonly number[]) => [number, number]>> = {
    front: ([a = 0, b = 0]) => [a + x, b + z],
    side: ([a = 0, b = 0]) => [a + y, b + z],
    top: ([a = 0, b = 0]) => [x - a, -(b + y)],
  }
  const lines = drawing.sheet[FROM_SHEET[name]] ?? {}
  const of = (id: string) => (lines[id] ?? []).map(move[name])
  return { skin: of('skin'), coat: of('coat'), outline: of('outline') }
}

/** Front and side share heights, front and top share widths. */
export function cellsOf(
  drawing: Outline,
  photos: readonly Photo[],
  side: Side = 'left',
): Record<CellName, Cell> {
  const cell = (name: CellName): Cell => {
    const drawn = drawnLines(drawing, name)
    for (const view of name === 'side' ? sidesFrom(side) : SHOWN[name]) {
      const photo = photos.find((p) => p.view === view && p.state === 'dry')
      const lines = drawing.photos.find((l) => l.photo_id === photo?.id)
      const level = drawing.levels.find((l) => l.photo_id === photo?.id)
      if (!photo || !lines || !level) continue
      const at = levelled(level)
      const box = widened(boxOf(onSheet(lines.coat_on_head, at)), MARGIN_MM)
      return { name, words: view, box, photo: { photo, lines, at }, drawn }
    }
    return { name, words: `${name}, from the numbers`, box: widened(boxOf(drawn.coat), MARGIN_MM), drawn }
  }
  return aligned({ front: cell('front'), side: cell('side'), top: cell('top') })
}

function aligned(cells: Record<CellName, Cell>): Record<CellName, Cell> {
  const { front, side, top } = cells
  const upper = {
    top: Math.min(front.box.top, side.box.top),
    bottom: Math.max(front.box.bottom, side.box.bottom),
  }
  const half = Math.max(-front.box.left, front.box.right, -top.box.left, top.box.right)
  const wide = { left: -half, right: half }
  return {
    front: { ...front, box: { ...upper, ...wide } },
    side: { ...side, box: { ...side.box, ...upper } },
    top: { ...top, box: { ...top.box, ...wide } },
  }
}
