import { useState, type PointerEvent } from 'react'
import { screenUrl, type Photo } from '../../api/client'
import { furryPath, plainPath } from '../../sheet/lines'
import { imagePoint, screenPoint, toImage, type ImagePoint } from '../../sheet/points'
import { distanceToLine, pulled, type EdgeAction, type EdgeLine, type EdgeState } from './edgeMachine'
import { viewWords } from '../../shared/words'

type Props = {
  photo: Photo
  state: EdgeState
  act: (action: EdgeAction) => void
  onStroke: (stroke: EdgeLine, add: boolean) => void
}

/** How near the line a press takes hold of it, and how far along a pull is felt (brush widths). */
const GRAB = 1.6
const REACH = 4

/** The photo with its edge: pull the line, or brush to add to the dog and take away from it. */
export function EdgePlane({ photo, state, act, onStroke }: Props) {
  const [svg, setSvg] = useState<SVGSVGElement | null>(null)
  const [pull, setPull] = useState<{ from: ImagePoint; to: ImagePoint } | null>(null)
  const [stroke, setStroke] = useState<readonly ImagePoint[]>([])
  const [over, setOver] = useState<ImagePoint | null>(null)
  const unit = photo.width_px / 1200
  const brushing = state.tool !== 'pull'
  const line = pull ? pulled(state.line, pull.from, pull.to, REACH * state.radiusPx) : state.line

  const point = (event: PointerEvent) =>
    svg ? toImage(svg, screenPoint(event.clientX, event.clientY)) : imagePoint(0, 0)
  function down(event: PointerEvent<SVGSVGElement>) {
    if (event.button !== 0) return
    const at = point(event)
    if (brushing) setStroke([at])
    else if (state.line.length && distanceToLine(at, state.line) < GRAB * state.radiusPx)
      setPull({ from: at, to: at })
    else return
    event.currentTarget.setPointerCapture(event.pointerId)
  }
  function move(event: PointerEvent) {
    const at = point(event)
    setOver(at)
    if (pull) setPull({ ...pull, to: at })
    if (stroke.length) setStroke([...stroke, at])
  }
  function up() {
    if (pull) act({ type: 'changed', line })
    if (stroke.length)
      onStroke(
        stroke.map((p) => [p.x, p.y] as const),
        state.tool === 'add',
      )
    setPull(null)
    setStroke([])
  }
  return (
    <svg
      ref={setSvg}
      role="application"
      aria-label={`Edge of the coat, ${viewWords(photo.view)} photo`}
      data-edge={photo.id}
      viewBox={`0 0 ${photo.width_px} ${photo.height_px}`}
      className={`absolute inset-0 size-full touch-none ${brushing ? 'cursor-none' : 'cursor-grab'}`}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onPointerLeave={() => setOver(null)}
      onPointerCancel={() => {
        setPull(null)
        setStroke([])
      }}
    >
      <image href={screenUrl(photo)} width={photo.width_px} height={photo.height_px} />
      <EdgeDrawing photo={photo} line={line} />
      {stroke.length > 0 && (
        <polyline
          points={stroke.map((p) => `${p.x},${p.y}`).join(' ')}
          fill="none"
          stroke={state.tool === 'add' ? '#f2c230' : '#e8674b'}
          strokeOpacity="0.55"
          strokeWidth={2 * state.radiusPx}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      )}
      {brushing && over && (
        <circle
          cx={over.x}
          cy={over.y}
          r={state.radiusPx}
          fill="none"
          stroke={state.tool === 'add' ? '#f2c230' : '#e8674b'}
          strokeWidth={3 * unit}
        />
      )}
    </svg>
  )
}

/** The coat's edge as it is drawn everywhere: a line of short ochre hairs; near the skin a plain violet one. */
export function EdgeDrawing({ photo, line }: { photo: Photo; line: EdgeLine }) {
  if (line.length < 3) return null
  const unit = photo.width_px / 1200
  const wet = photo.state === 'wet'
  const frame = { width: photo.width_px, height: photo.height_px }
  return (
    <g fill="none" pointerEvents="none" data-line="edge">
      <path d={plainPath(line)} stroke="#10241f" strokeOpacity="0.55" strokeWidth={5 * unit} />
      <path d={plainPath(line)} stroke={wet ? '#b9a6d8' : '#e0a63a'} strokeWidth={2.2 * unit} />
      {!wet && (
        <path d={furryPath(line, 13 * unit, 8 * unit, frame)} stroke="#e0a63a" strokeWidth={1.8 * unit} />
      )}
    </g>
  )
}
