import { useEffect, useRef, useState, type PointerEvent } from 'react'
import { useShortcuts } from '../ui/useShortcuts'
import { imagePoint, screenPoint, toImage, type ImagePoint } from './points'
import { middle, panned, WHOLE, zoomed, type Size, type Window } from './zoom'

const A_STEP = 1.5
const A_NOTCH = 1.2
const PAN_SHARE = 0.15

const PANS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

/**
 * Zoom and pan over one photo: wheel, two fingers, middle button, and keys (+, −, 0, and Alt with arrows).
 * `fingers` takes pointer events first and says whether it used them.
 */
export function useZoom(svg: SVGSVGElement | null, photo: Size) {
  const [window_, setWindow] = useState<Window>(() => WHOLE(photo))
  const down = useRef(new Map<number, { x: number; y: number }>())
  const { width, height } = photo
  useEffect(() => {
    if (!svg) return
    const size = { width, height }
    function onWheel(event: WheelEvent) {
      if (!svg) return
      event.preventDefault()
      const about = toImage(svg, screenPoint(event.clientX, event.clientY))
      setWindow((now) => zoomed(now, size, event.deltaY < 0 ? A_NOTCH : 1 / A_NOTCH, about))
    }
    svg.addEventListener('wheel', onWheel, { passive: false })
    return () => svg.removeEventListener('wheel', onWheel)
  }, [svg, width, height])
  useShortcuts((event) => {
    if (event.ctrlKey || event.metaKey) return false
    const pan = event.altKey ? PANS[event.key] : undefined
    if (event.key === '+' || event.key === '=') setWindow((now) => zoomed(now, photo, A_STEP, middle(now)))
    else if (event.key === '-') setWindow((now) => zoomed(now, photo, 1 / A_STEP, middle(now)))
    else if (event.key === '0') setWindow(WHOLE(photo))
    else if (pan)
      setWindow((now) => panned(now, photo, pan[0] * now.width * PAN_SHARE, pan[1] * now.height * PAN_SHARE))
    else return false
    return true
  })

  const at = (p: { x: number; y: number }): ImagePoint =>
    svg ? toImage(svg, screenPoint(p.x, p.y)) : imagePoint(0, 0)

  /** Two fingers pinch and pan; the middle button pans. True where the event was one of these. */
  function fingers(event: PointerEvent): boolean {
    const now = { x: event.clientX, y: event.clientY }
    if (event.type === 'pointerdown') {
      if (event.pointerType === 'mouse' && event.button !== 1) return false
      down.current.set(event.pointerId, now)
      return down.current.size > 1 || event.button === 1
    }
    const before = down.current.get(event.pointerId)
    if (!before) return false
    if (event.type !== 'pointermove') {
      const pinching = down.current.size > 1
      down.current.delete(event.pointerId)
      return pinching || event.button === 1
    }
    const other = [...down.current].find(([id]) => id !== event.pointerId)?.[1]
    down.current.set(event.pointerId, now)
    if (!other && event.pointerType !== 'mouse') return false
    const [from, to] = [at(before), at(now)]
    const share = other ? apart(now, other) / Math.max(apart(before, other), 1) : 1
    const half = other ? 0.5 : 1
    setWindow((was) =>
      panned(
        zoomed(was, photo, share, at(other ?? now)),
        photo,
        (from.x - to.x) * half,
        (from.y - to.y) * half,
      ),
    )
    return true
  }
  return {
    window: window_,
    fingers,
    zoom: (factor: number) => setWindow((now) => zoomed(now, photo, factor, middle(now))),
    whole: () => setWindow(WHOLE(photo)),
  }
}

const apart = (a: { x: number; y: number }, b: { x: number; y: number }) => Math.hypot(a.x - b.x, a.y - b.y)
export { A_STEP }
