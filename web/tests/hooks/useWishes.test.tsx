// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, renderHook } from '@testing-library/react'
import type { ReactNode } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Dog } from '../../src/api/client'

const wishes = { fullness: 0, eyes: 'any', beard: 'any', ears: 'any', weeks_between: null }
const dog = {
  id: 2,
  name: 'Bobbin',
  wishes,
  owner_words: '',
  traits: [],
  visits: [{ id: 1 }],
  versions: { wishes: 'v0', traits: 't0' },
} as unknown as Dog

describe('wishes on their way', () => {
  beforeEach(() => {
    sessionStorage.clear()
    localStorage.clear()
    // Nobody answers: what is put into the outbox stays there to be seen.
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
    const { useWishes } = await import('../../src/features/wishes/useWishes')
    const { outbox } = await import('../../src/outbox/outbox')
    const queries = new QueryClient()
    const wrapper = ({ children }: { children: ReactNode }) => (
      <QueryClientProvider client={queries}>{children}</QueryClientProvider>
    )
    const view = renderHook(({ now }: { now: Dog }) => useWishes(now), {
      wrapper,
      initialProps: { now: dog },
    })
    const put = () => outbox.get().changes.map(({ part, body }) => ({ part, body }))
    return { ...view, put }
  }
  const rest = () => act(() => void vi.advanceTimersByTime(500))

  it('are put a moment after the last change, as one', async () => {
    const { result, put } = await desk()
    act(() => result.current.act({ type: 'wish', change: { eyes: 'open' } }))
    act(() => result.current.act({ type: 'wish', change: { beard: 'short' } }))
    expect(put()).toEqual([])
    rest()
    expect(put()).toEqual([
      { part: 'wishes/2', body: { ...wishes, eyes: 'open', beard: 'short', words: '' } },
    ])
  })

  it('leave nothing behind where the stage is left within that moment', async () => {
    const { result, put, unmount } = await desk()
    act(() => result.current.act({ type: 'say', words: 'not round, please' }))
    unmount()
    expect(put()).toEqual([{ part: 'wishes/2', body: { ...wishes, words: 'not round, please' } }])
  })

  it('keep what the dog minds apart from what was wished', async () => {
    const { result, put } = await desk()
    act(() => result.current.act({ type: 'traits', traits: ['old'] }))
    rest()
    expect(put()).toEqual([{ part: 'traits/2', body: { traits: ['old'] } }])
  })

  it('are known to be none where nothing was wished', async () => {
    const { result, put } = await desk()
    act(() => result.current.finish())
    expect(put()).toEqual([{ part: 'wishes/2', body: { ...wishes, words: '' } }])
  })

  it('take over what another tablet wished while none of their own is on its way', async () => {
    const { result, rerender, put } = await desk()
    const theirs = { ...dog, owner_words: 'theirs', versions: { wishes: 'v1', traits: 't0' } }
    rerender({ now: theirs as unknown as Dog })
    expect(result.current.state.asked.words).toBe('theirs')
    rest()
    expect(put()).toEqual([])
  })

  it('do not let another tablet write over what is on its way', async () => {
    const { result, rerender } = await desk()
    act(() => result.current.act({ type: 'say', words: 'mine' }))
    rest()
    const theirs = { ...dog, owner_words: 'theirs', versions: { wishes: 'v1', traits: 't0' } }
    rerender({ now: theirs as unknown as Dog })
    expect(result.current.state.asked.words).toBe('mine')
  })
})
