import { describe, expect, it } from 'vitest'
import type { Schemas } from '../src/api/client'
import { dayIn, pairsOf, verdictWords } from '../src/features/outline/words'
import { outlinesOf, zonesOver } from '../src/shared/outlines'
import { choiceWords, zoneWords } from '../src/shared/words'

type Visit = Schemas['VisitThenOut']
const visit = (id: number, more: Partial<Visit> = {}) => ({ id, lines: {}, coat: [], ...more }) as Visit
const outlined = (id: number) => visit(id, { lines: { front: [[0, 0]] } as Visit['lines'] })
const coat = (...zones: [string, number][]) =>
  zones.map(([zone, came_mm]) => ({ zone, came_mm })) as unknown as Visit['coat']

describe('a dog over time', () => {
  it('fades each outline by half with each one since, and shows four at most', () => {
    const shown = outlinesOf([1, 2, 3, 4, 5, 6].map(outlined))
    expect(shown.map((one) => one.visit)).toEqual([3, 4, 5, 6])
    expect(shown.map((one) => one.opacity)).toEqual([0.125, 0.25, 0.5, 1])
  })

  it('passes over visits on which none was kept', () => {
    expect(outlinesOf([outlined(1), visit(2), outlined(3)]).map((one) => one.visit)).toEqual([1, 3])
    expect(outlinesOf([visit(1)])).toEqual([])
  })

  it('tells zones that were read most often first, then those that moved most', () => {
    const visits = [
      visit(1, { coat: coat(['crown', 20], ['jaw', 10], ['nape', 8]) }),
      visit(2, { coat: coat(['crown', 22], ['jaw', 30]) }),
    ]
    expect(zonesOver(visits, 3)).toEqual(['jaw', 'crown', 'nape'])
    expect(zonesOver(visits, 1)).toEqual(['jaw'])
    expect(zonesOver([], 3)).toEqual([])
  })
})

describe('when an outline can be cut', () => {
  const of = (verdict: string, weeks = 0, weeks_low = weeks, weeks_high = weeks, comb_first: string[] = []) =>
    verdictWords({ verdict, weeks, weeks_low, weeks_high, comb_first } as unknown as Parameters<
      typeof verdictWords
    >[0])

  it('is not said to be today where it rests on a coat that nobody saw', () => {
    expect(of('today', 0, 0, 0, ['crown'])).toBe('comb first')
    expect(of('later', 3, 2, 4, ['crown'])).toBe('in 2–4 weeks')
  })

  it('is said at a glance', () => {
    expect(of('today')).toBe('today')
    expect(of('not_on_this_coat', 40)).toBe('not on this coat')
    expect(of('later', 1)).toBe('in 1 week')
    expect(of('later', 5)).toBe('in 5 weeks')
    expect(of('later', 5, 4, 7)).toBe('in 4–7 weeks')
  })

  it('is a day on a card', () => {
    expect(dayIn(6, new Date('2026-11-27T12:00:00'))).toBe('8 January')
    expect(dayIn(0, new Date('2026-11-27T12:00:00'))).toBe('27 November')
  })
})

describe('zones', () => {
  it('come in pairs, left first, and those of one side alone are left out', () => {
    const zones = ['crown left', 'crown right', 'jaw right', 'nape right', 'nape left'].map((words) => {
      const [zone, side] = words.split(' ')
      return { zone, side }
    })
    const pairs = pairsOf(zones as unknown as Parameters<typeof pairsOf>[0])
    expect(pairs.map((pair) => pair.zone)).toEqual(['crown', 'nape'])
    for (const { left, right } of pairs) expect([left.side, right.side]).toEqual(['left', 'right'])
  })

  it('are said as a stylist says them', () => {
    expect(zoneWords('ear_base_front')).toBe('ear base front')
    expect(choiceWords('two_cuts')).toBe('two cuts')
  })
})
