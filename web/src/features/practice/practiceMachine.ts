import type { Schemas } from '../../api/client'
import { noTimeline, undoable, type Timeline, type Undo } from '../../undo/undoable'

export type Task = Schemas['TaskOut']
export type Answer = Schemas['AnswerIn']['answer']
export type Side = 'left' | 'right'
type Ray = Schemas['RayGiven']
/** A mark as it was set: where on the picture (shares of it, or px of a photo), and what the finger pointed along. */
export type Placed = { readonly x: number; readonly y: number; readonly ray: Ray | null }

/** What a person has said so far of one question; what its drill does not ask stays empty. */
export type Draft = {
  readonly marks: Readonly<Record<string, Placed>>
  /** The mark that the next press sets; null once all are. */
  readonly active: string | null
  readonly guess: number | null
  readonly within: number | null
  readonly place: { readonly zone: string; readonly side: Side } | null
  readonly mm: number
  readonly order: readonly string[]
  readonly why: string
  readonly family: string
  readonly lengths: Readonly<Record<string, number>>
  readonly tools: Readonly<Record<string, string>>
}

/** last: what was turned last, so that a drag is one step. */
export type PracticeState = Timeline<Draft> & {
  readonly task: Task
  readonly draft: Draft
  readonly last: string
}

export type PracticeAction =
  | { type: 'mark'; at: Placed }
  | { type: 'choose'; mark: string }
  | { type: 'guess'; value: number | null }
  | { type: 'within'; percent: number }
  | { type: 'place'; zone: string; side: Side }
  | { type: 'amount'; mm: number }
  | { type: 'rank'; id: string }
  | { type: 'why'; id: string }
  | { type: 'family'; id: string }
  | { type: 'length'; zone: string; mm: number }
  | { type: 'tool'; zone: string; id: string }
  | Undo

const USUAL_AMOUNT_MM = 3

export const begin = (task: Task): PracticeState => ({
  task,
  draft: {
    marks: {},
    active: task.marks[0]?.id ?? null,
    guess: null,
    within: null,
    place: null,
    mm: USUAL_AMOUNT_MM,
    order: [],
    why: '',
    family: '',
    lengths: Object.fromEntries(task.zones.map((zone) => [zone.zone, zone.now_mm])),
    tools: {},
  },
  last: '',
  ...noTimeline,
})

/** What a drag turns; empty for what is pressed. */
const turned = (action: PracticeAction) =>
  action.type === 'guess' || action.type === 'amount'
    ? action.type
    : action.type === 'length'
      ? `length ${action.zone}`
      : ''

function changed(task: Task, draft: Draft, action: Exclude<PracticeAction, Undo>): Draft {
  switch (action.type) {
    case 'mark': {
      if (!draft.active) return draft
      const marks = { ...draft.marks, [draft.active]: action.at }
      return { ...draft, marks, active: task.marks.find((mark) => !(mark.id in marks))?.id ?? null }
    }
    case 'choose':
      return { ...draft, active: action.mark }
    case 'guess':
      return { ...draft, guess: action.value }
    case 'within':
      return { ...draft, within: action.percent }
    case 'place':
      return { ...draft, place: { zone: action.zone, side: action.side } }
    case 'amount':
      return { ...draft, mm: action.mm }
    case 'rank':
      // A second press takes it out again.
      return {
        ...draft,
        order: draft.order.includes(action.id)
          ? draft.order.filter((id) => id !== action.id)
          : [...draft.order, action.id],
      }
    case 'why':
      return { ...draft, why: action.id }
    case 'family':
      return { ...draft, family: action.id }
    case 'length':
      return { ...draft, lengths: { ...draft.lengths, [action.zone]: action.mm } }
    case 'tool':
      return { ...draft, tools: { ...draft.tools, [action.zone]: action.id } }
  }
}

export const practiceReducer = undoable<PracticeState, Draft, PracticeAction>(
  (state, action) => ({ ...state, draft: changed(state.task, state.draft, action), last: turned(action) }),
  {
    partOf: (state) => state.draft,
    lay: (state, draft) => ({ ...state, draft, last: '' }),
    joins: (state, action) => turned(action) !== '' && turned(action) === state.last,
  },
)

/** The answer that a draft is; null while something is missing. */
export function answerOf({ task, draft }: PracticeState): Answer | null {
  switch (task.drill) {
    case 'bone':
      return task.marks.every((mark) => mark.id in draft.marks)
        ? boneAnswer(draft, task.photo !== null)
        : null
    case 'eye':
      return draft.guess !== null && draft.within !== null
        ? { drill: 'eye', guess: draft.guess, within: draft.within }
        : null
    case 'long_side':
      return draft.place && { drill: 'long_side', ...draft.place, mm: draft.mm }
    case 'suits':
      return draft.order.length === task.families.length && draft.why
        ? { drill: 'suits', order: [...draft.order], why: draft.why }
        : null
    case 'plan':
      return draft.family && task.zones.every((z) => draft.tools[z.zone] && draft.order.includes(z.zone))
        ? {
            drill: 'plan',
            family: draft.family,
            lengths: { ...draft.lengths },
            tools: { ...draft.tools },
            order: [...draft.order],
          }
        : null
  }
}

function boneAnswer({ marks }: Draft, onPhoto: boolean): Answer {
  const set = Object.entries(marks)
  return {
    drill: 'bone',
    rays: onPhoto ? {} : Object.fromEntries(set.flatMap(([id, m]) => (m.ray ? [[id, m.ray]] : []))),
    px: onPhoto ? Object.fromEntries(set.map(([id, m]) => [id, [m.x, m.y] as [number, number]])) : {},
  }
}

/** What is still missing, as a sentence for the button's place. */
export function missing({ task, draft }: PracticeState): string {
  switch (task.drill) {
    case 'bone':
      return draft.active ? 'Set every mark.' : ''
    case 'eye':
      return draft.guess === null ? 'Say a number.' : draft.within === null ? 'How sure are you?' : ''
    case 'long_side':
      return draft.place ? '' : 'Press the place that is long.'
    case 'suits':
      return draft.order.length < task.families.length
        ? 'Press them in order, best first.'
        : draft.why
          ? ''
          : 'What speaks most against the last?'
    case 'plan':
      if (!draft.family) return 'Choose an outline.'
      if (task.zones.some((z) => !draft.tools[z.zone])) return 'A tool for each place.'
      return draft.order.length < task.zones.length ? 'Press the places in the order you cut them.' : ''
  }
}

/** A figure of a drill as it is said. */
export const figure = (value: number, unit: string) =>
  unit === 'mm' ? value.toFixed(1) : String(Math.round(100 * value))

export const figureUnit = (unit: string) => (unit === 'mm' ? 'mm' : '%')
