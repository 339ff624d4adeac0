import type { Place } from '../src/api/client'
import { describe, expect, it } from 'vitest'
import { outlinesOf, zonesOver } from '../src/shared/outlines'
import { inverse, nothingDone, photosPastReducer, type Did } from '../src/features/photos/photosPast'
import { dayAfter, shortDay } from '../src/shared/days'
import {
  beginWishes,
  wishesReducer,
  type Asked,
  type WishesAction,
} from '../src/features/wishes/wishesMachine'
import { keepPast, withPast } from '../src/undo/keptPast'

const asked: Asked = {
  wishes: {
    fullness: 0,
    eyes: 'any',
    beard: 'any',
    ears: 'any',
    lengths: {},
    body_ends: 'ring',
    as_body: [],
  },
  words: '',
  traits: [],
}
const play = (...actions: WishesAction[]) => actions.reduce(wishesReducer, beginWishes(asked))

describe('wishes machine', () => {
  it('takes a whole sentence back at once, and each wish by itself', () => {
    const state = play(
      { type: 'say', words: 'e' },
      { type: 'say', words: 'ey' },
      { type: 'say', words: 'eyes' },
      { type: 'said' },
      { type: 'wish', change: { eyes: 'open' } },
      { type: 'traits', traits: ['old'] },
    )
    const back = [1, 2, 3].reduce<ReturnType<typeof play>[]>(
      (all) => [...all, wishesReducer(all.at(-1) ?? state, { type: 'undo' })],
      [],
    )
    expect(back.map((s) => [s.asked.traits.length, s.asked.wishes.eyes, s.asked.words])).toEqual([
      [0, 'open', 'eyes'],
      [0, 'any', 'eyes'],
      [0, 'any', ''],
    ])
    const last = back.at(-1)
    expect(last && wishesReducer(last, { type: 'redo' }).asked.words).toBe('eyes')
  })

  it('leads back from what another tablet said to what was here', () => {
    const state = play({ type: 'wish', change: { eyes: 'open' } }, { type: 'theirs', asked })
    expect(wishesReducer(state, { type: 'undo' }).asked.wishes.eyes).toBe('open')
  })
})

describe('what was done with photos', () => {
  const front: Place = { view: 'front', state: 'dry', spare: false, maybe: [] }
  const left: Place = { ...front, view: 'left' }
  const moved: Did = {
    kind: 'moved',
    moves: [
      { photo: 1, from: front, to: left },
      { photo: 2, from: left, to: front },
    ],
  }

  it('has an inverse for everything', () => {
    for (const did of [moved, { kind: 'added', photo: 2 }, { kind: 'removed', photo: 3 }] satisfies Did[])
      expect(inverse(inverse(did))).toEqual(did)
    expect(inverse(moved)).toEqual({
      kind: 'moved',
      moves: [
        { photo: 1, from: left, to: front },
        { photo: 2, from: front, to: left },
      ],
    })
  })

  it('goes back and forth and forgets the way forth once something new is done', () => {
    const done = photosPastReducer(nothingDone, { type: 'did', did: moved })
    const undone = photosPastReducer(done, { type: 'undone' })
    expect(undone).toEqual({ past: [], future: [moved] })
    expect(photosPastReducer(undone, { type: 'redone' })).toEqual(done)
    expect(photosPastReducer(undone, { type: 'did', did: moved }).future).toEqual([])
  })
})

describe('undo over a reload', () => {
  const shelf = () => {
    const kept = new Map<string, string>()
    return {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => void kept.set(key, value),
      removeItem: (key: string) => void kept.delete(key),
    }
  }

  it('comes back as long as what is there is what it led back from', () => {
    const on = shelf()
    keepPast({ past: [1, 2], future: [4] }, { then: 1, now: 3 }, 'a', on)
    const start = { past: [], future: [] }
    expect(withPast(start, { now: 3, then: 1 }, 'a', on)).toEqual({ past: [1, 2], future: [4] })
    expect(withPast(start, { now: 9 }, 'a', on)).toBe(start)
    expect(withPast(start, { now: 3 }, 'b', on)).toBe(start)
  })

  it('brings what is only here along', () => {
    const on = shelf()
    keepPast({ past: [], future: [] }, 'x', 'a', on, { family: 'teddy' })
    const start = { past: [], future: [], family: 'round' }
    expect(withPast(start, 'x', 'a', on).family).toBe('teddy')
  })

  it('goes without where the shelf is full', () => {
    const full = {
      setItem: () => {
        throw new Error('full')
      },
    }
    expect(() => keepPast({ past: [], future: [] }, 0, 'a', full)).not.toThrow()
  })
})

const visit = (id: number, came: number | null, drawn = true) =>
  ({
    id,
    lines: drawn ? { front: [[0, 0]] } : {},
    coat: came === null ? [] : [{ zone: 'crown', came_mm: came, left_mm: 10 }],
  }) as never

describe('a dog over time', () => {
  it('fades each outline by half and leaves out visits without one', () => {
    const found = outlinesOf([visit(1, null), visit(2, null, false), visit(3, null), visit(4, null)])
    expect(found.map((o) => [o.visit, o.opacity])).toEqual([
      [1, 0.25],
      [3, 0.5],
      [4, 1],
    ])
  })

  it('follows zones whose coat was ever known', () => {
    expect(zonesOver([visit(1, 30), visit(2, null), visit(3, 40)], 5)).toEqual(['crown'])
    expect(zonesOver([], 5)).toEqual([])
  })
})

describe('days', () => {
  it('go over the ends of months, years and summer time', () => {
    expect(dayAfter('2026-12-31', 1)).toBe('2027-01-01')
    expect(dayAfter('2028-03-01', -1)).toBe('2028-02-29')
    expect(dayAfter('2026-03-28', 1)).toBe('2026-03-29')
    expect(dayAfter('2026-10-25', 1)).toBe('2026-10-26')
  })

  it('name the year where it is another', () => {
    const now = new Date('2026-11-25')
    expect(shortDay('2026-08-19', now)).toBe('19 Aug')
    expect(shortDay('2025-08-19', now)).toBe('19 Aug 2025')
  })
})
