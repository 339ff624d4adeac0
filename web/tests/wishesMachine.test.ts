import { describe, expect, it } from 'vitest'
import {
  beginWishes,
  wishesReducer,
  type Asked,
  type WishesAction,
} from '../src/features/wishes/wishesMachine'

const asked: Asked = {
  wishes: {
    fullness: 0,
    eyes: 'any',
    beard: 'any',
    ears: 'any',
    lengths: {},
    body_ends: 'ring',
    as_body: [],
    weeks_between: null,
  },
  words: '',
  traits: [],
}
const play = (...actions: WishesAction[]) => actions.reduce(wishesReducer, beginWishes(asked))

describe('wishes', () => {
  it('change one at a time and leave the others', () => {
    const state = play(
      { type: 'wish', change: { eyes: 'open' } },
      { type: 'wish', change: { weeks_between: 6 } },
    )
    expect(state.asked.wishes).toEqual({ ...asked.wishes, eyes: 'open', weeks_between: 6 })
    expect(state.asked.words).toBe('')
  })

  it('take a whole sentence back at once, and each other change by itself', () => {
    const said = play(
      { type: 'wish', change: { beard: 'short' } },
      ...['n', 'no', 'not', 'not round'].map((words) => ({ type: 'say', words }) as const),
      { type: 'said' },
      { type: 'say', words: 'not round, please' },
    )
    const once = wishesReducer(said, { type: 'undo' })
    expect(once.asked.words).toBe('not round')
    const twice = wishesReducer(once, { type: 'undo' })
    expect(twice.asked.words).toBe('')
    expect(twice.asked.wishes.beard).toBe('short')
    expect(wishesReducer(twice, { type: 'undo' }).asked).toEqual(asked)
  })

  it('bring back what was taken back, until something new is wished', () => {
    const back = play({ type: 'wish', change: { ears: 'keep' } }, { type: 'undo' })
    expect(wishesReducer(back, { type: 'redo' }).asked.wishes.ears).toBe('keep')
    const other = wishesReducer(back, { type: 'wish', change: { ears: 'short' } })
    expect(wishesReducer(other, { type: 'redo' })).toBe(other)
  })

  it('take over what another tablet wished, and undo leads back to their own', () => {
    const theirs = { ...asked, words: 'theirs' }
    const state = play({ type: 'say', words: 'mine' }, { type: 'said' }, { type: 'theirs', asked: theirs })
    expect(state.asked).toEqual(theirs)
    expect(wishesReducer(state, { type: 'undo' }).asked.words).toBe('mine')
  })

  it('keep what the dog minds beside them', () => {
    const state = play({ type: 'traits', traits: ['old', 'minds_ears'] })
    expect(state.asked.traits).toEqual(['old', 'minds_ears'])
    expect(state.asked.wishes).toBe(asked.wishes)
  })
})
