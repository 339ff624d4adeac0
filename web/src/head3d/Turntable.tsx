import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { Mesh, Outline } from '../api/client'
import { HeadScene, type Stand } from './scene'
import { unpackDepths, unpackMesh } from './unpack'

type Props = { dogName: string; mesh: Mesh; drawing: Outline }

const START: Stand = { round: 35, above: 12, wipe: 0 }
const DEG_A_PX = 0.5
const TURN_DEG = 15
const TURNS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-TURN_DEG, 0],
  ArrowRight: [TURN_DEG, 0],
  ArrowUp: [0, TURN_DEG],
  ArrowDown: [0, -TURN_DEG],
}

const turned = (stand: Stand, round: number, above: number): Stand => ({
  ...stand,
  round: stand.round + round,
  above: Math.min(Math.max(stand.above + above, -40), 88),
})

/** Whether this device draws in three dimensions at all. */
const drawsSolids = () => document.createElement('canvas').getContext('webgl2') !== null

/** The head on a turntable: what comes off coloured, and a wipe from the coat as it is to the finished head. */
export default function Turntable({ dogName, mesh, drawing }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const scene = useRef<HeadScene | null>(null)
  const [stand, setStand] = useState(START)
  const [solid] = useState(drawsSolids)
  const drag = useRef<{ x: number; y: number } | null>(null)
  useEffect(() => {
    if (!canvas.current) return
    scene.current = new HeadScene(canvas.current)
    return () => {
      scene.current?.dispose()
      scene.current = null
    }
  }, [])
  useEffect(() => {
    scene.current?.setSolid(unpackMesh(mesh))
  }, [mesh])
  useEffect(() => {
    scene.current?.setLeft(unpackDepths(drawing.depths))
  }, [mesh, drawing.depths])
  useEffect(() => {
    const at = canvas.current
    if (!at) return
    const draw = () => scene.current?.draw(stand, at.clientWidth, at.clientHeight)
    const size = new ResizeObserver(draw)
    size.observe(at)
    draw()
    return () => size.disconnect()
  }, [stand, mesh, drawing.depths])

  function turn(event: PointerEvent) {
    if (!drag.current) return
    const [dx, dy] = [event.clientX - drag.current.x, event.clientY - drag.current.y]
    drag.current = { x: event.clientX, y: event.clientY }
    setStand((s) => turned(s, -dx * DEG_A_PX, dy * DEG_A_PX))
  }
  function key(event: KeyboardEvent) {
    const by = TURNS[event.key]
    if (!by) return
    event.preventDefault()
    setStand((s) => turned(s, by[0], by[1]))
  }
  if (!solid) return <p className="m-auto p-4 text-center text-quiet">This device draws no turning head.</p>
  return (
    <>
      <canvas
        ref={canvas}
        className="size-full cursor-grab touch-none active:cursor-grabbing"
        role="application"
        tabIndex={0}
        aria-label={`${dogName}’s head in three dimensions, turned ${Math.round(stand.round)}°. Arrow keys turn it.`}
        data-head3d={drawing.family}
        onKeyDown={key}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId)
          drag.current = { x: event.clientX, y: event.clientY }
        }}
        onPointerMove={turn}
        onPointerUp={() => (drag.current = null)}
      />
      <p className="pointer-events-none absolute bottom-9 left-3 rounded bg-sheet/85 px-1 text-xs text-quiet">
        <i className="mr-1 inline-block size-2.5 bg-off opacity-80" />
        comes off
        <i className="mr-1 ml-3 inline-block size-2.5 bg-missing opacity-80" />
        missing
      </p>
      <label className="absolute inset-x-3 bottom-1 flex items-center gap-2 text-sm">
        finished
        <input
          type="range"
          min={0}
          max={1}
          step={0.02}
          value={stand.wipe}
          onChange={(event) => setStand({ ...stand, wipe: Number(event.target.value) })}
          className="tape-slider h-8 min-w-0 flex-1"
          aria-label="From the finished head to the coat as it is now"
        />
        now
      </label>
    </>
  )
}
