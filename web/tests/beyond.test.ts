import { describe, expect, it } from 'vitest'
import { inPlaces } from '../src/features/outline/places'
import type { Schemas, Thumb } from '../src/api/client'
import { beyondOf } from '../src/ui/useBeyond'
import { largestThatFits } from '../src/ui/useFitted'

describe('what lies beyond an edge', () => {
  it.each([
    [0, 100, 100, false, false],
    [0, 100, 103, false, false],
    [0, 100, 160, false, true],
    [30, 100, 160, true, true],
    [60, 100, 160, true, false],
  ])('scrolled %i, shown %i of %i', (scrolled, shown, whole, before, after) =>
    expect(beyondOf(scrolled, shown, whole)).toEqual({ before, after }),
  )
})

describe('letters as large as their room takes them', () => {
  const scales = [2, 1.5, 1, 0.9]
  it('are the largest that fit', () => {
    expect(largestThatFits((scale) => scale * 100 <= 160, scales)).toBe(1.5)
  })
  it('are the least where none fits', () => {
    expect(largestThatFits(() => false, scales)).toBe(0.9)
  })
})

describe('the strip of outlines', () => {
  const choices = ['round', 'teddy', 'brick'].map((key) => ({ key, name: key }) as Schemas['ChoiceOut'])
  const thumb = (family: string, rank: number) => ({ family, rank }) as Thumb
  const keys = (found: Thumb[], ranked: string) => inPlaces(choices, found, ranked).map((p) => p.key)

  it('holds still while outlines come one by one', () => {
    expect(keys([], '')).toEqual(['round', 'teddy', 'brick'])
    expect(keys([thumb('brick', 1)], '')).toEqual(['round', 'teddy', 'brick'])
  })
  it('stands best first as it did when all were there, and a new one comes last', () => {
    expect(keys([thumb('round', 1)], 'brick,round')).toEqual(['brick', 'round', 'teddy'])
    expect(inPlaces(choices, [thumb('teddy', 3)], '').map((p) => p.thumb?.rank ?? null)).toEqual([
      null,
      3,
      null,
    ])
  })
})
