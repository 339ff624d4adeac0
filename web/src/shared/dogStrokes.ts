/**
 * One way of drawing a dog's face from its marks: ink for eyes and nose, pencil for lips, muzzle and neck. Flat
 * points, mm, x right and y down; from the side the dog looks to the left or, mirrored, to the right.
 */
export type Point = readonly [number, number]
export type Marks = Readonly<Record<string, Point>>
export type ViewName = 'front' | 'left' | 'right' | 'top'

/** weight: of the line in mm, none where it is filled; tone: what it is drawn with. */
export type Stroke = {
  readonly d: string
  readonly tone: 'ink' | 'pencil' | 'light' | 'paper'
  readonly weight?: number
  readonly filled?: boolean
}

const pencil = (d: string, weight = 0.9): Stroke => ({ d, tone: 'pencil', weight })
const ink = (d: string, weight = 1.3): Stroke => ({ d, tone: 'ink', weight })
const filled = (d: string, tone: Stroke['tone'] = 'ink'): Stroke => ({ d, tone, filled: true })

const n = (value: number) => value.toFixed(1)
const p = ([x, y]: Point) => `${n(x)} ${n(y)}`
const mid = (a: Point, b: Point): Point => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2]
const to = (a: Point, b: Point, t: number): Point => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]
const far = (a: Point, b: Point) => Math.hypot(b[0] - a[0], b[1] - a[1])
const disc = ([x, y]: Point, r: number, tall = r) =>
  `M${n(x - r)} ${n(y)}a${n(r)} ${n(tall)} 0 1 0 ${n(2 * r)} 0a${n(r)} ${n(tall)} 0 1 0 ${n(-2 * r)} 0Z`

/** Every stroke of the face in one view; what its marks do not tell is left out. */
export function faceStrokes(marks: Marks, view: ViewName): readonly Stroke[] {
  if (view === 'front') return front(marks)
  if (view === 'top') return above(marks)
  return profile(marks, view)
}

const UPPER_LID = 0.46
const LOWER_LID = 0.3
const IRIS = 0.3

/** An almond set in its lids: the outer corner a little higher, a light in it. */
function eye(inner: Point | undefined, outer: Point | undefined): Stroke[] {
  if (!inner || !outer) return []
  const long = far(inner, outer)
  if (long < 1) return []
  const across: Point = [(outer[0] - inner[0]) / long, (outer[1] - inner[1]) / long]
  const up: Point = across[0] > 0 ? [across[1], -across[0]] : [-across[1], across[0]]
  const at = (along: number, high: number): Point => [
    inner[0] + across[0] * along * long + up[0] * high * long,
    inner[1] + across[1] * along * long + up[1] * high * long,
  ]
  const tip = at(1, 0.06)
  const upper = `C${p(at(0.22, UPPER_LID))} ${p(at(0.72, UPPER_LID + 0.06))} ${p(tip)}`
  const lower = `C${p(at(0.74, -LOWER_LID))} ${p(at(0.26, -LOWER_LID))} ${p(inner)}`
  return [
    filled(`M${p(inner)}${upper}${lower}Z`, 'paper'),
    filled(disc(at(0.5, 0.05), IRIS * long)),
    filled(disc(at(0.42, 0.16), 0.075 * long), 'paper'),
    ink(`M${p(at(-0.05, -0.03))}${upper}`, 1.9),
    ink(`M${p(tip)}${lower}`, 1),
    pencil(`M${p(at(0.12, 0.52))}C${p(at(0.3, 0.72))} ${p(at(0.66, 0.74))} ${p(at(0.98, 0.46))}`, 0.6),
  ]
}

function front(marks: Marks): Stroke[] {
  const sides = ['left', 'right'] as const
  const strokes = sides.flatMap((side) => [
    ...muzzleSide(marks, side),
    ...eye(marks[`eye_inner_${side}`], marks[`eye_outer_${side}`]),
  ])
  return [...strokes, ...noseFromFront(marks), ...mouthFromFront(marks)]
}

/** From beside the inner corner down past the nose to the lip's corner: the muzzle stands out of the face. */
function muzzleSide(marks: Marks, side: 'left' | 'right'): Stroke[] {
  const [inner, corner, tip] = [marks[`eye_inner_${side}`], marks[`mouth_corner_${side}`], marks['nose_tip']]
  if (!inner || !corner || !tip) return []
  const beside: Point = [to(tip, corner, 0.72)[0], tip[1]]
  return [
    pencil(
      `M${p([to(inner, tip, 0.3)[0], inner[1] + 3])}C${p([beside[0], to(inner, tip, 0.5)[1]])} ${p(beside)} ${p([corner[0], corner[1] - 2])}`,
      0.7,
    ),
  ]
}

const NOSE_OF_EYES = 0.3

/** The nose's half width: of the room between the eyes. */
function noseHalf(marks: Marks): number {
  const [a, b] = [marks['eye_inner_left'], marks['eye_inner_right']]
  const room = a && b ? Math.abs(a[0] - b[0]) : 0
  return Math.min(Math.max(NOSE_OF_EYES * room, 7), 13)
}

/** Leather with its wings, nostrils and the groove below. */
function noseFromFront(marks: Marks): Stroke[] {
  const [tip, top] = [marks['nose_tip'], marks['nose_top']]
  if (!tip || !top) return []
  const [x, half] = [tip[0], noseHalf(marks)]
  const high = Math.min(top[1], tip[1] - 0.35 * half) - 0.3 * half
  const low = Math.max(tip[1] + 0.55 * half, high + 1.2 * half)
  const wing = (s: number) =>
    `C${n(x + s * 0.62 * half)} ${n(high)} ${n(x + s * half)} ${n(high + 0.12 * half)} ${n(x + s * 1.04 * half)} ${n(high + 0.55 * half)}` +
    `C${n(x + s * 1.06 * half)} ${n(low - 0.22 * half)} ${n(x + s * 0.6 * half)} ${n(low - 0.06 * half)} ${n(x + s * 0.2 * half)} ${n(low)}`
  const back = (s: number) =>
    `C${n(x + s * 0.6 * half)} ${n(low - 0.06 * half)} ${n(x + s * 1.06 * half)} ${n(low - 0.22 * half)} ${n(x + s * 1.04 * half)} ${n(high + 0.55 * half)}` +
    `C${n(x + s * half)} ${n(high + 0.12 * half)} ${n(x + s * 0.62 * half)} ${n(high)} ${n(x)} ${n(high)}`
  const nostril = (s: number) => {
    const [cx, cy] = [x + s * 0.5 * half, high + 0.62 * half]
    return ink2(
      `M${n(cx - s * 0.2 * half)} ${n(cy + 0.08 * half)}C${n(cx - s * 0.1 * half)} ${n(cy - 0.2 * half)} ${n(cx + s * 0.22 * half)} ${n(cy - 0.16 * half)} ${n(cx + s * 0.26 * half)} ${n(cy + 0.16 * half)}`,
    )
  }
  return [
    filled(`M${n(x)} ${n(high)}${wing(1)}L${n(x - 0.2 * half)} ${n(low)}${back(-1)}Z`),
    nostril(1),
    nostril(-1),
  ]
}

const ink2 = (d: string): Stroke => ({ d, tone: 'paper', weight: 1.1 })

/** The groove under the nose, the lips hanging to either side of it, the chin between them. */
function mouthFromFront(marks: Marks): Stroke[] {
  const [tip, lip, left, right, chin] = [
    marks['nose_tip'],
    marks['lip_front'],
    marks['mouth_corner_left'],
    marks['mouth_corner_right'],
    marks['chin'],
  ]
  if (!tip || !lip) return []
  const half = noseHalf(marks)
  const from: Point = [lip[0], tip[1] + 0.6 * half]
  const parts: Point = [lip[0], Math.max(lip[1], from[1] + 3)]
  const strokes = [ink(`M${p(from)}L${p(parts)}`, 1.1)]
  for (const corner of [left, right]) {
    if (!corner) continue
    const hangs = Math.max(parts[1], corner[1]) + 0.16 * far(parts, corner) + 2
    strokes.push(
      ink(
        `M${p(parts)}C${n(to(parts, corner, 0.25)[0])} ${n(hangs)} ${n(to(parts, corner, 0.75)[0])} ${n(hangs)} ${p(corner)}`,
        1.1,
      ),
    )
  }
  if (chin && left && right) {
    const [a, b] = [to(chin, left, 0.4), to(chin, right, 0.4)]
    const low = Math.max(chin[1], parts[1] + 6)
    strokes.push(
      pencil(`M${n(a[0])} ${n(low - 2)}Q${n(chin[0])} ${n(low + 2)} ${n(b[0])} ${n(low - 2)}`, 0.7),
    )
  }
  return strokes
}

/** From the side; `ahead` is -1 where the nose points to the left. */
function profile(marks: Marks, side: 'left' | 'right'): Stroke[] {
  const [tip, top, lip, corner] = [
    marks['nose_tip'],
    marks['nose_top'],
    marks['lip_front'],
    marks[`mouth_corner_${side}`],
  ]
  const [inner, outer] = [marks[`eye_inner_${side}`], marks[`eye_outer_${side}`]]
  const jaw = marks[`jaw_angle_${side}`]
  const cheek = marks[`cheek_${side}`]
  const strokes: Stroke[] = []
  if (tip && top) strokes.push(...noseFromSide(tip, top))
  if (tip && lip && corner) strokes.push(...lipFromSide(tip, lip, corner))
  if (inner && outer) strokes.push(...eyeFromSide(inner, outer))
  if (jaw && corner && cheek)
    strokes.push(
      pencil(
        `M${p(to(jaw, corner, 0.15))}C${p(to(jaw, cheek, 0.3))} ${p(to(jaw, cheek, 0.6))} ${p(to(cheek, jaw, 0.15))}`,
        0.6,
      ),
    )
  return strokes
}

function noseFromSide(tip: Point, top: Point): Stroke[] {
  const ahead = tip[0] < top[0] ? -1 : 1
  const size = Math.min(Math.max(far(tip, top), 7), 13)
  const at = (x: number, y: number): Point => [tip[0] + ahead * x * size, tip[1] + y * size]
  const up = Math.min((top[1] - tip[1]) / size, -0.35)
  return [
    filled(
      `M${p(at(-0.75, up - 0.08))}C${p(at(-0.3, up - 0.3))} ${p(at(0.12, up - 0.1))} ${p(at(0.16, up + 0.35))}` +
        `C${p(at(0.2, 0.3))} ${p(at(-0.1, 0.55))} ${p(at(-0.4, 0.62))}C${p(at(-0.5, 0.3))} ${p(at(-0.8, 0.3))} ${p(at(-0.75, up - 0.08))}Z`,
    ),
    ink2(`M${p(at(-0.34, 0.02))}C${p(at(-0.16, -0.2))} ${p(at(0.02, -0.08))} ${p(at(-0.02, 0.14))}`),
  ]
}

function lipFromSide(tip: Point, lip: Point, corner: Point): Stroke[] {
  const long = far(lip, corner)
  const hangs = Math.max(lip[1], corner[1]) + 0.12 * long
  return [
    ink(`M${p([tip[0], tip[1] + 5])}Q${p([lip[0], to(tip, lip, 0.6)[1]])} ${p(lip)}`, 1),
    ink(
      `M${p(lip)}C${n(to(lip, corner, 0.3)[0])} ${n(hangs)} ${n(to(lip, corner, 0.7)[0])} ${n(hangs)} ${p(corner)}` +
        `q${n((corner[0] - lip[0]) * 0.04)} -2 ${n((corner[0] - lip[0]) * 0.02)} -4`,
      1.2,
    ),
  ]
}

const LEAST_EYE_MM = 9

/** Seen from the side an eye is a wedge: open in front, pointed behind. */
function eyeFromSide(inner: Point, outer: Point): Stroke[] {
  const ahead = inner[0] < outer[0] ? -1 : 1
  const [x, y] = mid(inner, outer)
  const half = Math.max(far(inner, outer), LEAST_EYE_MM) / 2
  const at = (a: number, b: number): Point => [x + ahead * a * half, y + b * half]
  const upper = `M${p(at(0.75, -0.1))}C${p(at(0.6, -0.95))} ${p(at(-0.3, -0.9))} ${p(at(-1.05, 0.05))}`
  return [
    filled(`${upper}C${p(at(-0.4, 0.6))} ${p(at(0.5, 0.75))} ${p(at(0.75, -0.1))}Z`, 'paper'),
    filled(disc(at(0.22, -0.08), 0.5 * half, 0.58 * half)),
    filled(disc(at(0.36, -0.28), 0.13 * half), 'paper'),
    ink(upper, 1.8),
    ink(`M${p(at(-1.05, 0.05))}C${p(at(-0.4, 0.6))} ${p(at(0.5, 0.75))} ${p(at(0.75, -0.1))}`, 0.9),
    pencil(`M${p(at(0.7, -1.1))}C${p(at(0.3, -1.55))} ${p(at(-0.5, -1.4))} ${p(at(-1.1, -0.7))}`, 0.6),
  ]
}

function above(marks: Marks): Stroke[] {
  const [tip, top, stop, occiput] = [marks['nose_tip'], marks['nose_top'], marks['stop'], marks['occiput']]
  const strokes: Stroke[] = []
  if (tip && top) {
    const half = noseHalf(marks)
    const [front_, back] = [Math.min(tip[1], top[1]), Math.max(tip[1], top[1])]
    const low = Math.max(back, front_ + 0.9 * half)
    strokes.push(
      filled(
        `M${n(tip[0] - half)} ${n(low - 0.3 * half)}C${n(tip[0] - half)} ${n(front_ - 0.2 * half)} ${n(tip[0] + half)} ${n(front_ - 0.2 * half)} ${n(tip[0] + half)} ${n(low - 0.3 * half)}Q${n(tip[0])} ${n(low + 0.3 * half)} ${n(tip[0] - half)} ${n(low - 0.3 * half)}Z`,
      ),
    )
  }
  for (const side of ['left', 'right']) {
    const [inner, outer] = [marks[`eye_inner_${side}`], marks[`eye_outer_${side}`]]
    if (!inner || !outer) continue
    const out = outer[0] > inner[0] ? 1 : -1
    strokes.push(
      ink(`M${p(inner)}Q${p([outer[0] + out * 2, to(inner, outer, 0.4)[1]])} ${p(outer)}`, 1.8),
      pencil(
        `M${p([inner[0] - out * 2, inner[1] + 1])}Q${p([outer[0], outer[1] + 3])} ${p([outer[0], outer[1] + 5])}`,
        0.6,
      ),
    )
  }
  if (stop && occiput)
    strokes.push(pencil(`M${p(to(stop, occiput, 0.04))}L${p(to(stop, occiput, 0.22))}`, 0.6))
  return strokes
}

/** The fold of an ear, and where its inside is seen: line (N) its outline, base where it is set on. */
export function earStrokes(
  line: readonly (readonly number[])[],
  marks: Marks,
  side: string,
  carriage: string,
) {
  const [a, b, tip] = [marks[`ear_front_${side}`], marks[`ear_back_${side}`], marks[`ear_tip_${side}`]]
  if (!a || !b || !tip || line.length < 3) return []
  const base = mid(a, b)
  const long = far(base, tip)
  const bend = (t: number, off: number): Point => {
    const [x, y] = to(base, tip, t)
    const [ux, uy] = [(tip[0] - base[0]) / (long || 1), (tip[1] - base[1]) / (long || 1)]
    return [x - uy * off, y + ux * off]
  }
  if (carriage === 'drop')
    return [
      pencil(`M${p(to(a, base, 0.2))}C${p(bend(0.2, 3))} ${p(bend(0.45, -2))} ${p(bend(0.72, 1))}`, 0.6),
    ]
  if (carriage === 'prick')
    return [
      pencil(
        `M${p(to(a, base, 0.5))}Q${p(bend(0.5, 2))} ${p(bend(0.86, 0))}Q${p(bend(0.45, -2))} ${p(to(b, base, 0.6))}`,
        0.6,
      ),
    ]
  return [pencil(`M${p(a)}Q${p(bend(0.1, 4))} ${p(b)}`, 0.7)]
}

/** Where the neck goes on: two strokes that fade, from the skin's line (mm) of a view. */
export function neckStrokes(
  skin: readonly (readonly number[])[],
  marks: Marks,
  view: ViewName,
): readonly string[] {
  if (skin.length < 3) return []
  const xs = skin.map((q) => q[0] ?? 0)
  const ys = skin.map((q) => q[1] ?? 0)
  const [low, high] = [Math.max(...ys), Math.min(...ys)]
  const tall = low - high
  if (view === 'front') {
    const at = high + 0.74 * tall
    const near = skin.filter((q) => Math.abs((q[1] ?? 0) - at) < 0.05 * tall).map((q) => q[0] ?? 0)
    if (near.length < 2) return []
    const [l, r] = [Math.min(...near), Math.max(...near)]
    const drop = 0.42 * tall
    return [
      `M${n(l + 2)} ${n(at)}c${n(1)} ${n(0.3 * drop)} ${n(-4)} ${n(0.7 * drop)} ${n(-10)} ${n(drop)}`,
      `M${n(r - 2)} ${n(at)}c${n(-1)} ${n(0.3 * drop)} ${n(4)} ${n(0.7 * drop)} ${n(10)} ${n(drop)}`,
    ]
  }
  if (view === 'top') return []
  const ahead = view === 'left' ? -1 : 1
  const [occiput, throat] = [marks['occiput'], marks['throat']]
  if (!occiput || !throat) return []
  const wide = Math.max(...xs) - Math.min(...xs)
  const drop = 0.34 * wide
  return [
    `M${p([occiput[0], occiput[1] + 0.12 * tall])}c${n(-ahead * 0.3 * drop)} ${n(0.2 * drop)} ${n(-ahead * 0.7 * drop)} ${n(0.5 * drop)} ${n(-ahead * drop)} ${n(drop)}`,
    `M${p(throat)}c${n(-ahead * 0.1 * drop)} ${n(0.3 * drop)} ${n(-ahead * 0.1 * drop)} ${n(0.6 * drop)} ${n(-ahead * 0.3 * drop)} ${n(0.95 * drop)}`,
  ]
}
