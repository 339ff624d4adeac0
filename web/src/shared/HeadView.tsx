import type { ReactNode } from 'react'
import type { Schemas } from '../api/client'
import { smoothPath, type Line } from '../sheet/lines'
import { boxOf, type Box } from '../sheet/level'
import {
  earStrokes,
  faceStrokes,
  neckStrokes,
  type Marks,
  type Stroke,
  type ViewName as FaceView,
} from './dogStrokes'

type View = Schemas['ViewDrawingOut']
export type ViewName = 'front' | 'left' | 'top'

const MARGIN_MM = 6
/** Room for the start of the neck, of the head's height. */
const NECK_SHARE = 0.2

/** The room a view takes, mm; `more`: what is drawn round it. */
export function roomOf(view: View, more: Line = []): Box {
  const box = boxOf([...view.skin, ...Object.values(view.ears).flat(), ...more])
  return {
    left: box.left - MARGIN_MM,
    top: box.top - MARGIN_MM,
    right: box.right + MARGIN_MM,
    bottom: box.bottom + MARGIN_MM + NECK_SHARE * (box.bottom - box.top),
  }
}

type Props = {
  view: View
  name: ViewName
  carriage: Carriage
  className?: string
  children?: ReactNode
}
/** How each ear is carried, by its side. */
export type Carriage = Readonly<Record<string, string>>

/** One view of the head by itself, drawn from its numbers; `children` are drawn over it, in mm. */
export function HeadView({ view, name, carriage, className, children }: Props) {
  const room = roomOf(view)
  return (
    <svg
      viewBox={`${room.left} ${room.top} ${room.right - room.left} ${room.bottom - room.top}`}
      className={className}
    >
      <HeadLines view={view} name={name} carriage={carriage} />
      {children}
    </svg>
  )
}

/** Skin, ears, face and the start of the neck of one view, in mm. */
export function HeadLines({ view, name, carriage }: { view: View; name: ViewName; carriage: Carriage }) {
  const hangs = (side: string) => carriage[side] !== 'prick'
  const ears = name === 'left' ? ['right', 'left'] : ['left', 'right']
  // Hanging ears lie over the cheek, standing ones behind the skull; from the side the near one is in front.
  const before = name === 'left' ? ['left'] : name === 'front' ? ears.filter(hangs) : []
  const behind = ears.filter((side) => !before.includes(side))
  const ear = (side: string) => (
    <g key={side} strokeLinecap="round" strokeLinejoin="round">
      <path
        d={smoothPath(view.ears[side] ?? [])}
        fill="color-mix(in srgb, var(--color-tooth) 22%, var(--color-sheet))"
        stroke="var(--color-ink)"
        strokeWidth="1.2"
      />
      <Strokes strokes={earStrokes(view.ears[side] ?? [], view.marks, side, carriage[side] ?? '')} />
    </g>
  )
  return (
    <g strokeLinejoin="round" strokeLinecap="round">
      <Neck view={view} name={name} />
      {behind.map(ear)}
      <path d={smoothPath(view.skin)} fill="var(--color-sheet)" stroke="var(--color-ink)" strokeWidth="1.5" />
      <FaceStrokes marks={view.marks} name={name} />
      {before.map(ear)}
    </g>
  )
}

function Neck({ view, name }: { view: View; name: ViewName }) {
  return (
    <g stroke="var(--color-ink)" fill="none" strokeLinecap="round">
      {neckStrokes(view.skin, view.marks, name).map((d) => (
        <g key={d}>
          <path d={d} strokeWidth="0.9" opacity="0.35" />
          <path d={d} strokeWidth="1.2" strokeDasharray="14 400" opacity="0.55" />
        </g>
      ))}
    </g>
  )
}

/** The face of a head in one view, from its marks. */
export function FaceStrokes({ marks, name }: { marks: Marks; name: FaceView }) {
  return <Strokes strokes={faceStrokes(marks, name)} />
}

const TONES: Readonly<Record<Stroke['tone'], string>> = {
  ink: 'var(--color-ink)',
  pencil: 'var(--color-quiet)',
  light: 'var(--color-tooth)',
  paper: 'var(--color-sheet)',
}

/** Leather is dark and an eye's light is light, by day and in table mode. */
const FILLS: Readonly<Record<Stroke['tone'], string>> = {
  ...TONES,
  ink: 'var(--color-leather)',
  paper: 'var(--color-glint)',
}

function Strokes({ strokes }: { strokes: readonly Stroke[] }) {
  return (
    <g strokeLinecap="round" strokeLinejoin="round">
      {strokes.map(({ d, tone, weight, filled }) => (
        <path
          key={d + tone}
          d={d}
          fill={filled ? FILLS[tone] : 'none'}
          stroke={
            filled && tone === 'ink'
              ? TONES.ink
              : filled
                ? 'none'
                : tone === 'paper'
                  ? FILLS.paper
                  : TONES[tone]
          }
          strokeWidth={weight ?? 0.6}
        />
      ))}
    </g>
  )
}
