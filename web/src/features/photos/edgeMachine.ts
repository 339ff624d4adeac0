import type { ImagePoint } from '../../sheet/points'
import { noTimeline, undoable, type Timeline, type Undo } from '../../undo/undoable'

/** A closed line in photo px. */
export type EdgeLine = readonly (readonly [number, number])[]
export type EdgeTool = 'pull' | 'trace' | 'coat' | 'bare' | 'neck'

/** Two points of a line across the neck: what lies beyond it is not the head's. */
export type NeckLine = readonly [readonly [number, number], readonly [number, number]]

/** A chalk stroke in photo px: on coat, or on what is none. */
export type ChalkStroke = { readonly points: EdgeLine; readonly coat: boolean }

/** The line, the strokes that led to it, and the neck's. */
export type EdgeDrawn = {
  readonly line: EdgeLine
  readonly strokes: readonly ChalkStroke[]
  readonly neck: NeckLine | null
}

/** The edge being corrected: what is drawn, what it was before, the tool in hand, and a line offered beside it. */
export type EdgeState = Timeline<EdgeDrawn> & {
  readonly drawn: EdgeDrawn
  readonly tool: EdgeTool
  readonly offered: EdgeLine | null
}

export type EdgeAction =
  | {
      type: 'loaded'
      line: EdgeLine
      neck: NeckLine | null
      past: readonly EdgeDrawn[]
      future: readonly EdgeDrawn[]
    }
  | { type: 'overtaken'; line: EdgeLine; neck: NeckLine | null }
  | { type: 'pulled'; line: EdgeLine }
  | { type: 'neck'; neck: NeckLine | null }
  | { type: 'offered'; line: EdgeLine }
  | { type: 'taken' }
  | { type: 'declined' }
  | { type: 'followed'; line: EdgeLine; stroke: ChalkStroke }
  | { type: 'tool'; tool: EdgeTool }
  | Undo

export const noEdge: EdgeState = {
  drawn: { line: [], strokes: [], neck: null },
  ...noTimeline,
  tool: 'pull',
  offered: null,
}

/** So many strokes hold; the oldest ones give way. */
const MOST_STROKES = 40

function reducer(state: EdgeState, action: Exclude<EdgeAction, Undo>): EdgeState {
  const { drawn, offered } = state
  switch (action.type) {
    case 'loaded': {
      const { past, future, line, neck } = action
      return { ...state, drawn: { line, neck, strokes: [] }, past, future }
    }
    case 'overtaken':
      return { ...state, drawn: { ...drawn, line: action.line, neck: action.neck } }
    case 'pulled':
      return { ...state, drawn: { ...drawn, line: action.line } }
    case 'neck':
      return { ...state, drawn: { ...drawn, neck: action.neck } }
    case 'followed': {
      const strokes = held(drawn.strokes, action.stroke)
      return { ...state, drawn: { ...drawn, line: action.line, strokes } }
    }
    case 'offered':
      // Beside nothing there is nothing to choose.
      return drawn.line.length
        ? { ...state, offered: action.line }
        : { ...state, drawn: { ...drawn, line: action.line } }
    case 'taken':
      return offered ? { ...state, offered: null, drawn: { ...drawn, line: offered, strokes: [] } } : state
    case 'declined':
      return { ...state, offered: null }
    case 'tool':
      return { ...state, tool: action.tool }
  }
}

/** The strokes with one more. */
export const held = (strokes: readonly ChalkStroke[], stroke: ChalkStroke) =>
  [...strokes, stroke].slice(-MOST_STROKES)

export const edgeReducer = undoable<EdgeState, EdgeDrawn, EdgeAction>(reducer, {
  partOf: (state) => state.drawn,
  lay: (state, drawn) => ({ ...state, drawn }),
})

/** The line with the stretch near `from` drawn to `to`; the pull fades out over `reachPx`. */
export function pulled(line: EdgeLine, from: ImagePoint, to: ImagePoint, reachPx: number): EdgeLine {
  const fine = withPointsEvery(line, from, reachPx)
  return fine.map(([x, y]) => {
    const away = Math.hypot(x - from.x, y - from.y) / reachPx
    if (away >= 1) return [x, y] as const
    const share = (1 - away * away) ** 2
    return [x + (to.x - from.x) * share, y + (to.y - from.y) * share] as const
  })
}

const GAP_SHARE = 0.12

/** Points put in near a place, so that a pull bends the line instead of breaking it. */
function withPointsEvery(line: EdgeLine, near: ImagePoint, reachPx: number): EdgeLine {
  const gap = Math.max(2, GAP_SHARE * reachPx)
  return line.flatMap((here, i) => {
    const there = line[(i + 1) % line.length] ?? here
    const long = Math.hypot(there[0] - here[0], there[1] - here[1])
    const away = distanceToSegment(near, here, there)
    if (away > reachPx || long <= gap) return [here]
    const parts = Math.ceil(long / gap)
    return Array.from({ length: parts }, (_, k) => {
      const t = k / parts
      return [here[0] + (there[0] - here[0]) * t, here[1] + (there[1] - here[1]) * t] as const
    })
  })
}

function distanceToSegment(p: ImagePoint, a: readonly [number, number], b: readonly [number, number]) {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]]
  const long = dx * dx + dy * dy
  const t = long ? Math.min(1, Math.max(0, ((p.x - a[0]) * dx + (p.y - a[1]) * dy) / long)) : 0
  return Math.hypot(p.x - a[0] - t * dx, p.y - a[1] - t * dy)
}

/** How far a point lies from the line. */
export const distanceToLine = (p: ImagePoint, line: EdgeLine) =>
  Math.min(...line.map((a, i) => distanceToSegment(p, a, line[(i + 1) % line.length] ?? a)))
