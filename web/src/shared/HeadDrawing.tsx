import type { ReactNode } from 'react'
import type { Schemas } from '../api/client'
import { length, useUnit } from '../ui/units'
import { smoothPath } from '../sheet/lines'
import { HeadLines, roomOf, type ViewName } from './HeadView'
import type { PastOutline } from './outlines'

type Drawing = Schemas['HeadDrawingOut']
type Point = readonly [number, number]
type Unevenness = Schemas['UnevennessOut']

type Props = {
  head: Drawing
  uneven: readonly Unevenness[]
  measures: readonly Schemas['MeasureOut'][]
  /** Outlines of this and earlier visits, the oldest first. */
  outlines?: readonly PastOutline[]
}

/** Measures drawn as a drafter would: from mark to mark, `off` mm aside (across from the line between them). */
const DIMENSIONS: Readonly<Record<ViewName, readonly (readonly [string, string, string, number])[]>> = {
  front: [
    ['eye_span_outer', 'eye_outer_right', 'eye_outer_left', -62],
    ['skull_width', 'cheek_right', 'cheek_left', 62],
  ],
  left: [
    ['muzzle_length', 'nose_tip', 'stop', 58],
    ['skull_length', 'stop', 'occiput', -52],
    ['head_length', 'nose_tip', 'occiput', -88],
  ],
  top: [['ear_span', 'ear_front_left', 'ear_front_right', 78]],
}

const GAP_MM = 14
const LABEL_MM = 9
const ROOM_ABOVE_MM = 58
const ROOM_BELOW_MM = 22
const RULER_MM = 10
const WORDS: Record<ViewName, string> = { front: 'from the front', left: 'from its left', top: 'from above' }
const VIEWS: readonly ViewName[] = ['front', 'left', 'top']

/**
 * Front, side and top at one scale, drawn from the numbers alone: front and side share the level of the eyes.
 * Places whose sides differ by more than measuring error carry a number that the list beside explains.
 */
export function HeadDrawing({ head, uneven, measures, outlines = [] }: Props) {
  const [unit] = useUnit()
  const told = new Map(measures.map((m) => [m.id, m]))
  const views = VIEWS.flatMap((name) => {
    const view = head.views[name]
    const around = outlines.flatMap((past) => past.lines[name] ?? [])
    return view ? [{ name, view, room: roomOf(view, around) }] : []
  })
  const level = views.filter((v) => v.name !== 'top').map((v) => v.room)
  const high = Math.min(...level.map((r) => r.top)) - ROOM_ABOVE_MM
  const low =
    ROOM_BELOW_MM +
    Math.max(...level.map((r) => r.bottom), ...views.map((v) => v.room.bottom - v.room.top + high))
  const placed = views.map((v, i) => ({
    ...v,
    // Front and side keep their level; the top view hangs from the same upper edge.
    x: views.slice(0, i).reduce((sum, w) => sum + w.room.right - w.room.left + GAP_MM, 0) - v.room.left,
    y: v.name === 'top' ? high - v.room.top : 0,
  }))
  const width = views.reduce((sum, v) => sum + v.room.right - v.room.left + GAP_MM, -GAP_MM)
  return (
    <svg
      role="img"
      aria-label={`The head drawn from its measures. Ears: ${head.carriage['left'] ?? ''} and ${head.carriage['right'] ?? ''}. ${uneven.map((u) => u.words).join('. ')}`}
      viewBox={`-4 ${high - LABEL_MM} ${width + 8} ${low - high + 2 * LABEL_MM + 6}`}
      className="size-full"
      data-head-drawing
    >
      <Grid left={-4} top={high} width={width + 8} height={low - high} />
      {placed.map(({ name, view, room, x, y }) => (
        <g key={name} transform={`translate(${x} ${y})`} data-view={name}>
          <HeadLines view={view} name={name} carriage={head.carriage} />
          {outlines.map((past) => (
            <path
              key={past.visit}
              d={smoothPath(past.lines[name] ?? [])}
              fill="none"
              stroke="var(--color-cut)"
              strokeWidth="1.6"
              opacity={past.opacity}
              data-past-outline={past.visit}
            />
          ))}
          {DIMENSIONS[name].map(([id, a, b, off]) => {
            const measure = told.get(id)
            const [from, to] = [view.marks[a], view.marks[b]]
            if (!measure || !from || !to) return null
            const half = (measure.high - measure.low) / 2
            return (
              <Dimension key={id} from={from} to={to} off={off}>
                {length(measure.value, unit)} ±{length(half, unit)}
              </Dimension>
            )
          })}
          {uneven.map((u, i) => {
            const at = view.marks[`${u.pair}_left`]
            return at && <Numbered key={u.pair + u.way} at={at} number={i + 1} />
          })}
          <text
            x={(room.left + room.right) / 2}
            y={low - y + LABEL_MM - 1}
            textAnchor="middle"
            fontSize="7"
            fill="var(--color-quiet)"
          >
            {WORDS[name]}
          </text>
        </g>
      ))}
      <g transform={`translate(0 ${high - 2})`} fontSize="5" fill="var(--color-quiet)">
        <path d={`M0 -3V0H${5 * RULER_MM}V-3`} fill="none" stroke="var(--color-quiet)" strokeWidth="0.6" />
        <text x={5 * RULER_MM + 2} y="0">
          50 mm
        </text>
      </g>
    </svg>
  )
}

type DimensionProps = { from: Point; to: Point; off: number; children: ReactNode }

/** A dimension line: thin lines out from both marks, a line between them, the number on it. */
function Dimension({ from, to, off, children }: DimensionProps) {
  const long = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1
  const [nx, ny] = [-(to[1] - from[1]) / long, (to[0] - from[0]) / long]
  const [a, b] = [from, to].map(([x, y]) => [x + nx * off, y + ny * off] as const)
  if (!a || !b) return null
  const past = off + Math.sign(off) * 2.5
  const lead = [from, to].map(([x, y]) => `M${x} ${y}L${x + nx * past} ${y + ny * past}`).join('')
  let turn = (Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI
  if (turn > 90 || turn <= -90) turn += 180
  return (
    <g stroke="var(--color-quiet)" strokeWidth="0.5" fill="none">
      <path d={lead} strokeDasharray="1.5 1.5" opacity="0.7" />
      <path d={`M${a[0]} ${a[1]}L${b[0]} ${b[1]}`} />
      <text
        transform={`translate(${(a[0] + b[0]) / 2} ${(a[1] + b[1]) / 2}) rotate(${turn})`}
        y="-2"
        textAnchor="middle"
        fontSize="8"
        fontWeight="700"
        fill="var(--color-ink)"
        stroke="var(--color-sheet)"
        strokeWidth="2.4"
        paintOrder="stroke"
      >
        {children}
      </text>
    </g>
  )
}

function Numbered({ at, number }: { at: readonly [number, number]; number: number }) {
  return (
    <g transform={`translate(${at[0]} ${at[1]})`}>
      <circle r="4.6" fill="var(--color-off)" />
      <text y="2.4" textAnchor="middle" fontSize="6.6" fontWeight="700" fill="var(--color-sheet)">
        {number}
      </text>
    </g>
  )
}

function Grid(box: { left: number; top: number; width: number; height: number }) {
  const lines = (from: number, size: number) => {
    const first = Math.ceil(from / RULER_MM) * RULER_MM
    return Array.from(
      { length: Math.floor((from + size - first) / RULER_MM) + 1 },
      (_, i) => first + i * RULER_MM,
    )
  }
  const path = [
    ...lines(box.left, box.width).map((x) => `M${x} ${box.top}v${box.height}`),
    ...lines(box.top, box.height).map((y) => `M${box.left} ${y}h${box.width}`),
  ].join('')
  return <path d={path} stroke="var(--color-grid)" strokeWidth="0.35" />
}
