import { Dialog, DialogPanel, DialogTitle, Radio, RadioGroup } from '@headlessui/react'
import { LoaderCircle, Redo2, RotateCcw, Undo2, X } from 'lucide-react'
import { undoKey, useShortcuts } from '../../ui/useShortcuts'
import type { Photo, State, View } from '../../api/client'
import { Button } from '../../ui/Button'
import { EdgePlane } from './EdgePlane'
import type { EdgeTool } from './edgeMachine'
import { withoutSlot } from './Looked'
import { useEdge } from './useEdge'
import { OTHER_VIEWS, STATES, VIEWS } from '../../shared/photoWords'

type Props = {
  photo: Photo
  onMove: (view: View, state: State, spare: boolean) => void
  onClose: () => void
}

const TOOLS: { id: EdgeTool; words: string; hint: string; key: string }[] = [
  {
    id: 'pull',
    words: 'Pull the line',
    hint: 'Press on the line and draw it to where the coat ends.',
    key: 'P',
  },
  {
    id: 'coat',
    words: 'This is coat',
    hint: 'A short chalk stroke on coat that was left out: the line follows.',
    key: 'C',
  },
  {
    id: 'bare',
    words: 'This is not coat',
    hint: 'A short chalk stroke on a hand, a lead, the ground: the line lets go of it.',
    key: 'N',
  },
]
const FIELD = 'h-12 w-full rounded-lg border border-rule bg-sheet px-3 text-ink'

/** One photo large: its edge to correct, what was found wrong, the slot it belongs to. */
export function PhotoDesk({ photo, onMove, onClose }: Props) {
  const edge = useEdge(photo)
  const { state, act } = edge
  const busy = photo.job && (photo.job.kind === 'waiting' || photo.job.kind === 'working')
  useShortcuts((event) => {
    const way = undoKey(event)
    const tool = TOOLS.find((t) => t.key === event.key.toUpperCase())
    if (way) act({ type: way })
    else if (tool && !event.ctrlKey && !event.metaKey) act({ type: 'tool', tool: tool.id })
    else return false
    return true
  })
  return (
    <Dialog open onClose={onClose} className="relative z-20">
      <div className="fixed inset-0 bg-paper text-ink">
        <DialogPanel className="flex h-full gap-4 p-4 max-lg:flex-col">
          <div className="relative min-h-80 flex-1 overflow-hidden rounded-xl border border-rule bg-[#20302b]">
            <EdgePlane
              photo={photo}
              state={state}
              act={act}
              onStroke={(stroke) => void edge.follow(stroke)}
            />
          </div>
          <div className="flex w-84 shrink-0 flex-col gap-3 overflow-auto max-lg:w-full">
            <div className="flex items-center justify-between">
              <DialogTitle className="text-xl font-bold">
                {photo.state === 'wet' ? 'Edge near the skin' : 'Edge of the coat'}
              </DialogTitle>
              <Button onClick={onClose} aria-label="Back to the photos">
                <X size={18} aria-hidden /> Done
              </Button>
            </div>
            <RadioGroup
              value={state.tool}
              onChange={(tool: EdgeTool) => act({ type: 'tool', tool })}
              aria-label="Tool"
              className="grid gap-2"
            >
              {TOOLS.map(({ id, words, key }) => (
                <Radio
                  key={id}
                  value={id}
                  className="flex min-h-12 cursor-pointer items-center gap-3 rounded-lg border-2 border-rule bg-sheet px-4 font-semibold data-checked:border-ink data-checked:bg-tape data-checked:text-[#17352f]"
                >
                  <ToolSketch tool={id} /> {words}
                  <kbd className="ml-auto text-sm font-normal">{key}</kbd>
                </Radio>
              ))}
            </RadioGroup>
            <p className="text-sm text-quiet">{TOOLS.find((t) => t.id === state.tool)?.hint}</p>
            <div className="grid grid-cols-2 gap-2">
              <Button onClick={() => act({ type: 'undo' })} disabled={!state.past.length}>
                <Undo2 size={18} aria-hidden /> Undo
              </Button>
              <Button onClick={() => act({ type: 'redo' })} disabled={!state.future.length}>
                <Redo2 size={18} aria-hidden /> Redo
              </Button>
              {busy ? (
                <Button onClick={edge.stop} className="col-span-2">
                  <LoaderCircle size={18} className="animate-spin" aria-hidden /> {photo.job?.words}: stop
                </Button>
              ) : (
                <Button onClick={edge.findAgain} className="col-span-2">
                  <RotateCcw size={18} aria-hidden /> Find the edge again
                </Button>
              )}
            </div>
            {edge.trouble && (
              <p role="alert" className="text-warn">
                {edge.trouble}
              </p>
            )}
            <section aria-label="Findings" className="border-t border-rule pt-2">
              {photo.findings.map((f) => (
                <p key={f.code} className="mb-1 text-warn">
                  {withoutSlot(f.message)}
                </p>
              ))}
              <p className="text-quiet">
                {photo.card_markers
                  ? `Scale card seen (${photo.card_markers} of 6 squares).`
                  : 'No scale card in this photo.'}
                {photo.taken && ` Taken ${photo.taken.replace('T', ', ').slice(0, 17)}.`}
              </p>
            </section>
            <section aria-label="Slot" className="grid gap-2 border-t border-rule pt-2">
              <label>
                <span className="text-sm text-quiet">This photo shows</span>
                <select
                  className={FIELD}
                  value={photo.view}
                  onChange={(e) => onMove(e.target.value as View, photo.state, false)}
                >
                  {[...VIEWS, ...OTHER_VIEWS].map((v) => (
                    <option key={v.id} value={v.id}>
                      {v.words}
                    </option>
                  ))}
                </select>
              </label>
              <label>
                <span className="text-sm text-quiet">State of the coat</span>
                <select
                  className={FIELD}
                  value={photo.state}
                  onChange={(e) => onMove(photo.view, e.target.value as State, false)}
                >
                  {STATES.map((s) => (
                    <option key={s.id} value={s.id}>
                      {s.words}
                    </option>
                  ))}
                </select>
              </label>
            </section>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  )
}

/** What a tool leaves on the photo: the line with its hairs, chalk with hairs, bare chalk. */
function ToolSketch({ tool }: { tool: EdgeTool }) {
  const colour = { pull: '#b97a12', coat: 'currentColor', bare: '#2f7fae' }[tool]
  return (
    <svg viewBox="0 0 36 20" className="h-5 w-9 shrink-0" fill="none" stroke={colour} aria-hidden>
      <path
        d="M2 14 C10 6 22 18 34 8"
        strokeWidth="2.4"
        strokeDasharray={tool === 'pull' ? undefined : '7 1.6 3 1.4'}
      />
      {tool !== 'bare' && <path d="M6 11l2-6M13 10l2-6M20 12l2-6M27 12l2-6" strokeWidth="1.6" />}
    </svg>
  )
}
