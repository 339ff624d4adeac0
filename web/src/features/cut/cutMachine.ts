import type { Schemas } from '../../api/client'

export type Step = Schemas['StepOut']
export type Entry = Schemas['EntryIn']
export type Log = Readonly<Record<string, Entry>>
/** Something said at the table. */
export type Sending = { readonly step: string; readonly entry: Entry }

/**
 * The cut at the table: the step that is shown, what was done, and what is not in the outbox yet.
 * held: notes, tool and length said of a step before it is done. spent: seconds on the screen by step, of times
 * that have ended; shownSince: when the present one began (ms), null while nobody looks.
 */
export type CutState = {
  readonly steps: readonly Step[]
  readonly at: string | null
  readonly log: Log
  readonly held: Readonly<Record<string, Partial<Entry>>>
  readonly spent: Readonly<Record<string, number>>
  readonly shownSince: number | null
  readonly past: readonly string[]
  /** Words taken back that can be given again, the last taken first. */
  readonly future: readonly Sending[]
  readonly queue: readonly Sending[]
}

export type CutAction =
  | { type: 'next'; nowMs: number }
  | { type: 'skip'; nowMs: number }
  | { type: 'back'; nowMs: number }
  | { type: 'go'; step: string; nowMs: number }
  | { type: 'undo'; nowMs: number }
  | { type: 'redo'; nowMs: number }
  | { type: 'note'; code: string }
  | { type: 'really'; tool?: string; lengthMm?: number | null }
  | { type: 'hidden'; nowMs: number }
  | { type: 'seen'; nowMs: number }
  | { type: 'handed_on'; sending: Sending }

const NOTHING: Entry = { state: 'open', tool: '', notes: [] }

/** What survives a reload: all but the sheet itself. */
export type Remembered = Pick<CutState, 'at' | 'held' | 'spent' | 'past' | 'future' | 'queue'>

/** The server's log with what was said here since laid over it. onTheWay: what is in the outbox. */
export function beginCut(
  steps: readonly Step[],
  log: Log,
  onTheWay: readonly Sending[],
  kept: Remembered | null,
): CutState {
  const known = new Set(steps.map((step) => step.id))
  const queue = (kept?.queue ?? []).filter((sending) => known.has(sending.step))
  const state: CutState = {
    steps,
    at: null,
    log: [...onTheWay, ...queue].reduce((now, { step, entry }) => laid(now, step, entry), log),
    held: kept?.held ?? {},
    spent: kept?.spent ?? {},
    shownSince: null,
    past: (kept?.past ?? []).filter((step) => known.has(step)),
    future: (kept?.future ?? []).filter((taken) => known.has(taken.step)),
    queue,
  }
  return { ...state, at: kept?.at && known.has(kept.at) ? kept.at : firstOpen(state) }
}

export const remembered = ({ at, held, spent, past, future, queue }: CutState): Remembered => ({
  at,
  held,
  spent,
  past,
  future,
  queue,
})

export const stepAt = (state: CutState): Step | undefined => state.steps.find((step) => step.id === state.at)
export const isDone = (state: CutState, step: string) => state.log[step] !== undefined
export const allDone = (state: CutState) => state.steps.every((step) => isDone(state, step.id))

/** Name and coat of a step: as it was kept, with what is held for it. */
export const saidOf = (state: CutState, step: string): Entry => ({
  ...NOTHING,
  ...state.log[step],
  ...state.held[step],
})

/** Seconds a step has been on the screen. */
export function secondsOn(state: CutState, step: string, nowMs: number): number {
  const running = state.at === step && state.shownSince !== null ? (nowMs - state.shownSince) / 1000 : 0
  return (state.spent[step] ?? 0) + Math.max(running, 0)
}

/** The next place where the dog may go home, from the shown step on. */
export function nextEnd(state: CutState): { step: Step; steps: number; minutes: number } | null {
  const from = state.steps.findIndex((step) => step.id === state.at)
  const ahead = state.steps.slice(Math.max(from, 0))
  const at = ahead.findIndex((step) => step.may_end)
  const step = ahead[at]
  if (!step) return null
  const open = ahead.slice(0, at + 1).filter((one) => !isDone(state, one.id))
  return { step, steps: open.length, minutes: open.reduce((sum, one) => sum + one.minutes, 0) }
}

export function cutReducer(state: CutState, action: CutAction): CutState {
  switch (action.type) {
    case 'next': {
      const now = rested(state, action.nowMs)
      // A step looked at again keeps its first word.
      return ahead(state.at && isDone(state, state.at) ? now : said(now, 'done', action.nowMs), action.nowMs)
    }
    case 'skip':
      return ahead(said(rested(state, action.nowMs), 'skipped', action.nowMs), action.nowMs)
    case 'back':
      return shown(rested(state, action.nowMs), neighbour(state, -1), action.nowMs)
    case 'go':
      return shown(rested(state, action.nowMs), action.step, action.nowMs)
    case 'undo': {
      const last = state.past.at(-1)
      if (!last) return state
      const back = shown(rested(state, action.nowMs), last, action.nowMs)
      const entry = state.log[last]
      const future = entry ? [{ step: last, entry }, ...state.future] : state.future
      return { ...kept(back, last, { ...NOTHING }), past: state.past.slice(0, -1), future }
    }
    case 'redo': {
      const [taken, ...future] = state.future
      if (!taken) return state
      const again = kept(rested(state, action.nowMs), taken.step, taken.entry)
      const past = [...state.past, taken.step]
      return ahead({ ...again, at: taken.step, past, future }, action.nowMs)
    }
    case 'note': {
      if (!state.at) return state
      const notes = saidOf(state, state.at).notes ?? []
      const now = notes.includes(action.code)
        ? notes.filter((note) => note !== action.code)
        : [...notes, action.code]
      return held(state, { notes: now })
    }
    case 'really':
      return held(state, {
        ...(action.tool === undefined ? {} : { tool: action.tool }),
        ...(action.lengthMm === undefined ? {} : { length_mm: action.lengthMm }),
      })
    case 'hidden':
      return rested(state, action.nowMs)
    case 'seen':
      return state.shownSince === null ? { ...state, shownSince: action.nowMs } : state
    case 'handed_on':
      return { ...state, queue: state.queue.filter((sending) => sending !== action.sending) }
  }
}

/** The shown step's time so far put away. */
function rested(state: CutState, nowMs: number): CutState {
  if (!state.at) return { ...state, shownSince: null }
  const spent = { ...state.spent, [state.at]: secondsOn(state, state.at, nowMs) }
  return { ...state, spent, shownSince: null }
}

/** The shown step done or skipped. */
function said(state: CutState, how: 'done' | 'skipped', nowMs: number): CutState {
  if (!state.at) return state
  const entry: Entry = {
    ...saidOf(state, state.at),
    state: how,
    seconds: how === 'done' ? Math.round((state.spent[state.at] ?? 0) * 10) / 10 : null,
    at: new Date(nowMs).toISOString(),
  }
  return { ...kept(state, state.at, entry), past: [...state.past, state.at], future: [] }
}

/** An entry in the log and on its way; one for the same step before it is overtaken. */
function kept(state: CutState, step: string, entry: Entry): CutState {
  const held = Object.fromEntries(Object.entries(state.held).filter(([id]) => id !== step))
  const queue = [...state.queue.filter((sending) => sending.step !== step), { step, entry }]
  return { ...state, log: laid(state.log, step, entry), held, queue }
}

function laid(log: Log, step: string, entry: Entry): Log {
  if (entry.state !== 'open') return { ...log, [step]: entry }
  return Object.fromEntries(Object.entries(log).filter(([id]) => id !== step))
}

/** Said of the shown step: kept at once where it is done already, else until it is. */
function held(state: CutState, part: Partial<Entry>): CutState {
  if (!state.at) return state
  const done = state.log[state.at]
  if (done) return kept(state, state.at, { ...done, ...part })
  return { ...state, held: { ...state.held, [state.at]: { ...state.held[state.at], ...part } } }
}

const shown = (state: CutState, step: string | null, nowMs: number): CutState => ({
  ...state,
  at: step ?? state.at,
  shownSince: nowMs,
})

/** On to the next step that is not done; past the last one, to the first that was left. */
function ahead(state: CutState, nowMs: number): CutState {
  const from = state.steps.findIndex((step) => step.id === state.at)
  const open = state.steps.slice(from + 1).find((step) => !isDone(state, step.id))
  return shown(state, open?.id ?? firstOpen(state), nowMs)
}

const firstOpen = (state: CutState): string | null =>
  state.steps.find((step) => !isDone(state, step.id))?.id ?? state.steps.at(-1)?.id ?? null

function neighbour(state: CutState, by: number): string | null {
  const from = state.steps.findIndex((step) => step.id === state.at)
  return state.steps[from + by]?.id ?? null
}
