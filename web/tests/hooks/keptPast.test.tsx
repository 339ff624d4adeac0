// @vitest-environment happy-dom
import { act, cleanup, renderHook } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useKeptPast } from '../../src/undo/keptPast'
import { noTimeline, undoable, type Timeline, type Undo } from '../../src/undo/undoable'

type State = Timeline<string> & { readonly words: string }
type Action = { type: 'say'; words: string } | Undo
const reducer = undoable<State, string, Action>((state, action) => ({ ...state, words: action.words }), {
  partOf: (state) => state.words,
  lay: (state, words) => ({ ...state, words }),
})
const opened = (words: string) =>
  renderHook(() =>
    useKeptPast(
      reducer,
      () => ({ words, ...noTimeline }),
      (state) => state.words,
      'test',
    ),
  )

describe('undo over a reload', () => {
  afterEach(cleanup)
  beforeEach(() => {
    sessionStorage.clear()
    vi.useFakeTimers()
  })

  it('leads back to what was there before, while what is there is still the same', () => {
    const first = opened('old')
    act(() => first.result.current[1]({ type: 'say', words: 'new' }))
    act(() => void vi.advanceTimersByTime(1000))
    first.unmount()
    const again = opened('new')
    act(() => again.result.current[1]({ type: 'undo' }))
    expect(again.result.current[0].words).toBe('old')
  })

  it('is kept at once when the page goes away', () => {
    const first = opened('old')
    act(() => first.result.current[1]({ type: 'say', words: 'new' }))
    window.dispatchEvent(new Event('pagehide'))
    expect(opened('new').result.current[0].past).toEqual(['old'])
  })

  it('leads nowhere once somebody else has changed what is there', () => {
    const first = opened('old')
    act(() => first.result.current[1]({ type: 'say', words: 'new' }))
    act(() => void vi.advanceTimersByTime(1000))
    expect(opened('theirs').result.current[0].past).toEqual([])
  })
})
