import type { HeadScene, Stand } from './scene'

/** Pictures to keep: twice as fine as on the screen. */
const STILL_PX = 1600
const SMALL_PX = 700
/** Small pictures need fewer strands. */
const SMALL_SHARE = 0.45
const ROUND = [0, 45, 90, 135, 180, 225, 270, 315] as const
const COLUMNS = 4
const PAPER = '#fdfaf0'

const asPng = (canvas: HTMLCanvasElement) =>
  new Promise<Blob>((resolve, reject) =>
    canvas.toBlob(
      (blob) => (blob ? resolve(blob) : reject(new Error('This device makes no pictures.'))),
      'image/png',
    ),
  )

function paper(width: number, height: number) {
  const canvas = document.createElement('canvas')
  canvas.width = width
  canvas.height = height
  const brush = canvas.getContext('2d')
  if (!brush) throw new Error('This device makes no pictures.')
  brush.fillStyle = PAPER
  brush.fillRect(0, 0, width, height)
  return { canvas, brush }
}

/** The head as it stands, on paper. */
export function still(scene: HeadScene, stand: Stand): Promise<Blob> {
  const { canvas, brush } = paper(STILL_PX, STILL_PX)
  brush.drawImage(scene.pictured(stand, STILL_PX, 1), 0, 0)
  return asPng(canvas)
}

/** The head from eight sides on one sheet, one after the other: the screen is not held up for all of them at once. */
export async function eightSides(scene: HeadScene, stand: Stand): Promise<Blob> {
  const rows = ROUND.length / COLUMNS
  const { canvas, brush } = paper(COLUMNS * SMALL_PX, rows * SMALL_PX)
  for (const [i, round] of ROUND.entries()) {
    const view = scene.pictured({ ...stand, round }, SMALL_PX, SMALL_SHARE)
    brush.drawImage(view, (i % COLUMNS) * SMALL_PX, Math.floor(i / COLUMNS) * SMALL_PX)
    await new Promise((resolve) => window.setTimeout(resolve))
  }
  return asPng(canvas)
}
