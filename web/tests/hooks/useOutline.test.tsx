// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, renderHook, waitFor } from '@testing-library/react'
import type { ReactNode } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Dog } from '../../src/api/client'

type Call = { path: string; body: { params: Record<string, number> }; answer: (ok?: boolean) => void }

/** A server that answers when it is told to. */
function slowServer() {
  const calls: Call[] = []
  const fetched = async (input: Request | string, init?: RequestInit) => {
    const request = input instanceof Request ? input : new Request(new URL(input, 'http://here'), init)
    const path = new URL(request.url).pathname
    const body = JSON.parse(await request.text()) as Call['body']
    return new Promise<Response>((resolve, reject) => {
      calls.push({
        path,
        body,
        answer: (ok = true) =>
          ok
            ? resolve(
                new Response(
                  JSON.stringify({ family: 'round', photos: [], reasons: [], params: body.params }),
                  {
                    status: 200,
                    headers: { 'Content-Type': 'application/json', ETag: '"v1"' },
                  },
                ),
              )
            : reject(new TypeError('no network')),
      })
    })
  }
  vi.stubGlobal('fetch', fetched)
  return calls
}

const dog = {
  id: 2,
  name: 'Bobbin',
  photos: [],
  visits: [{ id: 1 }],
  versions: {},
  saved_outline: null,
} as unknown as Dog

describe('a slider on its way', () => {
  let calls: Call[]
  beforeEach(() => {
    sessionStorage.clear()
    localStorage.clear()
    calls = slowServer()
    vi.resetModules()
  })
  afterEach(() => {
    cleanup()
    vi.unstubAllGlobals()
    vi.useRealTimers()
  })

  async function desk() {
    const { useOutline } = await import('../../src/features/outline/useOutline')
    const queries = new QueryClient()
    const wrapper = ({ children }: { children: ReactNode }) => (
      <QueryClientProvider client={queries}>{children}</QueryClientProvider>
    )
    const view = renderHook(() => useOutline(dog), { wrapper })
    await waitFor(() => expect(calls).toHaveLength(1))
    return view
  }
  const answerLast = async (ok = true) => {
    await act(async () => calls.at(-1)?.answer(ok))
  }

  it('is asked for one at a time, and of those between only the newest', async () => {
    const { result } = await desk()
    for (const value of [0.1, 0.2, 0.3]) act(() => result.current.act({ type: 'set', id: 'fullness', value }))
    expect(calls).toHaveLength(1)
    await answerLast()
    await waitFor(() => expect(calls).toHaveLength(2))
    expect(calls[1]?.body.params).toEqual({ fullness: 0.3 })
  })

  it('is drawn quickly while it moves and whole when it rests', async () => {
    const { result } = await desk()
    expect(calls[0]?.path).toBe('/api/dogs/2/outline/preview')
    await answerLast()
    act(() => result.current.act({ type: 'set', id: 'fullness', value: 0.4 }))
    await waitFor(() => expect(calls).toHaveLength(2))
    expect(calls[1]?.path).toBe('/api/dogs/2/outline/moving')
    await answerLast()
    act(() => result.current.act({ type: 'rest' }))
    await waitFor(() => expect(calls).toHaveLength(3))
    expect(calls[2]?.path).toBe('/api/dogs/2/outline/preview')
    expect(result.current.settled).toBe(false)
    await answerLast()
    await waitFor(() => expect(result.current.settled).toBe(true))
  })

  it('waits for a server that is away and asks again by itself', async () => {
    const { result } = await desk()
    vi.useFakeTimers({ shouldAdvanceTime: true })
    await answerLast(false)
    await waitFor(() => expect(result.current.trouble?.away).toBe(true))
    act(() => void vi.advanceTimersByTime(2100))
    await waitFor(() => expect(calls).toHaveLength(2))
    await answerLast()
    await waitFor(() => expect(result.current.trouble).toBeNull())
    expect(result.current.state.drawing).not.toBeNull()
  })

  it('is drawn anew once another edge was found', async () => {
    const { useOutline } = await import('../../src/features/outline/useOutline')
    const queries = new QueryClient()
    const wrapper = ({ children }: { children: ReactNode }) => (
      <QueryClientProvider client={queries}>{children}</QueryClientProvider>
    )
    const photo = { id: 9, looked: null }
    const { rerender } = renderHook(({ now }: { now: Dog }) => useOutline(now), {
      wrapper,
      initialProps: { now: { ...dog, photos: [photo] } as unknown as Dog },
    })
    await waitFor(() => expect(calls).toHaveLength(1))
    await answerLast()
    rerender({ now: { ...dog, photos: [{ ...photo, looked: {} }] } as unknown as Dog })
    await waitFor(() => expect(calls).toHaveLength(2))
  })
})
