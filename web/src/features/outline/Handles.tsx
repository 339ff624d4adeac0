import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import type { Outline, Schemas } from '../../api/client'
import { screenPoint, toImage } from '../../sheet/points'

type Props = {
  handles: readonly Schemas['HandleOut'][]
  parameters: Outline['parameters']
  /** Photo px of one mm on the sheet. */
  unit: number
  onSet: (id: string, value: number) => void
  onRest: () => void
}

const KEY_STEPS = 40

/** Places of the outline to pull on; each turns its own parameter, and all views follow. */
export function Handles({ handles, parameters, unit, onSet, onRest }: Props) {
  return (
    <>
      {handles.map((handle) => {
        const parameter = parameters.find((p) => p.id === handle.parameter)
        if (!parameter) return null
        return (
          <Handle
            key={handle.parameter}
            handle={handle}
            parameter={parameter}
            unit={unit}
            onSet={onSet}
            onRest={onRest}
          />
        )
      })}
    </>
  )
}

type HandleProps = Omit<Props, 'handles' | 'parameters'> & {
  handle: Schemas['HandleOut']
  parameter: Outline['parameters'][number]
}

function Handle({ handle, parameter: p, unit, onSet, onRest }: HandleProps) {
  const from = useRef<{ x: number; y: number; value: number; way: readonly [number, number] } | null>(null)
  const clamp = (value: number) => Math.min(Math.max(value, p.low), p.high)
  const at = (event: PointerEvent<SVGGElement>) => {
    // The group's own transform is part of the way: points come out in photo px.
    const group = event.currentTarget.parentNode as SVGGElement
    return toImage(group, screenPoint(event.clientX, event.clientY))
  }
  function pull(event: PointerEvent<SVGGElement>) {
    const start = from.current
    if (!start) return
    const now = at(event)
    const [wx, wy] = start.way
    const along = ((now.x - start.x) * wx + (now.y - start.y) * wy) / (wx * wx + wy * wy)
    onSet(p.id, clamp(start.value + along))
  }
  function key(event: KeyboardEvent) {
    const step = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key]
    if (!step) return
    event.preventDefault()
    onSet(p.id, clamp(p.value + (step * (p.high - p.low)) / KEY_STEPS))
    onRest()
  }
  const turn = (Math.atan2(handle.px_a_unit[1], handle.px_a_unit[0]) * 180) / Math.PI
  return (
    <g
      transform={`translate(${handle.at[0]} ${handle.at[1]}) rotate(${turn}) scale(${unit})`}
      tabIndex={0}
      role="slider"
      aria-label={`${handle.words}: ${p.words_low} to ${p.words_high}`}
      aria-valuenow={Math.round(p.value * 10) / 10}
      aria-valuemin={p.low}
      aria-valuemax={p.high}
      className="cursor-grab touch-none active:cursor-grabbing"
      data-handle={p.id}
      onKeyDown={key}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        from.current = { ...at(event), value: p.value, way: handle.px_a_unit }
      }}
      onPointerMove={pull}
      onPointerUp={() => {
        from.current = null
        onRest()
      }}
    >
      <title>{handle.words}</title>
      <circle r="11" fill="transparent" />
      <path
        d="M6 -2.6l4 2.6l-4 2.6zM-6 -2.6l-4 2.6l4 2.6z"
        fill="#17352f"
        stroke="#fdfaf0"
        strokeWidth="0.5"
      />
      <circle r="4.2" fill="#f2c230" stroke="#17352f" strokeWidth="1.2" />
    </g>
  )
}
