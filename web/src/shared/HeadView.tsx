import type { ReactNode } from 'react'
import type { Schemas } from '../api/client'
import { smoothPath, type Line } from '../sheet/lines'
import { boxOf, type Box } from '../sheet/level'

type View = Schemas['ViewDrawingOut']
type Point = readonly [number, number]
export type ViewName = 'front' | 'left' | 'top'

const MARGIN_MM = 6

/** The room a view takes, mm; `more`: what is drawn round it. */
export function roomOf(view: View, more: Line = []): Box {
  const box = boxOf([...view.skin, ...Object.values(view.ears).flat(), ...more])
  return {
    left: box.left - MARGIN_MM,
    top: box.top - MARGIN_MM,
    right: box.right + MARGIN_MM,
    bottom: box.bottom + MARGIN_MM,
  }
}

type Props = { view: View; name: ViewName; className?: string; children?: ReactNode }

/** One view of the head by itself, drawn from its numbers; `children` are drawn over it, in mm. */
export function HeadView({ view, name, className, children }: Props) {
  const room = roomOf(view)
  return (
    <svg
      viewBox={`${room.left} ${room.top} ${room.right - room.left} ${room.bottom - room.top}`}
      className={className}
    >
      <HeadLines view={view} name={name} />
      {children}
    </svg>
  )
}

/** Skin, ears and face of one view, in mm. */
export function HeadLines({ view, name }: { view: View; name: ViewName }) {
  const line = {
    fill: 'var(--color-sheet)',
    stroke: 'var(--color-skin)',
    strokeWidth: 1.3,
    strokeLinejoin: 'round' as const,
  }
  const behind = name === 'left' ? ['right'] : ['left', 'right']
  const before = name === 'left' ? ['left'] : []
  const ear = (side: string) => (
    <path key={side} d={smoothPath(view.ears[side] ?? [])} {...line} fillOpacity={0.8} />
  )
  return (
    <g>
      {behind.map(ear)}
      <path d={smoothPath(view.skin)} {...line} />
      {before.map(ear)}
      <Face marks={view.marks} name={name} />
    </g>
  )
}

function Face({ marks, name }: { marks: Readonly<Record<string, Point>>; name: ViewName }) {
  const eyes = name === 'left' ? ['left'] : ['left', 'right']
  const lip = marks['lip_front']
  return (
    <g stroke="var(--color-ink)" strokeWidth="1.1" fill="none" strokeLinecap="round">
      {eyes.map((side) => (
        <Eye key={side} inner={marks[`eye_inner_${side}`]} outer={marks[`eye_outer_${side}`]} />
      ))}
      <path d={nose(marks, name)} fill="var(--color-ink)" />
      {name !== 'top' &&
        lip &&
        eyes.map((side) => {
          const corner = marks[`mouth_corner_${side}`]
          return (
            corner && (
              <path
                key={side}
                d={`M${lip[0]} ${lip[1]}Q${(lip[0] + corner[0]) / 2} ${Math.max(lip[1], corner[1]) + 2} ${corner[0]} ${corner[1]}`}
              />
            )
          )
        })}
    </g>
  )
}

const PLUMP = 0.42
const PUPIL = 0.26

/** Lids between the two corners, and what looks out. */
function Eye({ inner, outer }: { inner: Point | undefined; outer: Point | undefined }) {
  if (!inner || !outer) return null
  const [dx, dy] = [outer[0] - inner[0], outer[1] - inner[1]]
  const [mx, my] = [(inner[0] + outer[0]) / 2, (inner[1] + outer[1]) / 2]
  const up: Point = [mx + dy * PLUMP, my - dx * PLUMP]
  const down: Point = [mx - dy * PLUMP, my + dx * PLUMP]
  return (
    <>
      <path
        d={`M${inner[0]} ${inner[1]}Q${up[0]} ${up[1]} ${outer[0]} ${outer[1]}Q${down[0]} ${down[1]} ${inner[0]} ${inner[1]}Z`}
      />
      <circle cx={mx} cy={my} r={Math.hypot(dx, dy) * PUPIL} fill="var(--color-ink)" stroke="none" />
    </>
  )
}

const NOSE_HALF_MM = 8

function nose(marks: Readonly<Record<string, Point>>, name: ViewName): string {
  const [tip, top] = [marks['nose_tip'], marks['nose_top']]
  if (!tip || !top) return ''
  if (name === 'left') {
    const low = tip[1] + Math.abs(tip[1] - top[1]) * 0.7
    return `M${tip[0]} ${tip[1]}Q${tip[0]} ${top[1]} ${top[0]} ${top[1]}L${top[0]} ${low}Q${tip[0]} ${low} ${tip[0]} ${tip[1]}Z`
  }
  const [y1, y2] = name === 'front' ? [top[1], tip[1] + 4] : [tip[1], top[1]]
  const x = tip[0]
  return `M${x - NOSE_HALF_MM} ${y1}Q${x} ${y1 - 3} ${x + NOSE_HALF_MM} ${y1}Q${x + NOSE_HALF_MM} ${y2} ${x} ${y2}Q${x - NOSE_HALF_MM} ${y2} ${x - NOSE_HALF_MM} ${y1}Z`
}
