import type { Schemas } from '../../api/client'

export type Kit = Schemas['KitIO']
export type Tool = Kit['tools'][number]
export type Stylist = Kit['stylists'][number]

/** The kit being edited: as it is now, and what it was before. */
export type KitState = { readonly kit: Kit; readonly past: readonly Kit[]; readonly future: readonly Kit[] }

export type KitAction =
  | { type: 'tool'; id: string; change: Partial<Tool> }
  | { type: 'add_tool'; tool: Tool }
  | { type: 'remove_tool'; id: string }
  | { type: 'stylist'; at: number; change: Partial<Stylist> }
  | { type: 'add_stylist'; name: string }
  | { type: 'remove_stylist'; at: number }
  | { type: 'set'; change: Partial<Pick<Kit, 'against_share' | 'skin' | 'tools'>> }
  | { type: 'undo' }
  | { type: 'redo' }

const REMEMBERED = 60

export const beginKit = (kit: Kit): KitState => ({ kit, past: [], future: [] })

export function kitReducer(state: KitState, action: KitAction): KitState {
  const { kit, past, future } = state
  switch (action.type) {
    case 'undo': {
      const before = past.at(-1)
      return before ? { kit: before, past: past.slice(0, -1), future: [kit, ...future] } : state
    }
    case 'redo': {
      const [after, ...rest] = future
      return after ? { kit: after, past: [...past, kit], future: rest } : state
    }
    default:
      return { kit: changed(kit, action), past: [...past, kit].slice(-REMEMBERED), future: [] }
  }
}

function changed(kit: Kit, action: Exclude<KitAction, { type: 'undo' | 'redo' }>): Kit {
  switch (action.type) {
    case 'tool':
      return { ...kit, tools: kit.tools.map((t) => (t.id === action.id ? { ...t, ...action.change } : t)) }
    case 'add_tool':
      return { ...kit, tools: [...kit.tools, action.tool] }
    case 'remove_tool':
      return { ...kit, tools: kit.tools.filter((t) => t.id !== action.id) }
    case 'stylist':
      return {
        ...kit,
        stylists: kit.stylists.map((s, i) => (i === action.at ? { ...s, ...action.change } : s)),
      }
    case 'add_stylist': {
      const stylist = {
        name: action.name,
        hand: 'right',
        awkward_side: null,
        awkward: 'first',
        work: 'clip_first',
      } as const
      return { ...kit, stylists: [...kit.stylists, stylist] }
    }
    case 'remove_stylist':
      return { ...kit, stylists: kit.stylists.filter((_, i) => i !== action.at) }
    case 'set':
      return { ...kit, ...action.change }
  }
}

/** An id that no tool has yet. */
export function freeId(kit: Kit, kind: string): string {
  let n = kit.tools.length + 1
  while (kit.tools.some((tool) => tool.id === `${kind}-own-${n}`)) n += 1
  return `${kind}-own-${n}`
}
