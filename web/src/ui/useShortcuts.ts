import { useLayoutEffect, useRef } from 'react'

/** Says whether it took the key: then nobody else gets it. */
type OnKey = (event: KeyboardEvent) => boolean | undefined

const writing = (target: EventTarget | null) =>
  target instanceof HTMLInputElement ||
  target instanceof HTMLTextAreaElement ||
  target instanceof HTMLSelectElement

/**
 * Keys of a whole screen, while no field is written in. `on`: whether they count now. They count before the screen is
 * painted: a calliper may type as soon as it is seen.
 */
export function useShortcuts(onKey: OnKey, on = true) {
  const now = useRef({ onKey, on })
  useLayoutEffect(() => {
    now.current = { onKey, on }
  })
  useLayoutEffect(() => {
    function key(event: KeyboardEvent) {
      if (!now.current.on || writing(event.target)) return
      if (now.current.onKey(event)) event.preventDefault()
    }
    window.addEventListener('keydown', key)
    return () => window.removeEventListener('keydown', key)
  }, [])
}

/** Ctrl+Z and Ctrl+Y (or Cmd), with Shift for forth. */
export function undoKey(event: KeyboardEvent): 'undo' | 'redo' | null {
  if (!(event.ctrlKey || event.metaKey) || event.altKey) return null
  const letter = event.key.toLowerCase()
  if (letter === 'y') return 'redo'
  return letter === 'z' ? (event.shiftKey ? 'redo' : 'undo') : null
}
