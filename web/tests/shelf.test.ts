import { describe, expect, it } from 'vitest'
import { makeOutbox } from '../src/outbox/makeOutbox'
import { withPast } from '../src/undo/keptPast'
import { isRecord, keep, recall } from '../src/ui/shelf'

function shelfWith(values: Record<string, string>) {
  const kept = new Map(Object.entries(values))
  return {
    kept,
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  }
}

const DAMAGED = [
  '',
  'nonsense',
  '{"changes": ',
  'null',
  '7',
  '"text"',
  '[]',
  '{}',
  '{"changes": 3, "next": 1}',
  '{"changes": [null], "next": 1}',
  '{"changes": [{"id": "x"}], "next": 1}',
  '{"changes": [{"id": 1, "part": "a", "words": "A", "path": "/a", "base": 4, "state": {"kind": "waiting"}}], "next": 2}',
  '{"changes": [{"id": 1, "part": "a", "words": "A", "path": "/a", "base": null, "state": {"kind": "odd"}}], "next": 2}',
]

describe('what a browser kept', () => {
  it.each(DAMAGED)('opens the outbox all the same, and lays it aside: %s', (text) => {
    const shelf = shelfWith({ 'dapwick.outbox': text })
    const box = makeOutbox(() => new Promise(() => undefined), shelf, 5)
    expect(box.get().changes).toEqual([])
    expect(shelf.kept.get('dapwick.outbox.damaged')).toBe(text)
    box.put({ part: 'a', words: 'A', path: '/a', body: 1, base: null })
    expect(makeOutbox(() => new Promise(() => undefined), shelf, 5).get().changes).toHaveLength(1)
  })

  it.each(['nonsense', '{}', 'null', '{"present": "0", "past": 1, "future": []}'])(
    'goes without undo rather than without a screen: %s',
    (text) => {
      const start = { past: [], future: [] }
      expect(withPast(start, 0, 'a', shelfWith({ 'dapwick.past.a': text }))).toEqual(start)
    },
  )

  it('comes back where it fits', () => {
    const shelf = shelfWith({ good: '{"a": 1}' })
    expect(recall(shelf, 'good', isRecord)).toEqual({ a: 1 })
    expect(recall(shelf, 'nothing', isRecord)).toBeNull()
    expect(shelf.kept.has('good.damaged')).toBe(false)
  })

  it('says where there is no room', () => {
    const full = {
      setItem: () => {
        throw new Error('full')
      },
    }
    expect(keep(full, 'a', 'b')).toBe(false)
    expect(keep(shelfWith({}), 'a', 'b')).toBe(true)
  })
})
