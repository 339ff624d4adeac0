import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { Mesh, Outline } from '../api/client'
import type { Stand, Three } from './scene'
import { drawsSolids, useHeadScene, useTurning } from './useHeadScene'

export type Ray = { start: Three; along: Three }
/** Shares of the canvas, from its top left. */
export type Share = { readonly x: number; readonly y: number }
/** A mark a person set, at the place on the canvas where they did. */
export type SetMark = { readonly id: string; readonly words: string; readonly at: Share }
/** Where a mark truly is, mm of the head frame. */
export type TrueMark = { readonly id: string; readonly at: readonly number[] }

type Props = {
  label: string
  mesh: Mesh
  depths: Outline['depths']
  ahead?: Outline['depths'] | null
  stand: Stand
  /** 0 as it is, 1 as `depths` has it, 2 as `ahead`. */
  state: number
  turns: boolean
  /** How much is left round the head: less for one that is cut. */
  room?: number
  ruler?: boolean
  mine?: readonly SetMark[]
  truth?: readonly TrueMark[]
  onPoint?: ((at: Share, ray: Ray) => void) | null
  onVertex?: (vertex: number) => void
}

/** As it was last drawn: where places (mm) are pictured, and how wide the ruler is. */
type Drawn = { readonly at: (place: readonly number[]) => Share; readonly rulerShare: number }

const COATED = 0.78
const RULER_MM = 50
const TAP_PX = 6
const STEP = 0.012
const FINE = 0.003
const MOVES: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}
const percent = (share: number) => `${(100 * share).toFixed(2)}%`

/** A head with its hair that stands as it is put or is turned by hand; pointed at, it says where. */
export default function Posed(props: Props) {
  const {
    label,
    mesh,
    depths,
    ahead = null,
    state,
    turns: mayTurn,
    room = COATED,
    ruler,
    mine,
    truth,
    onPoint,
    onVertex,
  } = props
  const [solid] = useState(drawsSolids)
  const { stand, turns } = useTurning(props.stand)
  const [cursor, setCursor] = useState<Share>({ x: 0.5, y: 0.5 })
  const [keyed, setKeyed] = useState(false)
  const [drawn, setDrawn] = useState<Drawn>({ at: () => ({ x: -1, y: -1 }), rulerShare: 0 })
  const down = useRef<{ x: number; y: number } | null>(null)
  const { canvas, scene } = useHeadScene(
    mesh,
    depths,
    ahead,
    useStanding(stand, state),
    (now) => setDrawn({ at: (place) => now.picturedAt(place), rulerShare: RULER_MM * now.shareAMm }),
    room,
  )
  const known = (truth ?? []).map((mark) => ({ id: mark.id, ...drawn.at(mark.at) }))
  if (!solid) return <p className="m-auto p-4 text-center text-quiet">This device draws no turning head.</p>
  const shareOf = (event: PointerEvent): Share => {
    const box = event.currentTarget.getBoundingClientRect()
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }
  }
  function tap(at: Share) {
    const ray = scene.current?.ray(at.x, at.y)
    if (onPoint && ray) onPoint(at, ray)
    const vertex = scene.current?.vertex(at.x, at.y)
    if (onVertex && vertex != null) onVertex(vertex)
  }
  function key(event: KeyboardEvent) {
    const move = MOVES[event.key]
    if (mayTurn) return turns.onKeyDown(event)
    if (!onPoint) return
    if (move) {
      event.preventDefault()
      const by = event.shiftKey ? FINE : STEP
      setKeyed(true)
      setCursor(({ x, y }) => ({ x: clamped(x + by * move[0]), y: clamped(y + by * move[1]) }))
    } else if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault()
      event.stopPropagation()
      tap(cursor)
    }
  }
  return (
    <>
      <canvas
        ref={canvas}
        className={`size-full touch-none ${onPoint ? 'cursor-crosshair' : mayTurn ? 'cursor-grab active:cursor-grabbing' : ''}`}
        role="application"
        tabIndex={0}
        aria-label={label}
        data-posed={Math.round(stand.round)}
        onKeyDown={key}
        onPointerDown={(event) => {
          down.current = { x: event.clientX, y: event.clientY }
          if (mayTurn) turns.onPointerDown(event)
        }}
        onPointerMove={(event) => mayTurn && turns.onPointerMove(event)}
        onPointerUp={(event) => {
          turns.onPointerUp()
          const from = down.current
          down.current = null
          if (from && Math.hypot(event.clientX - from.x, event.clientY - from.y) < TAP_PX) {
            setKeyed(false)
            tap(shareOf(event))
          }
        }}
      />
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
        {mine?.map(({ id, at }) => {
          const there = known.find((one) => one.id === id)
          return (
            there && (
              <line
                key={id}
                x1={percent(at.x)}
                y1={percent(at.y)}
                x2={percent(there.x)}
                y2={percent(there.y)}
                className="stroke-off"
                strokeWidth={3}
                strokeDasharray="2 5"
                strokeLinecap="round"
              />
            )
          )
        })}
        {known.map((at) => (
          <g key={at.id} data-true={at.id}>
            <circle
              cx={percent(at.x)}
              cy={percent(at.y)}
              r={8}
              className="fill-none stroke-sheet"
              strokeWidth={5}
            />
            <circle
              cx={percent(at.x)}
              cy={percent(at.y)}
              r={8}
              className="fill-none stroke-cut"
              strokeWidth={2.5}
            />
          </g>
        ))}
        {onPoint && keyed && <Cross at={cursor} />}
      </svg>
      {mine?.map(({ id, words, at }) => (
        <span
          key={id}
          data-mine={id}
          className="pointer-events-none absolute"
          style={{ left: percent(at.x), top: percent(at.y) }}
        >
          <i className="absolute size-3.5 -translate-1/2 rounded-full border-2 border-sheet bg-off" />
          <b className="absolute left-3 -translate-y-1/2 rounded bg-sheet/85 px-1 text-sm whitespace-nowrap">
            {words}
          </b>
        </span>
      ))}
      {ruler && drawn.rulerShare > 0 && (
        <div
          className="pointer-events-none absolute bottom-3 left-1/2 -translate-x-1/2 border-x-2 border-b-2 border-ink text-center text-sm leading-6"
          style={{ width: percent(drawn.rulerShare) }}
          data-ruler
        >
          {RULER_MM} mm
        </div>
      )}
    </>
  )
}

const clamped = (share: number) => Math.min(Math.max(share, 0), 1)

/** The same object as long as nothing changed: a new one is drawn anew. */
function useStanding({ round, above, overlay }: Stand, state: number): Stand {
  return useMemo(() => ({ round, above, overlay, state }), [round, above, overlay, state])
}

/** Where the arrow keys have moved to. */
function Cross({ at }: { at: Share }) {
  const [x, y] = [percent(at.x), percent(at.y)]
  return (
    <g data-cursor>
      {['stroke-sheet', 'stroke-ink'].map((colour, i) => (
        <g key={colour} className={`fill-none ${colour}`} strokeWidth={i ? 2 : 5}>
          <circle cx={x} cy={y} r={14} />
          <circle cx={x} cy={y} r={1.5} />
        </g>
      ))}
    </g>
  )
}
