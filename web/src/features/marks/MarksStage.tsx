import { ArrowRight, Redo2, Undo2 } from 'lucide-react'
import { useMemo } from 'react'
import { Link } from 'react-router'
import { useDog } from '../../app/Visit'
import { screenUrl, type Dog, type Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { Scroller } from '../../ui/Scroller'
import { guessed, marksOf, nextMark, nextPhoto, type MarksAction, type MarksState } from './marksMachine'
import { MarkCard } from './MarkCard'
import { MarkPlane } from './MarkPlane'
import { MeasuresPanel } from './MeasuresPanel'
import { useMarks } from './useMarks'
import { undoKey, useShortcuts } from '../../ui/useShortcuts'
import { usePlansAhead } from './usePlansAhead'
import { useMarkGuide } from './useMarkGuide'
import { FromLast, partsFor } from '../../shared/FromLast'
import { viewWords } from '../../shared/words'

/** One photo large, the next mark named, measures filling in beside. */
export function MarksStage() {
  const dog = useDog()
  const guide = useMarkGuide()
  if (!dog.photos.length)
    return (
      <Notice>
        No photo yet.{' '}
        <Link className="underline" to={`/dogs/${dog.id}/photos`}>
          Add a front and a left photo first.
        </Link>
      </Notice>
    )
  if (!guide.data) return <Notice>{guide.failureReason?.message ?? 'Loading the marks…'}</Notice>
  return <Marking key={dog.photos.map((p) => p.id).join()} dog={dog} guide={guide.data} />
}

function Marking({ dog: fetched, guide }: { dog: Dog; guide: Schemas['MarkGuide'] }) {
  const { state, act, measured, saving, dog, setHand, setProbes } = useMarks(fetched)
  usePlansAhead(dog, measured, saving)
  const photo = dog.photos.find((p) => p.id === state.photoId) ?? dog.photos[0]
  const order = useMemo(() => guide.order[photo?.view ?? 'front'] ?? [], [guide, photo?.view])
  const ghosts = useMemo(() => measured?.ghosts[String(photo?.id)] ?? [], [measured, photo?.id])
  const next = nextMark(state, order)
  const active = state.selected ?? next
  const later = nextPhoto(state, dog.photos, guide.order)
  const onward = later && {
    words: `Next: ${viewWords(later.view)}${later.state === 'dry' ? '' : `, ${later.state}`}`,
    go: () => act({ type: 'show', photoId: later.id }),
  }
  useMarkKeys({ dog, state, act, next, ghosts, onward })
  if (!photo) return null
  const sure = ghosts.filter((g) => g.sure)
  const rules = new Map(guide.rules.map((rule) => [rule.id, rule]))
  const findings = measured?.findings ?? []
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_22.5rem] gap-4 p-4 portrait:grid-cols-1 portrait:grid-rows-[minmax(20rem,5fr)_minmax(0,4fr)]">
      <h1 className="sr-only">Marks on {dog.name}</h1>
      <section className="flex min-h-0 flex-col gap-3">
        <MarkPlane
          photo={photo}
          marks={marksOf(state)}
          ghosts={ghosts}
          rules={rules}
          active={active}
          selected={state.selected}
          key={photo.id}
          findings={findings.filter((f) => f.photo_id === photo.id && f.mark)}
          act={act}
        />
        <div className="flex items-center gap-2">
          <div className="flex min-w-0 gap-2 overflow-x-auto">
            {dog.photos.map((p) => (
              <button
                key={p.id}
                onClick={() => act({ type: 'show', photoId: p.id })}
                aria-pressed={p.id === photo.id}
                className={`relative h-18 w-21 shrink-0 overflow-hidden rounded-lg border-3 ${p.id === photo.id ? 'border-tape' : 'border-rule'}`}
              >
                <img src={screenUrl(p)} alt="" className="size-full object-cover" />
                <span className="absolute inset-x-0 bottom-0 truncate bg-[#17352f]/85 px-1 text-xs text-white">
                  {viewWords(p.view)}
                  {p.state === 'dry' ? '' : ` ${p.state}`} · {Object.keys(state.all[p.id] ?? {}).length}
                </span>
              </button>
            ))}
          </div>
          <Button onClick={() => act({ type: 'undo' })} disabled={!state.past.length} aria-label="Undo">
            <Undo2 size={20} aria-hidden />
          </Button>
          <Button onClick={() => act({ type: 'redo' })} disabled={!state.future.length} aria-label="Redo">
            <Redo2 size={20} aria-hidden />
          </Button>
          <Button onClick={() => act({ type: 'accept', ghosts: sure })} disabled={!sure.length}>
            Accept all {sure.length || ''} suggestions
          </Button>
          <span
            role="status"
            data-saving={saving.kind}
            className={`ml-auto text-sm ${saving.kind === 'refused' || saving.kind === 'waiting' ? 'font-semibold text-warn' : 'text-quiet'}`}
          >
            {saving.kind === 'saved' ? 'Saved' : saving.kind === 'saving' ? 'Saving…' : saving.reason}
          </span>
        </div>
      </section>
      <aside className="flex min-h-0 flex-col gap-3">
        <Scroller outer="flex-1" className="flex flex-col gap-3">
          <FromLast parts={partsFor(dog, 'marks')} />
          <MarkCard
            rule={active ? rules.get(active) : undefined}
            placed={active !== null && active in marksOf(state)}
            unsure={(active && marksOf(state)[active]?.unsure) || false}
            expected={(active && marksOf(state)[active]?.expected) || false}
            count={order.filter((id) => id in marksOf(state)).length}
            of={order.length}
            ghost={ghosts.find((g) => g.mark === active)}
            guessed={guessed(state)}
            onward={onward}
            act={act}
          />
          <MeasuresPanel
            dog={dog}
            guide={guide}
            measured={measured}
            setHand={setHand}
            setProbes={setProbes}
            onFinding={(photoId, mark) => {
              if (photoId) act({ type: 'show', photoId })
              if (mark) act({ type: 'select', mark })
            }}
          />
        </Scroller>
        <Link
          to={`/dogs/${dog.id}/outline`}
          className="inline-flex min-h-12 shrink-0 items-center justify-center gap-2 rounded-lg bg-cut px-5 font-semibold text-sheet aria-disabled:opacity-40"
          aria-disabled={!measured?.solved}
        >
          Go on to the outline <ArrowRight size={18} aria-hidden />
        </Link>
      </aside>
    </main>
  )
}

type Keys = {
  dog: Dog
  state: MarksState
  act: (action: MarksAction) => void
  next: string | null
  ghosts: Schemas['GhostOut'][]
  onward: { go: () => void } | null
}

const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

/** From nowhere, Tab goes to the marks: the chosen one, else the first; the tape above comes last. */
function toMark(chosen: string | null) {
  document.querySelector<SVGElement>(chosen ? `[data-mark="${chosen}"]` : '[data-mark]')?.focus()
}

/** The whole stage by keyboard, except while a field or button wants the key itself. */
function useMarkKeys({ dog, state, act, next, ghosts, onward }: Keys) {
  useShortcuts((event) => {
    if (event.target instanceof Element && event.target.closest('[role=tablist]')) return false
    const pressable = event.target instanceof HTMLButtonElement || event.target instanceof HTMLAnchorElement
    const step = STEPS[event.key]
    const far = event.shiftKey ? 10 : 1
    const way = undoKey(event)
    if (way) act({ type: way })
    else if (event.ctrlKey || event.metaKey || event.altKey) return false
    else if (step && state.selected) act({ type: 'nudge', dx: step[0] * far, dy: step[1] * far })
    else if ((event.key === 'Delete' || event.key === 'Backspace') && state.selected)
      act({ type: 'remove', mark: state.selected })
    else if (event.key.toLowerCase() === 'u' && state.selected) act({ type: 'unsure' })
    else if (event.key === 'Tab' && document.activeElement === document.body) toMark(state.selected)
    else if (event.key === 'Escape') act({ type: 'select', mark: null })
    else if (event.key === 'Enter' && !pressable) {
      const ghost = ghosts.find((g) => g.mark === next)
      if (ghost) act({ type: 'accept', ghosts: [ghost] })
      else if (next === null && onward) onward.go()
      else return false
    } else if (event.key === '[' || event.key === ']') {
      const i = dog.photos.findIndex((p) => p.id === state.photoId) + (event.key === ']' ? 1 : -1)
      const other = dog.photos.at(i % dog.photos.length)
      if (other) act({ type: 'show', photoId: other.id })
    } else return false
    return true
  })
}
