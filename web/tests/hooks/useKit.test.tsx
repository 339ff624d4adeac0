// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, renderHook } from '@testing-library/react'
import type { ReactNode } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Kit } from '../../src/features/kit/kitMachine'

const kit = {
  tools: [{ id: 'b10', kind: 'blade', name: '10 blade', use: 'clip', leaves_mm: 1.5 }],
  against_share: 0.5,
  skin: { first_mm: 1.5, then_mm: [1], white_mm: 3, sore_mm: 6 },
  stylists: [],
} as unknown as Kit

describe('the kit as it is edited', () => {
  let refuse: string | null
  let sent: { body: Kit; base: string | null }[]
  beforeEach(() => {
    refuse = null
    sent = []
    sessionStorage.clear()
    localStorage.clear()
    vi.stubGlobal('fetch', async (_path: string, init: RequestInit) => {
      const base = new Headers(init.headers).get('If-Match')
      sent.push({ body: JSON.parse(String(init.body)) as Kit, base })
      return refuse === null
        ? new Response('{}', { status: 200, headers: { ETag: `"v${sent.length}"` } })
        : new Response(JSON.stringify({ message: refuse }), { status: 422 })
    })
    vi.useFakeTimers()
    vi.resetModules()
  })
  afterEach(() => {
    cleanup()
    vi.useRealTimers()
    vi.unstubAllGlobals()
  })

  async function desk() {
    const { useKit } = await import('../../src/features/kit/useKit')
    const wrapper = ({ children }: { children: ReactNode }) => (
      <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
    )
    return renderHook(() => useKit({ value: kit, version: 'v0' }), { wrapper })
  }
  const rest = () => act(async () => void (await vi.advanceTimersByTimeAsync(600)))
  const share = (against_share: number) => ({ type: 'set', change: { against_share } }) as const

  it('is sent once it rests, on top of what was kept last', async () => {
    const { result } = await desk()
    act(() => result.current.act(share(0.6)))
    act(() => result.current.act(share(0.7)))
    expect(sent).toEqual([])
    await rest()
    expect(sent.map(({ body, base }) => [body.against_share, base])).toEqual([[0.7, '"v0"']])
    act(() => result.current.act(share(0.4)))
    await rest()
    expect(sent[1]?.base).toBe('"v1"')
    expect(result.current.keeping).toEqual({ kind: 'kept' })
  })

  it('leaves nothing behind where the page goes away within that moment', async () => {
    const { result, unmount } = await desk()
    act(() => result.current.act(share(0.6)))
    await act(async () => {
      window.dispatchEvent(new Event('pagehide'))
      await vi.advanceTimersByTimeAsync(0)
    })
    expect(sent).toHaveLength(1)
    unmount()
    await vi.advanceTimersByTimeAsync(1000)
    expect(sent).toHaveLength(1)
  })

  it('keeps on the screen what is refused, with the reason', async () => {
    refuse = 'kit: left against the growth (expected 0 to 1, got 7).'
    const { result } = await desk()
    act(() => result.current.act(share(7)))
    await rest()
    expect(result.current.state.kit.against_share).toBe(7)
    expect(result.current.keeping).toEqual({ kind: 'refused', reason: refuse })
  })
})
