import { Dialog, DialogPanel, DialogTitle, Radio, RadioGroup } from '@headlessui/react'
import { LoaderCircle, Redo2, RotateCcw, Undo2, X } from 'lucide-react'
import { undoKey, useShortcuts } from '../../ui/useShortcuts'
import type { Photo, State, View } from '../../api/client'
import { Button } from '../../ui/Button'
import { EdgePlane } from './EdgePlane'
import type { EdgeAction, EdgeTool } from './edgeMachine'
import { MoveTo, withoutSlot } from './Looked'
import { useEdge } from './useEdge'
import { OTHER_VIEWS, STATES, VIEWS } from '../../shared/photoWords'

type Props = {
  photo: Photo
  /** Photos in the same state that were taken with it. */
  together: readonly Photo[]
  onMove: (photo: Photo, view: View, state: State) => void
  onTurn: (photos: readonly Photo[], state: State) => void
  onClose: () => void
}

const TOOLS: { id: EdgeTool; short: string; words: string; hint: string; key: string }[] = [
  {
    id: 'pull',
    short: 'Pull',
    words: 'Pull the line',
    hint: 'Press on the line and draw it to where the coat ends.',
    key: 'P',
  },
  {
    id: 'trace',
    short: 'Trace',
    words: 'Trace it anew',
    hint: 'Draw roughly along the coat: the line runs where coat and ground part nearby.',
    key: 'T',
  },
  {
    id: 'coat',
    short: 'Coat',
    words: 'This is coat',
    hint: 'A short chalk stroke on coat that was left out: the line follows.',
    key: 'C',
  },
  {
    id: 'bare',
    short: 'Not coat',
    words: 'This is not coat',
    hint: 'A short chalk stroke on a hand, a lead, the ground: the line lets go of it.',
    key: 'N',
  },
  {
    id: 'neck',
    short: 'Neck',
    words: 'Off at the neck',
    hint: 'Draw a line across the neck: below it nothing counts. A press takes the line away.',
    key: 'O',
  },
]
const FIELD = 'h-12 w-full rounded-lg border border-rule bg-sheet px-3 text-ink'

/** One photo large: its edge to correct, what was found wrong, the slot it belongs to. */
export function PhotoDesk({ photo, together, onMove, onTurn, onClose }: Props) {
  const edge = useEdge(photo)
  const { state, act } = edge
  const tool = TOOLS.find((t) => t.id === state.tool)
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
              onTrail={(points) => void edge.trace(points)}
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
              className="flex gap-1.5"
            >
              {TOOLS.map(({ id, short, words, key }) => (
                <Radio
                  key={id}
                  value={id}
                  aria-label={`${words} (${key})`}
                  className="grid min-h-16 flex-1 cursor-pointer content-center justify-items-center gap-1 rounded-lg border-2 border-rule bg-sheet px-0.5 text-center text-sm leading-tight font-semibold data-checked:border-ink data-checked:bg-tape data-checked:text-[#17352f]"
                >
                  <ToolSketch tool={id} /> {short}
                </Radio>
              ))}
            </RadioGroup>
            {tool && (
              <p className="min-h-16 text-sm">
                <strong>
                  {tool.words} <kbd className="font-normal text-quiet">({tool.key})</kbd>
                </strong>
                <br />
                {tool.hint}
              </p>
            )}
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
                <Button onClick={edge.findAgain} disabled={edge.looking} className="col-span-2">
                  <RotateCcw size={18} className={edge.looking ? 'animate-spin' : ''} aria-hidden /> Find the
                  edge again
                </Button>
              )}
            </div>
            {state.offered && <Offer act={act} />}
            {edge.trouble && (
              <p role="alert" className="text-warn">
                {edge.trouble}
              </p>
            )}
            <section aria-label="Findings" className="border-t border-rule pt-2">
              {photo.findings.map((f) => (
                <div key={f.code} className="mb-1 text-warn">
                  {withoutSlot(f.message)}
                  <MoveTo photo={photo} view={f.view} onMove={onMove} />
                </div>
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
                  onChange={(e) => onMove(photo, e.target.value as View, photo.state)}
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
                  onChange={(e) => onMove(photo, photo.view, e.target.value as State)}
                >
                  {STATES.map((s) => (
                    <option key={s.id} value={s.id}>
                      {s.words}
                    </option>
                  ))}
                </select>
              </label>
              <WholeBurst photo={photo} together={together} onTurn={onTurn} />
            </section>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  )
}

/** The machine's line lies beside the one that is drawn: which is it to be? */
function Offer({ act }: { act: (action: EdgeAction) => void }) {
  return (
    <section aria-label="The edge found again" className="grid gap-2 rounded-lg border-2 border-ink p-3">
      <p>The pale dashes are the edge as it is found now. Yours is the line with hairs.</p>
      <div className="grid grid-cols-2 gap-2">
        <Button look="firm" onClick={() => act({ type: 'taken' })}>
          Take the dashes
        </Button>
        <Button onClick={() => act({ type: 'declined' })}>Keep mine</Button>
      </div>
    </section>
  )
}

type WholeBurstProps = { photo: Photo; together: readonly Photo[]; onTurn: Props['onTurn'] }

/** Wet or dry is true of all that were taken together: one press turns them all. */
function WholeBurst({ photo, together, onTurn }: WholeBurstProps) {
  if (together.length < 2) return null
  return (
    <div role="group" aria-label="All taken together" className="grid gap-2">
      <p className="text-sm text-quiet">{together.length} photos were taken together. All of them are:</p>
      <div className="flex flex-wrap gap-2">
        {STATES.filter((s) => s.id !== photo.state).map((s) => (
          <Button key={s.id} onClick={() => onTurn(together, s.id)}>
            {s.words}
          </Button>
        ))}
      </div>
    </div>
  )
}

const DASHES = { pull: undefined, trace: '3 3', coat: '7 1.6 3 1.4', bare: '7 1.6 3 1.4' }

function NeckSketch() {
  return (
    <svg viewBox="0 0 36 20" className="h-5 w-9 shrink-0" fill="none" stroke="currentColor" aria-hidden>
      <path d="M12 1 C11 7 9 13 8 19 M25 1 C26 7 28 13 29 19" strokeWidth="1.8" />
      <path d="M3 12 H34" strokeWidth="2.6" strokeDasharray="3 2" />
    </svg>
  )
}

/** What a tool leaves on the photo: the line with its hairs, a trail, chalk with hairs, bare chalk, a line across. */
function ToolSketch({ tool }: { tool: EdgeTool }) {
  const colour = {
    pull: '#b97a12',
    trace: '#b97a12',
    coat: 'currentColor',
    bare: '#2f7fae',
    neck: 'currentColor',
  }[tool]
  if (tool === 'neck') return <NeckSketch />
  return (
    <svg viewBox="0 0 36 20" className="h-5 w-9 shrink-0" fill="none" stroke={colour} aria-hidden>
      <path d="M2 14 C10 6 22 18 34 8" strokeWidth="2.4" strokeDasharray={DASHES[tool]} />
      {(tool === 'pull' || tool === 'coat') && (
        <path d="M6 11l2-6M13 10l2-6M20 12l2-6M27 12l2-6" strokeWidth="1.6" />
      )}
    </svg>
  )
}
