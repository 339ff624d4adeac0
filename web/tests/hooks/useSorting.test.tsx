// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, cleanup, renderHook, waitFor } from '@testing-library/react'
import type { ReactNode } from 'react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api, Trouble, type Dog, type Photo } from '../../src/api/client'
import { useSorting } from '../../src/features/photos/useSorting'

const dog = { id: 2, name: 'Bobbin' } as Dog
const file = (name: string) => new File(['picture'], name)
const states = (files: readonly { state: string }[]) => files.map((one) => one.state)

describe('several photos on their way', () => {
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={new QueryClient()}>{children}</QueryClientProvider>
  )
  let answers: { ok: (photo: Photo) => void; wrong: (why: Error) => void }[]
  beforeEach(() => {
    answers = []
    vi.spyOn(api, 'sortPhoto').mockImplementation(
      () => new Promise<Photo>((ok, wrong) => answers.push({ ok, wrong })),
    )
  })
  afterEach(() => {
    cleanup()
    vi.restoreAllMocks()
    vi.useRealTimers()
  })
  const desk = () => renderHook(() => useSorting(dog), { wrapper })
  const photo = (id: number) => ({ id, view: 'front', state: 'dry' }) as Photo

  it('go one after the other, each to be sorted by what it shows', async () => {
    const { result } = desk()
    act(() => result.current.act({ type: 'dropped', files: [file('a.jpg'), file('b.jpg')], usual: 'wet' }))
    expect(states(result.current.state.files)).toEqual(['sending', 'waiting'])
    await act(async () => answers[0]?.ok(photo(1)))
    expect(states(result.current.state.files)).toEqual(['in', 'sending'])
    await act(async () => answers[1]?.ok(photo(2)))
    expect(states(result.current.state.files)).toEqual(['in', 'in'])
    expect(api.sortPhoto).toHaveBeenCalledWith(2, expect.objectContaining({ name: 'b.jpg' }), 'wet')
  })

  it('do not stop where one of them is refused', async () => {
    const { result } = desk()
    act(() => result.current.act({ type: 'dropped', files: [file('a.txt'), file('b.jpg')], usual: 'wet' }))
    await act(async () => answers[0]?.wrong(new Trouble('This is no photo.', false, 422)))
    expect(result.current.state.files[0]).toMatchObject({ state: 'refused', reason: 'This is no photo.' })
    await act(async () => answers[1]?.ok(photo(2)))
    expect(states(result.current.state.files)).toEqual(['refused', 'in'])
  })

  it('wait for a server that is away, and go again by themselves', async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true })
    const { result } = desk()
    act(() => result.current.act({ type: 'dropped', files: [file('a.jpg')], usual: 'wet' }))
    await act(async () => answers[0]?.wrong(new Trouble('away', true)))
    expect(states(result.current.state.files)).toEqual(['away'])
    act(() => void vi.advanceTimersByTime(2100))
    await waitFor(() => expect(states(result.current.state.files)).toEqual(['sending']))
    await act(async () => answers[1]?.ok(photo(1)))
    expect(states(result.current.state.files)).toEqual(['in'])
  })

  it('are stopped but for the one on the wire', () => {
    const { result } = desk()
    act(() => result.current.act({ type: 'dropped', files: [file('a.jpg'), file('b.jpg')], usual: 'wet' }))
    act(() => result.current.act({ type: 'stop' }))
    expect(states(result.current.state.files)).toEqual(['sending'])
  })
})
