import type { Schemas } from '../../api/client'
import { noTimeline, undoable, type Timeline, type Undo } from '../../undo/undoable'

export type NextTime = Schemas['NextTimeOut']
export type Event = NextTime['events'][number]
type Said = Schemas['ForNextIn']['said'][string]
/** What was made of the note's parts, by part; one that is left out is told as it came. */
export type SaidOf = Readonly<Record<string, Said>>

export type NoteState = Timeline<SaidOf> & { readonly said: SaidOf }

export type NoteAction =
  { type: 'keep'; part: string; kept: boolean } | { type: 'word'; part: string; words: string } | Undo

export const beginNote = (said: SaidOf): NoteState => ({ said, ...noTimeline })

function reducer(state: NoteState, action: Exclude<NoteAction, Undo>): NoteState {
  const before = state.said[action.part] ?? { kept: true, words: '' }
  const after =
    action.type === 'keep' ? { ...before, kept: action.kept } : { ...before, words: action.words.trim() }
  return { ...state, said: { ...state.said, [action.part]: after } }
}

export const noteReducer = undoable<NoteState, SaidOf, NoteAction>(reducer, {
  partOf: (state) => state.said,
  lay: (state, said) => ({ ...state, said }),
})

/** The server's own parts as somebody has left them here. */
export const told = (next: NextTime, said: SaidOf) =>
  next.parts.map(({ part, kept }) => {
    const mine = said[part.id]
    return { ...part, kept: mine?.kept ?? kept, words: mine?.words || part.words }
  })

/** What was made of the parts, as the server has it. */
export const saidIn = (next: NextTime): SaidOf =>
  Object.fromEntries(next.parts.filter((p) => !p.kept).map((p) => [p.part.id, { kept: false, words: '' }]))

/** Weeks the strip shows: past the proposal and what shows near it. */
export function weeksShown(next: NextTime): number {
  const near = next.events.map((e) => Math.min(e.high, 16))
  return Math.min(26, Math.ceil(Math.max(8, (next.weeks ?? 0) + 2, ...near)))
}

/** Where a day lies on the strip, weeks after the cut. */
export const weeksTo = (from: string, day: string) =>
  (Date.parse(`${day}T12:00:00Z`) - Date.parse(`${from}T12:00:00Z`)) / (7 * 86_400_000)
