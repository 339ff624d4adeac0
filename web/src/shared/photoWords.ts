import type { State, View } from '../api/client'

export const STATES: { id: State; words: string; hint: string }[] = [
  { id: 'dry', words: 'Dry, before', hint: 'combed out: shows the coat' },
  { id: 'wet', words: 'Wet', hint: 'after the bath: shows the head' },
  { id: 'finished', words: 'Finished', hint: 'after the cut' },
]

export type ViewWords = { id: View; words: string; how: string; needed: boolean }

export const VIEWS: ViewWords[] = [
  {
    id: 'front',
    words: 'Front',
    how: 'Nose to the lens, level with the eyes, an arm’s length away.',
    needed: true,
  },
  {
    id: 'left',
    words: 'The dog’s left side',
    how: 'Nose to the left edge, lens level with the eye.',
    needed: true,
  },
  { id: 'right', words: 'The dog’s right side', how: 'Nose to the right edge.', needed: false },
  { id: 'top', words: 'From above', how: 'Nose up the picture.', needed: false },
]

/** Views that can be chosen for a photo but have no slot of their own on the sheet. */
export const OTHER_VIEWS: { id: View; words: string }[] = [
  { id: 'back', words: 'From behind' },
  { id: 'three_quarter_left', words: 'Half from the left' },
  { id: 'three_quarter_right', words: 'Half from the right' },
]

export const viewWords = (view: View) => [...VIEWS, ...OTHER_VIEWS].find((v) => v.id === view)?.words ?? view
export const stateWords = (state: State) => STATES.find((s) => s.id === state)?.words ?? state
