import { Plus, X } from 'lucide-react'
import type { Dispatch } from 'react'
import { Button } from '../../ui/Button'
import { Select } from '../../ui/Select'
import { freeId, type Kit, type KitAction, type Tool } from './kitMachine'
import { LengthField } from './NumberField'

type Kind = Tool['kind']
type Props = { kit: Kit; kind: Kind; title: string; act: Dispatch<KitAction> }

const USES = {
  straight: 'straight',
  curved: 'curved',
  blending: 'blending',
  thinning: 'thinning',
  detail: 'short, blunt tips',
} as const
const NEW: Readonly<Partial<Record<Kind, Omit<Tool, 'id'>>>> = {
  blade: { kind: 'blade', name: 'New', use: 'clip', leaves_mm: 3 },
  guard: { kind: 'guard', name: 'New guard', use: 'clip', leaves_mm: 10 },
  shears: { kind: 'shears', name: 'New shears', use: 'straight', leaves_mm: null },
}

/** Tools of one kind: their names, and the length that each leaves or what each is for. */
export function ToolTable({ kit, kind, title, act }: Props) {
  const tools = kit.tools.filter((tool) => tool.kind === kind)
  const blank = NEW[kind]
  return (
    <section className="rounded-xl border border-rule bg-sheet p-4">
      <h2 className="mb-2 text-xl font-bold">{title}</h2>
      <ul>
        {tools.map((tool) => (
          <li key={tool.id} data-tool={tool.id} className="flex items-center gap-2 border-b border-rule py-1">
            <input
              aria-label={`Name of ${tool.name}`}
              value={tool.name}
              maxLength={40}
              onChange={(event) => act({ type: 'tool', id: tool.id, change: { name: event.target.value } })}
              className="h-11 min-w-0 flex-1 rounded-lg border border-transparent bg-transparent px-2 font-semibold hover:border-rule focus:border-rule"
            />
            {tool.leaves_mm != null ? (
              <LengthField
                label={`${tool.name} leaves`}
                mm={tool.leaves_mm}
                onChange={(leaves_mm) => act({ type: 'tool', id: tool.id, change: { leaves_mm } })}
              />
            ) : (
              <span className="w-44">
                <Select
                  label=""
                  value={tool.use as keyof typeof USES}
                  choices={USES}
                  onChange={(use) => act({ type: 'tool', id: tool.id, change: { use } })}
                />
              </span>
            )}
            <button
              className="grid size-11 shrink-0 place-items-center"
              aria-label={`Remove ${tool.name}`}
              onClick={() => act({ type: 'remove_tool', id: tool.id })}
            >
              <X size={18} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      {blank && (
        <Button
          className="mt-3"
          onClick={() => act({ type: 'add_tool', tool: { ...blank, id: freeId(kit, kind) } })}
        >
          <Plus size={18} aria-hidden /> Add
        </Button>
      )}
    </section>
  )
}
