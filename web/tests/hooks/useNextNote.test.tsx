// @vitest-environment happy-dom
import { act, cleanup, renderHook } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Dog } from '../../src/api/client'

const dog = { id: 2, name: 'Bobbin', next_note: '', versions: { next_note: 'v0' } } as unknown as Dog

describe('the note for next time', () => {
  beforeEach(() => {
    localStorage.clear()
    vi.stubGlobal('fetch', () => new Promise(() => undefined))
    vi.useFakeTimers()
    vi.resetModules()
  })
  afterEach(() => {
    cleanup()
    vi.useRealTimers()
    vi.unstubAllGlobals()
  })

  async function desk() {
    const { useNextNote } = await import('../../src/shared/useNextNote')
    const { outbox } = await import('../../src/outbox/outbox')
    return {
      ...renderHook(() => useNextNote(dog)),
      put: () => outbox.get().changes.map(({ part, body }) => [part, body]),
    }
  }
  const WORDS = 'a little shorter at the ears'
  const KEPT = [['next-note/2', { note: WORDS }]]

  it('is kept a moment after the last letter', async () => {
    const { result, put } = await desk()
    for (const words of ['a', 'a little', WORDS]) act(() => result.current.setTyped(words))
    expect(put()).toEqual([])
    expect(result.current.doing).toBe('waiting')
    act(() => void vi.advanceTimersByTime(600))
    expect(put()).toEqual(KEPT)
    expect(result.current.note).toBe(WORDS)
  })

  it('is not lost where its page is left within that moment', async () => {
    const { result, put, unmount } = await desk()
    act(() => result.current.setTyped(WORDS))
    unmount()
    expect(put()).toEqual(KEPT)
  })

  it('is not lost where the browser is closed within that moment, and kept once', async () => {
    const { result, put, unmount } = await desk()
    act(() => result.current.setTyped(WORDS))
    act(() => void window.dispatchEvent(new Event('pagehide')))
    unmount()
    expect(put()).toEqual(KEPT)
  })

  it('changes nothing where nothing was typed', async () => {
    const { result, put, unmount } = await desk()
    act(() => result.current.setTyped(''))
    unmount()
    expect(put()).toEqual([])
  })
})
