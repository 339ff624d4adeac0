import type { Outline } from '../../api/client'
import type { OutlineAction } from './outlineMachine'

type Props = {
  parameter: Outline['parameters'][number]
  set?: number
  /** What the ends come to, where that is worth telling. */
  ends?: readonly [string, string]
  act: (action: OutlineAction) => void
}

/** A slider whose ends are words; the thumb is the tape's yellow. */
export function WordSlider({ parameter: p, set, ends, act }: Props) {
  const id = `slider-${p.id}`
  return (
    <div>
      <label htmlFor={id} className="flex justify-between text-[0.92rem]">
        <span>
          {p.words_low}
          {ends && <span className="text-quiet"> {ends[0]}</span>}
        </span>
        <b>{p.words}</b>
        <span>
          {p.words_high}
          {ends && <span className="text-quiet"> {ends[1]}</span>}
        </span>
      </label>
      <input
        id={id}
        type="range"
        min={p.low}
        max={p.high}
        step={(p.high - p.low) / 100}
        value={set ?? p.value}
        onChange={(event) => act({ type: 'set', id: p.id, value: Number(event.target.value) })}
        onPointerUp={() => act({ type: 'rest' })}
        onKeyUp={() => act({ type: 'rest' })}
        className="tape-slider h-8 w-full"
      />
    </div>
  )
}
