import { describe, expect, it } from 'vitest'
import { noTimeline, undoable, type Timeline, type Undo } from '../src/undo/undoable'

type State = Timeline<number> & { readonly n: number; readonly looked: number; readonly dragging: boolean }
type Action =
  | { type: 'add'; by: number }
  | { type: 'drag'; to: number }
  | { type: 'look' }
  | { type: 'recalled'; past: number[] }
  | Undo

const begin: State = { n: 0, looked: 0, dragging: false, ...noTimeline }
const machine = undoable<State, number, Action>(
  (state, action) => {
    switch (action.type) {
      case 'add':
        return { ...state, n: state.n + action.by, dragging: false }
      case 'drag':
        return { ...state, n: action.to, dragging: true }
      case 'look':
        return { ...state, looked: state.looked + 1 }
      case 'recalled':
        return { ...state, n: 9, past: action.past }
    }
  },
  {
    partOf: (state) => state.n,
    lay: (state, n) => ({ ...state, n, dragging: false }),
    joins: (state, action) => state.dragging && action.type === 'drag',
    most: 3,
  },
)
const add = (by: number): Action => ({ type: 'add', by })
const drag = (to: number): Action => ({ type: 'drag', to })
const play = (...actions: Action[]) => actions.reduce(machine, begin)
const undo: Undo = { type: 'undo' }
const redo: Undo = { type: 'redo' }

describe('undo and redo', () => {
  it('lead back and forth one step at a time', () => {
    const state = play(add(1), add(2), add(4))
    expect(machine(state, undo).n).toBe(3)
    expect(play(add(1), add(2), add(4), undo, undo).n).toBe(1)
    expect(play(add(1), add(2), add(4), undo, undo, redo).n).toBe(3)
    expect(play(add(1), add(2), undo, undo, undo).n).toBe(0)
    expect(play(add(1), redo).n).toBe(1)
  })

  it('forget what was taken back once something new is done', () => {
    const state = play(add(1), add(2), undo, add(8))
    expect(state.n).toBe(9)
    expect(machine(state, redo)).toBe(state)
  })

  it('count a whole drag as one step, and a new drag after a rest as another', () => {
    const dragged = play(drag(1), drag(2), drag(3))
    expect(dragged.past).toEqual([0])
    expect(machine(dragged, undo).n).toBe(0)
    expect(play(drag(1), drag(2), add(1), drag(5), drag(6), undo).n).toBe(3)
    expect(play(drag(1), drag(2), undo, redo).n).toBe(2)
  })

  it('take no step for what leaves the part alone', () => {
    const state = play(add(1), { type: 'look' }, { type: 'look' })
    expect(state.past).toEqual([0])
    expect(machine(state, undo)).toMatchObject({ n: 0, looked: 2 })
  })

  it('keep a timeline that comes from before a reload', () => {
    expect(play(add(1), { type: 'recalled', past: [4, 5] }, undo).n).toBe(5)
  })

  it('remember so many steps and no more', () => {
    const state = play(add(1), add(1), add(1), add(1), add(1))
    expect(state.past).toEqual([2, 3, 4])
  })
})
