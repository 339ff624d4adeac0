import { describe, expect, it } from 'vitest'
import {
  beginKit,
  freeId,
  kitReducer,
  type Kit,
  type KitAction,
  type Tool,
} from '../src/features/kit/kitMachine'
import { cutLength } from '../src/ui/units'

const BLADE: Tool = { id: 'blade-10', kind: 'blade', name: '10', use: 'clip', leaves_mm: 1.5 }
const KIT: Kit = {
  tools: [BLADE, { id: 'guard-3', kind: 'guard', name: '3 mm guard', use: 'clip', leaves_mm: 3 }],
  against_share: 0.5,
  skin: { first_mm: 1.5, then_mm: [1.2], white_mm: 1.5, sore_mm: 3.2 },
  stylists: [{ name: 'Oriel', hand: 'left', awkward_side: null, awkward: 'first', work: 'clip_first' }],
}

const play = (...actions: KitAction[]) => actions.reduce(kitReducer, beginKit(KIT))

describe('kit machine', () => {
  it('changes one tool and leaves the others', () => {
    const { kit } = play({ type: 'tool', id: 'blade-10', change: { leaves_mm: 1.6 } })
    expect(kit.tools.map((t) => t.leaves_mm)).toEqual([1.6, 3])
  })

  it('takes every change back and brings it again', () => {
    const changed = play(
      { type: 'remove_tool', id: 'guard-3' },
      { type: 'add_stylist', name: 'Benno' },
      { type: 'stylist', at: 1, change: { awkward: 'last' } },
      { type: 'set', change: { against_share: 0.6 } },
    )
    const back = [1, 2, 3, 4].reduce((state) => kitReducer(state, { type: 'undo' }), changed)
    expect(back.kit).toEqual(KIT)
    expect(kitReducer(back, { type: 'undo' })).toBe(back)
    const again = [1, 2, 3, 4].reduce((state) => kitReducer(state, { type: 'redo' }), back)
    expect(again.kit).toEqual(changed.kit)
    expect(kitReducer(again, { type: 'redo' })).toBe(again)
  })

  it('forgets what was taken back once something else is changed', () => {
    const state = play(
      { type: 'remove_stylist', at: 0 },
      { type: 'undo' },
      { type: 'add_stylist', name: 'Benno' },
    )
    expect(state.future).toEqual([])
    expect(state.kit.stylists.map((s) => s.name)).toEqual(['Oriel', 'Benno'])
  })

  it('gives new tools ids that none has', () => {
    const once = play({ type: 'add_tool', tool: { ...BLADE, id: freeId(KIT, 'blade') } })
    expect(new Set([...once.kit.tools.map((t) => t.id), freeId(once.kit, 'blade')]).size).toBe(4)
  })
})

describe('lengths as they are cut', () => {
  it.each([
    [1.5, 'mm', '1.5'],
    [0.25, 'mm', '0.25'],
    [3, 'mm', '3'],
    [22.4, 'mm', '22'],
    [1.5, 'in', '0.06″'],
    [25.4, 'in', '1″'],
    [12.7, 'in', '1/2″'],
  ] as const)('%s mm in %s is %s', (mm, unit, words) => {
    expect(cutLength(mm, unit)).toBe(words)
  })
})
