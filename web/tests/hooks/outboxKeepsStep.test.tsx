// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, renderHook, waitFor } from '@testing-library/react'
import type { ReactNode } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Dog, Schemas } from '../../src/api/client'

type Reading = Schemas['HandMeasureIO']
const reading = (mm: number): Reading => ({ from_mark: 'stop', to_mark: `mark-${mm}`, mm, sigma_mm: 1 })

/** A server that keeps what it is sent, answers each PUT, and refuses what was made on another version. */
function server() {
  let version = 'v0'
  const sent: { path: string; base: string | null; body: unknown }[] = []
  vi.stubGlobal('fetch', async (path: string, init: RequestInit) => {
    const base = new Headers(init.headers).get('If-Match')?.replaceAll('"', '') ?? null
    const body: unknown = JSON.parse(String(init.body))
    if (base !== null && base !== version)
      return new Response(JSON.stringify({ message: 'changed on another tablet', version }), { status: 409 })
    version = `v${sent.push({ path, base, body })}`
    return new Response(JSON.stringify({ solved: true }), { status: 200, headers: { ETag: `"${version}"` } })
  })
  return sent
}

async function desk() {
  localStorage.clear()
  vi.resetModules()
  const use = await import('../../src/outbox/useOutbox')
  const { outbox } = await import('../../src/outbox/outbox')
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } })
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={queries}>{children}</QueryClientProvider>
  )
  renderHook(() => use.useOutboxKeepsStep(), { wrapper })
  return { ...use, outbox, queries }
}

const dog = { id: 2, name: 'Bobbin', hand_measures: [], versions: { hand_measures: 'v0' } } as unknown as Dog

describe('what is fetched, in step with what was kept', () => {
  let sent: ReturnType<typeof server>
  beforeEach(() => {
    sent = server()
  })
  afterEach(() => vi.unstubAllGlobals())

  it('makes each reading on top of the last one, however late the dog is fetched anew', async () => {
    const { askChange, queries, outbox } = await desk()
    queries.setQueryData(['dog', 2], dog)
    for (const mm of [61, 62, 63]) {
      const now = queries.getQueryData<Dog>(['dog', 2]) ?? dog
      await act(() => askChange(now, 'hand-measures', [...now.hand_measures, reading(mm)]))
    }
    expect(outbox.get().changes).toEqual([])
    expect(sent.map((one) => one.base)).toEqual(['v0', 'v1', 'v2'])
    expect((sent.at(-1)?.body as Reading[]).map((one) => one.mm)).toEqual([61, 62, 63])
    expect(queries.getQueryData<Dog>(['dog', 2])?.versions['hand_measures']).toBe('v3')
  })

  it('leaves a dog alone that nobody has fetched', async () => {
    const { askChange, queries } = await desk()
    await act(() => askChange(dog, 'hand-measures', [reading(61)]))
    expect(queries.getQueryData(['dog', 2])).toBeUndefined()
  })

  it('begins a cut that is opened again with every step that was kept', async () => {
    const { outbox, queries } = await desk()
    const log = { look: { state: 'done', notes: [], tool: '' } }
    queries.setQueryData(['cut', 2], { id: 5, log })
    const put = (step: string, state: string) =>
      outbox.put({
        part: `cut-step/2/${step}`,
        words: step,
        path: `/cut/${step}`,
        body: { state },
        base: null,
      })
    act(() => put('ring:left', 'done'))
    act(() => put('look', 'open'))
    await waitFor(() => expect(outbox.get().changes).toEqual([]))
    const cut = queries.getQueryData<{ log: Record<string, { state: string }> }>(['cut', 2])
    expect(cut?.log).toEqual({ 'ring:left': { state: 'done' } })
  })

  it('asks its user where another tablet was first, and keeps what it wished meanwhile', async () => {
    const { askChange, outbox, wishedNow } = await desk()
    await act(() => askChange(dog, 'hand-measures', [reading(61)]))
    void askChange(dog, 'hand-measures', [reading(62)])
    await waitFor(() => expect(outbox.get().changes[0]?.state.kind).toBe('overtaken'))
    expect(wishedNow(2, 'hand-measures')?.map((one) => one.mm)).toEqual([62])
    expect(sent).toHaveLength(1)
  })
})
