// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { undoKey, useShortcuts } from '../../src/ui/useShortcuts'
import { UndoButtons } from '../../src/undo/UndoButtons'

function Screen({ onKey, on = true }: { onKey: (key: string) => boolean; on?: boolean }) {
  useShortcuts((event) => onKey(event.key), on)
  return (
    <>
      <input aria-label="field" />
      <textarea aria-label="words" />
      <button>press</button>
    </>
  )
}

const taken = () => vi.fn<(key: string) => boolean>(() => true)

afterEach(cleanup)

describe('keys of a screen', () => {
  it('count anywhere but in a field', () => {
    const onKey = taken()
    render(<Screen onKey={onKey} />)
    fireEvent.keyDown(document.body, { key: 'n' })
    fireEvent.keyDown(screen.getByText('press'), { key: 's' })
    fireEvent.keyDown(screen.getByLabelText('field'), { key: 'x' })
    fireEvent.keyDown(screen.getByLabelText('words'), { key: 'y' })
    expect(onKey.mock.calls.flat()).toEqual(['n', 's'])
  })

  it('keep the browser from a key only where they take it', () => {
    const { rerender } = render(<Screen onKey={() => true} />)
    expect(fireEvent.keyDown(document.body, { key: ' ' })).toBe(false)
    rerender(<Screen onKey={() => false} />)
    expect(fireEvent.keyDown(document.body, { key: ' ' })).toBe(true)
  })

  it('rest while a panel is open, and end with their screen', () => {
    const onKey = taken()
    const { rerender, unmount } = render(<Screen onKey={onKey} on={false} />)
    fireEvent.keyDown(document.body, { key: 'n' })
    expect(onKey).not.toHaveBeenCalled()
    rerender(<Screen onKey={onKey} />)
    fireEvent.keyDown(document.body, { key: 'n' })
    expect(onKey).toHaveBeenCalledOnce()
    unmount()
    fireEvent.keyDown(document.body, { key: 'n' })
    expect(onKey).toHaveBeenCalledOnce()
  })
})

describe('undo by key', () => {
  const key = (init: KeyboardEventInit) => undoKey(new KeyboardEvent('keydown', init))

  it('knows undo and redo on every keyboard', () => {
    expect(key({ key: 'z', ctrlKey: true })).toBe('undo')
    expect(key({ key: 'z', metaKey: true })).toBe('undo')
    expect(key({ key: 'Z', ctrlKey: true, shiftKey: true })).toBe('redo')
    expect(key({ key: 'y', ctrlKey: true })).toBe('redo')
    expect(key({ key: 'z' })).toBeNull()
    expect(key({ key: 'z', ctrlKey: true, altKey: true })).toBeNull()
  })

  it('does nothing where there is nothing to undo', () => {
    const undo = vi.fn()
    render(<UndoButtons undo={undo} redo={null} />)
    fireEvent.keyDown(document.body, { key: 'y', ctrlKey: true })
    fireEvent.keyDown(document.body, { key: 'z', ctrlKey: true })
    expect(undo).toHaveBeenCalledOnce()
    expect((screen.getByLabelText('Redo') as HTMLButtonElement).disabled).toBe(true)
  })
})
