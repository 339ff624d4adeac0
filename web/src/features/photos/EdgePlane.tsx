import { useState, type PointerEvent } from 'react'
import { screenUrl, type Photo } from '../../api/client'
import { furryPath, plainPath } from '../../sheet/lines'
import { imagePoint, screenPoint, toImage, type ImagePoint } from '../../sheet/points'
import { A_STEP, useZoom } from '../../sheet/useZoom'
import { closeness } from '../../sheet/zoom'
import { ZoomButtons } from '../../ui/ZoomButtons'
import { viewWords } from '../../shared/words'
import {
  distanceToLine,
  pulled,
  type ChalkStroke,
  type EdgeAction,
  type EdgeLine,
  type EdgeState,
} from './edgeMachine'
import { NeckDrawing, neckFrom } from './NeckDrawing'

type Props = {
  photo: Photo
  state: EdgeState
  act: (action: EdgeAction) => void
  onStroke: (stroke: ChalkStroke) => void
  onTrail: (points: EdgeLine) => void
}

/** How near the line a press takes hold of it, and how far along a pull is felt, over the width that is seen. */
const GRAB_SHARE = 0.03
const REACH_SHARE = 0.08

/** The photo with its edge: pull the line, trace it anew, chalk on coat or beside it, cut it off at the neck. */
export function EdgePlane({ photo, state, act, onStroke, onTrail }: Props) {
  const [svg, setSvg] = useState<SVGSVGElement | null>(null)
  const [pull, setPull] = useState<{ from: ImagePoint; to: ImagePoint } | null>(null)
  const [stroke, setStroke] = useState<readonly ImagePoint[]>([])
  const size = { width: photo.width_px, height: photo.height_px }
  const { window: seen, fingers, zoom, whole } = useZoom(svg, size)
  const near = closeness(seen, size)
  const unit = photo.width_px / 1200 / near
  const drawing = state.tool !== 'pull'
  const drawn = state.drawn.line
  const reach = (REACH_SHARE * photo.width_px) / near
  const line = pull ? pulled(drawn, pull.from, pull.to, reach) : drawn
  const points = stroke.map((p) => [p.x, p.y] as const)

  const point = (event: PointerEvent) =>
    svg ? toImage(svg, screenPoint(event.clientX, event.clientY)) : imagePoint(0, 0)
  function drop() {
    setPull(null)
    setStroke([])
  }
  function down(event: PointerEvent<SVGSVGElement>) {
    if (fingers(event)) return drop()
    if (event.button !== 0) return
    const at = point(event)
    if (drawing) setStroke([at])
    else if (drawn.length && distanceToLine(at, drawn) < (GRAB_SHARE * photo.width_px) / near)
      setPull({ from: at, to: at })
    else return
    event.currentTarget.setPointerCapture(event.pointerId)
  }
  function move(event: PointerEvent) {
    if (fingers(event)) return drop()
    const at = point(event)
    if (pull) setPull({ ...pull, to: at })
    if (stroke.length) setStroke([...stroke, at])
  }
  function up(event: PointerEvent) {
    if (!fingers(event)) {
      if (pull) act({ type: 'pulled', line })
      if (stroke.length) finish()
    }
    drop()
  }
  function finish() {
    const { tool } = state
    if (tool === 'trace') onTrail(points)
    else if (tool === 'neck') act({ type: 'neck', neck: neckFrom(points, photo.width_px) })
    else if (tool !== 'pull') onStroke({ points, coat: tool === 'coat' })
  }
  return (
    <>
      <svg
        ref={setSvg}
        role="application"
        aria-label={`Edge of the coat, ${viewWords(photo.view)} photo`}
        data-edge={photo.id}
        viewBox={`${seen.x} ${seen.y} ${seen.width} ${seen.height}`}
        className={`absolute inset-0 size-full touch-none ${drawing ? 'cursor-crosshair' : 'cursor-grab'}`}
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={(event) => {
          fingers(event)
          drop()
        }}
      >
        <image href={screenUrl(photo)} width={photo.width_px} height={photo.height_px} />
        <NeckDrawing photo={photo} neck={state.drawn.neck} unit={unit} />
        <EdgeDrawing photo={photo} line={line} near={near} />
        {state.offered && <OfferedLine line={state.offered} unit={unit} />}
        {state.drawn.strokes.map((one, i) => (
          <Chalk key={i} stroke={one} unit={unit} />
        ))}
        {stroke.length > 0 && <InHand tool={state.tool} points={points} photo={photo} unit={unit} />}
      </svg>
      <ZoomButtons near={near} step={A_STEP} zoom={zoom} whole={whole} />
    </>
  )
}

type InHandProps = { tool: EdgeState['tool']; points: EdgeLine; photo: Photo; unit: number }

/** What the hand is drawing just now. */
function InHand({ tool, points, photo, unit }: InHandProps) {
  if (tool === 'trace') return <Trail points={points} unit={unit} />
  if (tool === 'neck')
    return <NeckDrawing photo={photo} neck={neckFrom(points, photo.width_px)} unit={unit} />
  return <Chalk stroke={{ points, coat: tool === 'coat' }} unit={unit} />
}

/** The hand's own trail, thin: the line runs near it once it is let go. */
function Trail({ points, unit }: { points: EdgeLine; unit: number }) {
  return (
    <g fill="none" pointerEvents="none" strokeLinecap="round">
      <polyline points={listed(points)} stroke="#10241f" strokeOpacity="0.7" strokeWidth={5 * unit} />
      <polyline
        points={listed(points)}
        stroke="#f3c15d"
        strokeWidth={2.4 * unit}
        strokeDasharray={`${5 * unit}`}
      />
    </g>
  )
}

/** The machine's line beside the one that is drawn: long pale dashes without hairs. */
function OfferedLine({ line, unit }: { line: EdgeLine; unit: number }) {
  return (
    <g fill="none" pointerEvents="none" data-line="offered">
      <path d={plainPath(line)} stroke="#10241f" strokeOpacity="0.7" strokeWidth={6 * unit} />
      <path
        d={plainPath(line)}
        stroke="#e8f4ef"
        strokeWidth={3.2 * unit}
        strokeDasharray={`${22 * unit} ${9 * unit}`}
      />
    </g>
  )
}

const listed = (points: EdgeLine) => points.map(([x, y]) => `${x},${y}`).join(' ')

/** A stroke of chalk: white with short hairs across on coat, blue and bare beside it. */
function Chalk({ stroke, unit }: { stroke: ChalkStroke; unit: number }) {
  const points = listed(stroke.points)
  const colour = stroke.coat ? '#fdf6e3' : '#8fc7e8'
  return (
    <g fill="none" pointerEvents="none" strokeLinecap="round" strokeLinejoin="round" data-chalk={stroke.coat}>
      <polyline points={points} stroke="#10241f" strokeOpacity="0.8" strokeWidth={9 * unit} />
      <polyline
        points={points}
        stroke={colour}
        strokeWidth={4 * unit}
        strokeDasharray={`${9 * unit} ${2 * unit} ${4 * unit} ${1.5 * unit}`}
        strokeLinecap="butt"
      />
      {stroke.coat && (
        <polyline
          points={points}
          stroke={colour}
          strokeWidth={15 * unit}
          strokeDasharray={`${2 * unit} ${9 * unit}`}
          strokeLinecap="butt"
        />
      )}
    </g>
  )
}

type EdgeDrawingProps = { photo: Photo; line: EdgeLine; near?: number }

/** The coat's edge as it is drawn everywhere: a line of short ochre hairs; near the skin a plain violet one. */
export function EdgeDrawing({ photo, line, near = 1 }: EdgeDrawingProps) {
  if (line.length < 3) return null
  const unit = photo.width_px / 1200 / near
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
