export type Line = readonly (readonly number[])[]

/** A closed line as a smooth SVG path (Catmull–Rom through the points). */
export function smoothPath(line: Line): string {
  const n = line.length
  if (n < 3) return ''
  const at = (i: number) => line[(i + n) % n] as readonly [number, number]
  let path = `M${at(0)[0]} ${at(0)[1]}`
  for (let i = 0; i < n; i++) {
    const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)]
    const x1 = b[0] + (c[0] - a[0]) / 6
    const y1 = b[1] + (c[1] - a[1]) / 6
    const x2 = c[0] - (d[0] - b[0]) / 6
    const y2 = c[1] - (d[1] - b[1]) / 6
    path += `C${x1.toFixed(1)} ${y1.toFixed(1)} ${x2.toFixed(1)} ${y2.toFixed(1)} ${c[0]} ${c[1]}`
  }
  return `${path}Z`
}

/** A closed line's straight path. */
export const plainPath = (line: Line) =>
  line.length < 3 ? '' : `M${line.map((p) => `${p[0]} ${p[1]}`).join('L')}Z`

const SLANT = 0.6

/**
 * Short hairs standing off a line, `gap` apart and `size` long, leaning the way the line runs.
 * Stretches along the photo's frame (inside `frame` px) carry none: the coat does not end there.
 */
export function furryPath(
  line: Line,
  size: number,
  gap: number,
  frame?: { width: number; height: number },
): string {
  const clockwise = signedArea(line) > 0 ? 1 : -1
  let path = ''
  let left = 0
  for (let i = 0; i < line.length; i++) {
    const [x1 = 0, y1 = 0] = line[i] ?? []
    const [x2 = 0, y2 = 0] = line[(i + 1) % line.length] ?? []
    const long = Math.hypot(x2 - x1, y2 - y1)
    if (long === 0) continue
    const [ux, uy] = [(x2 - x1) / long, (y2 - y1) / long]
    const [nx, ny] = [uy * clockwise, -ux * clockwise]
    for (; left < long; left += gap) {
      const [x, y] = [x1 + ux * left, y1 + uy * left]
      if (frame && (x < 4 || y < 4 || x > frame.width - 4 || y > frame.height - 4)) continue
      path += `M${x.toFixed(1)} ${y.toFixed(1)}l${((nx + ux * SLANT) * size).toFixed(1)} ${((ny + uy * SLANT) * size).toFixed(1)}`
    }
    left -= long
  }
  return path
}

/** Twice the area, positive where the line runs clockwise on the screen. */
export function signedArea(line: Line): number {
  return line.reduce((sum, [x1 = 0, y1 = 0], i) => {
    const [x2 = 0, y2 = 0] = line[(i + 1) % line.length] ?? []
    return sum + x1 * y2 - x2 * y1
  }, 0)
}
