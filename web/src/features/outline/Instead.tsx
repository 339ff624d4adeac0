import type { Dog, Outline } from '../../api/client'
import type { OutlineAction } from './outlineMachine'
import { useInstead } from './useOutlines'

type Props = { dog: Dog; drawing: Outline; act: (action: OutlineAction) => void }

/** What stands in the way of this outline, and the nearest that can be cut today. */
export function Instead({ dog, drawing, act }: Props) {
  const nearest = useInstead(dog, drawing)
  const { family, name } = nearest.data ?? {}
  return (
    <div className="flex items-center justify-between gap-2 rounded-lg border border-missing px-2 py-1 text-sm">
      <p className="min-w-0">{drawing.broken[0]}</p>
      {family && (
        <button
          className="min-h-11 shrink-0 rounded-lg border border-ink bg-sheet px-2 font-semibold"
          onClick={() => act({ type: 'family', family })}
        >
          {name} today
        </button>
      )}
    </div>
  )
}
