import type { Schemas } from '../../api/client'
import { noTimeline, undoable, type Timeline, type Undo } from '../../undo/undoable'

export type Kit = Schemas['KitIO']
export type Tool = Kit['tools'][number]
export type Stylist = Kit['stylists'][number]

/** The kit being edited: as it is now, and what it was before. */
export type KitState = Timeline<Kit> & { readonly kit: Kit }

export type KitAction =
  | { type: 'tool'; id: string; change: Partial<Tool> }
  | { type: 'add_tool'; tool: Tool }
  | { type: 'remove_tool'; id: string }
  | { type: 'stylist'; at: number; change: Partial<Stylist> }
  | { type: 'add_stylist'; name: string }
  | { type: 'remove_stylist'; at: number }
  | { type: 'set'; change: Partial<Pick<Kit, 'against_share' | 'skin' | 'tools'>> }
  | Undo

export const beginKit = (kit: Kit): KitState => ({ kit, ...noTimeline })

export const kitReducer = undoable<KitState, Kit, KitAction>(
  (state, action) => ({ ...state, kit: changed(state.kit, action) }),
  { partOf: (state) => state.kit, lay: (state, kit) => ({ ...state, kit }) },
)

function changed(kit: Kit, action: Exclude<KitAction, Undo>): Kit {
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
