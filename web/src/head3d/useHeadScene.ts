import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { Mesh, Outline } from '../api/client'
import { FIRST, paced, sharper } from './pace'
import { HeadScene, type Stand } from './scene'
import { unpackDepths, unpackMesh, type Left, type Solid } from './unpack'

type Depths = Outline['depths']
const RESTS_MS = 400

/** Whether this device draws in three dimensions at all. */
export const drawsSolids = () => document.createElement('canvas').getContext('webgl2') !== null

/** A canvas on which a head is drawn whenever it or how it stands changes: at once with few strands, finer while it rests. */
export function useHeadScene(
  mesh: Mesh,
  depths: Depths,
  ahead: Depths | null,
  stand: Stand,
  onDrawn?: (scene: HeadScene) => void,
  room?: number,
) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const scene = useRef<HeadScene | null>(null)
  const unpacked = useRef<{ mesh: Mesh; solid: Solid } | null>(null)
  const pace = useRef(FIRST)
  const drawn = useRef(onDrawn)
  useEffect(() => {
    drawn.current = onDrawn
  })
  useEffect(() => {
    if (!canvas.current) return
    scene.current = new HeadScene(canvas.current, room)
    return () => {
      scene.current?.dispose()
      scene.current = null
    }
  }, [room])
  useEffect(() => {
    if (unpacked.current?.mesh !== mesh) unpacked.current = { mesh, solid: unpackMesh(mesh) }
    const left: Left = unpackDepths(depths)
    scene.current?.set(unpacked.current.solid, left, ahead ? unpackDepths(ahead) : left)
  }, [mesh, depths, ahead])
  useEffect(() => {
    const at = canvas.current
    if (!at) return
    let waiting = 0
    const picture = (share: number) => scene.current?.draw(stand, at.clientWidth, at.clientHeight, share) ?? 0
    const sharpen = (share: number, ms: number) => {
      const next = sharper(share, ms)
      at.dataset['share'] = share.toFixed(2)
      if (next !== null) waiting = window.setTimeout(() => sharpen(next, picture(next)), RESTS_MS)
    }
    const draw = () => {
      window.clearTimeout(waiting)
      const { share } = pace.current
      const ms = picture(share)
      pace.current = paced(pace.current, ms)
      at.dataset['ms'] = ms.toFixed(0)
      if (scene.current) drawn.current?.(scene.current)
      sharpen(share, ms)
    }
    const size = new ResizeObserver(draw)
    size.observe(at)
    draw()
    return () => {
      window.clearTimeout(waiting)
      size.disconnect()
    }
  }, [stand, mesh, depths, ahead])
  return { canvas, scene }
}

/** Turning by finger and by arrow keys. */
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

/** How a head stands, and what turns it. */
export function useTurning(start: Stand) {
  const [stand, setStand] = useState(start)
  const drag = useRef<{ x: number; y: number } | null>(null)
  return {
    stand,
    setStand,
    turns: {
      onKeyDown(event: KeyboardEvent) {
        const by = TURNS[event.key]
        if (!by) return
        event.preventDefault()
        setStand((s) => turned(s, by[0], by[1]))
      },
      onPointerDown(event: PointerEvent) {
        event.currentTarget.setPointerCapture(event.pointerId)
        drag.current = { x: event.clientX, y: event.clientY }
      },
      onPointerMove(event: PointerEvent) {
        if (!drag.current) return
        const [dx, dy] = [event.clientX - drag.current.x, event.clientY - drag.current.y]
        drag.current = { x: event.clientX, y: event.clientY }
        setStand((s) => turned(s, -dx * DEG_A_PX, dy * DEG_A_PX))
      },
      onPointerUp() {
        drag.current = null
      },
    },
  }
}
