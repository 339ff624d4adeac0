import type { Outline } from '../../api/client'
import type { OutlineAction } from './outlineMachine'

type Props = {
  parameter: Outline['parameters'][number]
  set?: number
  act: (action: OutlineAction) => void
}

/** A slider whose ends are words; the thumb is the tape's yellow. */
export function WordSlider({ parameter: p, set, act }: Props) {
  const id = `slider-${p.id}`
  return (
    <div>
      <label htmlFor={id} className="flex justify-between text-[0.92rem]">
        <span>{p.words_low}</span>
        <b>{p.words}</b>
        <span>{p.words_high}</span>
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
