/**
 * Changes on their way to the server. Each is the newest wish for one part (a photo's marks, a dog's wishes, …), made
 * on top of a version of it. Changes of one part go in their order; a part that waits for its user holds up no other.
 */
export type Change = {
  readonly id: number
  readonly part: string
  /** For the screen, if this change needs its user: "The wishes of Fogbell". */
  readonly words: string
  readonly path: string
  readonly body: unknown
  /** The version it was made on; null where the one before it, still on its way, will make it. */
  readonly base: string | null
  readonly state: Waiting | Refused | Overtaken
}
type Waiting = { readonly kind: 'waiting' }
type Refused = { readonly kind: 'refused'; readonly reason: string }
type Overtaken = { readonly kind: 'overtaken'; readonly reason: string; readonly version: string }

/** sending: the change that is on the wire; away: the server did not answer the last time. */
export type Outbox = {
  readonly changes: readonly Change[]
  readonly sending: number | null
  readonly away: boolean
  readonly next: number
}

export type Wish = Pick<Change, 'part' | 'words' | 'path' | 'body' | 'base'>

export type OutboxAction =
  | { type: 'put'; wish: Wish }
  | { type: 'sending'; id: number }
  | { type: 'kept'; id: number; version: string | null }
  | { type: 'away' }
  | { type: 'refused'; id: number; reason: string }
  | { type: 'overtaken'; id: number; reason: string; version: string }
  | { type: 'mine'; part: string }
  | { type: 'theirs'; part: string }

export const empty: Outbox = { changes: [], sending: null, away: false, next: 1 }

/** What a browser kept: nothing is on the wire after a reload. */
export const recalled = (kept: Pick<Outbox, 'changes' | 'next'>): Outbox => ({ ...empty, ...kept })

export const of = (box: Outbox, part: string) => box.changes.filter((change) => change.part === part)

/** Changes of all parts whose names begin so. */
export const withPrefix = (box: Outbox, prefix: string) =>
  box.changes.filter((change) => change.part.startsWith(prefix))

/** The newest wish for a part, as long as it is not kept yet. */
export const wished = (box: Outbox, part: string): unknown => of(box, part).at(-1)?.body

/** The first change that may go now: none of its part is before it, and its user is not asked. */
export const due = (box: Outbox): Change | undefined =>
  box.sending === null
    ? box.changes.find((change, i) => {
        const before = box.changes.slice(0, i).some((other) => other.part === change.part)
        return !before && change.state.kind === 'waiting'
      })
    : undefined

export const asking = (box: Outbox) => box.changes.filter((change) => change.state.kind !== 'waiting')

export function outboxReducer(box: Outbox, action: OutboxAction): Outbox {
  switch (action.type) {
    case 'put':
      return put(box, action.wish)
    case 'sending':
      return { ...box, sending: action.id }
    case 'kept': {
      const sent = box.changes.find((change) => change.id === action.id)
      const changes = box.changes
        .filter((change) => change.id !== action.id)
        .map((change) =>
          change.part === sent?.part && change.base === null ? { ...change, base: action.version } : change,
        )
      return { ...box, changes, sending: null, away: false }
    }
    case 'away':
      return { ...box, sending: null, away: true }
    case 'refused':
      return asked(box, action.id, { kind: 'refused', reason: action.reason })
    case 'overtaken':
      return asked(box, action.id, {
        kind: 'overtaken',
        reason: action.reason,
        version: action.version,
      })
    case 'mine':
      return {
        ...box,
        changes: newestAlone(box, action.part).map((change) =>
          change.part === action.part && change.state.kind === 'overtaken'
            ? { ...change, base: change.state.version, state: { kind: 'waiting' } }
            : change,
        ),
      }
    case 'theirs':
      return { ...box, changes: box.changes.filter((change) => change.part !== action.part) }
  }
}

/** A new wish replaces one that still waits; what is on the wire stays, and the wish follows it. */
function put(box: Outbox, wish: Wish): Outbox {
  const before = of(box, wish.part)
  const onWire = before.find((change) => change.id === box.sending)
  const waiting = before.find((change) => change.id !== box.sending)
  if (waiting) {
    // What was refused is tried again with the new wish; what was overtaken still waits for its user.
    const state = waiting.state.kind === 'refused' ? ({ kind: 'waiting' } as const) : waiting.state
    const changed = { ...waiting, body: wish.body, state }
    return { ...box, changes: box.changes.map((change) => (change === waiting ? changed : change)) }
  }
  const change: Change = {
    ...wish,
    id: box.next,
    base: onWire ? null : wish.base,
    state: { kind: 'waiting' },
  }
  return { ...box, changes: [...box.changes, change], next: box.next + 1 }
}

function asked(box: Outbox, id: number, state: Refused | Overtaken): Outbox {
  const changes = box.changes.map((change) => (change.id === id ? { ...change, state } : change))
  return { ...box, changes, sending: null, away: false }
}

/** Of a part's changes the newest wish in the place of the one that was asked about. */
function newestAlone(box: Outbox, part: string): readonly Change[] {
  const [first, ...later] = of(box, part)
  if (!first) return box.changes
  const body = later.at(-1)?.body ?? first.body
  return box.changes
    .filter((change) => change.part !== part || change === first)
    .map((change) => (change === first ? { ...change, body } : change))
}
