import { Redo2, Undo2 } from 'lucide-react'
import { useEffect, useRef } from 'react'
import { Button } from './Button'

type Props = { undo: (() => void) | null; redo: (() => void) | null }

/** Undo and redo of a stage, by button and by Ctrl+Z and Ctrl+Y; a field keeps its own. */
export function UndoButtons({ undo, redo }: Props) {
  const now = useRef({ undo, redo })
  useEffect(() => {
    now.current = { undo, redo }
  })
  useEffect(() => {
    function key(event: KeyboardEvent) {
      if (event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement) return
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return
      const letter = event.key.toLowerCase()
      if (letter !== 'z' && letter !== 'y') return
      event.preventDefault()
      if (letter === 'y' || event.shiftKey) now.current.redo?.()
      else now.current.undo?.()
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [])
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
