import { Redo2, Undo2 } from 'lucide-react'
import { Button } from '../ui/Button'
import { undoKey, useShortcuts } from '../ui/useShortcuts'

type Props = { undo: (() => void) | null; redo: (() => void) | null }

/** Undo and redo of a stage, by button and by Ctrl+Z and Ctrl+Y; a field keeps its own. */
export function UndoButtons({ undo, redo }: Props) {
  useShortcuts((event) => {
    const way = undoKey(event)
    if (way === 'undo') undo?.()
    else if (way === 'redo') redo?.()
    return way !== null
  })
  return (
    <span className="flex gap-2">
      <Button onClick={() => undo?.()} disabled={!undo} aria-label="Undo">
        <Undo2 size={20} aria-hidden />
      </Button>
      <Button onClick={() => redo?.()} disabled={!redo} aria-label="Redo">
        <Redo2 size={20} aria-hidden />
      </Button>
    </span>
  )
}
