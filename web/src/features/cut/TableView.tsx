import { ChevronLeft, ChevronRight, House, List, NotebookPen, SkipForward, Undo2 } from 'lucide-react'
import { useEffect, useState, type Dispatch } from 'react'
import type { Dog, Schemas } from '../../api/client'
import { undoKey, useShortcuts } from '../../ui/useShortcuts'
import { allDone, isDone, secondsOn, stepAt, type CutAction, type CutState } from './cutMachine'
import { NotesPanel } from './NotesPanel'
import { StepView } from './StepView'
import { StopDialog } from './StopDialog'
import { clock } from './words'

type Props = {
  sheet: Schemas['SheetOut']
  state: CutState
  act: Dispatch<CutAction>
  started: string | null
  /** Steps on their way to the server; the bar below says so where that takes long. */
  waiting: number
  dog: Dog
  /** What the sheet was made from has changed: how it is rebuilt. */
  onRebuild: (() => void) | null
  onList: () => void
  onEnd: (stoppedAfter: string | null) => void
}

const BAR =
  'inline-flex min-h-20 flex-col items-center justify-center gap-1 rounded-xl border-2 border-rule px-4 text-base font-semibold disabled:opacity-30'

/** Table mode: one step a screen; space, arrows, page keys or the big field go on. */
export function TableView({ dog, sheet, state, act, started, waiting, onRebuild, onList, onEnd }: Props) {
  const step = stepAt(state)
  const [panel, setPanel] = useState<'notes' | 'why' | 'stop' | null>(null)
  const finished = allDone(state)
  const go = (type: 'next' | 'back' | 'skip') => act({ type, nowMs: Date.now() })
  // One way on for finger, key and pedal: the last press of all ends the cut.
  const onward = () => (finished ? onEnd(null) : go('next'))
  useTableKeys(act, panel !== null && panel !== 'why', {
    onward,
    list: onList,
    notes: () => setPanel('notes'),
    why: () => setPanel((now) => (now === 'why' ? null : 'why')),
    stop: () => setPanel('stop'),
  })
  if (!step) return null
  return (
    <main
      data-mode="table"
      data-step={step.id}
      className="flex min-h-0 flex-1 flex-col gap-3 bg-paper p-4 text-ink"
    >
      <h1 className="sr-only">Cut</h1>
      <header className="flex shrink-0 items-baseline gap-4 text-xl portrait:text-lg">
        <b>{step.chapter}</b>
        <span className="text-quiet">
          {step.number} of {sheet.steps.length}
          {isDone(state, step.id) && (state.log[step.id]?.state === 'done' ? ', done' : ', skipped')}
        </span>
        {sheet.before_time && (
          <span className="font-semibold text-warn" data-before-time>
            {sheet.before_time.split(';')[0]}
          </span>
        )}
        <Times state={state} step={step.id} started={started} minutes={step.minutes} />
        <span hidden data-waiting={waiting} />
        <button
          className="ml-auto min-h-12 px-3 underline"
          aria-pressed={panel === 'why'}
          onClick={() => setPanel(panel === 'why' ? null : 'why')}
        >
          Why?
        </button>
      </header>
      {onRebuild && (
        <p
          role="status"
          data-stale
          className="flex shrink-0 items-center gap-4 text-xl font-semibold text-warn"
        >
          What this sheet was made from has changed.
          <button className="min-h-14 rounded-lg border-2 border-rule px-4 text-ink" onClick={onRebuild}>
            Rebuild the rest
          </button>
        </p>
      )}
      <StepView dog={dog} sheet={sheet} step={step} state={state} why={panel === 'why'} />
      <nav aria-label="Steps" className="flex shrink-0 gap-2">
        <button className={BAR} onClick={() => go('back')} disabled={step.number === 1}>
          <ChevronLeft aria-hidden /> Back
        </button>
        <button
          className={BAR}
          onClick={() => act({ type: 'undo', nowMs: Date.now() })}
          disabled={!state.past.length}
        >
          <Undo2 aria-hidden /> Undo
        </button>
        <button className={BAR} onClick={() => go('skip')}>
          <SkipForward aria-hidden /> Skip
        </button>
        <button className={BAR} onClick={() => setPanel('notes')}>
          <NotebookPen aria-hidden /> Note
        </button>
        <button className={BAR} onClick={onList}>
          <List aria-hidden /> List
        </button>
        <button className={`${BAR} ${step.may_end ? 'border-tape' : ''}`} onClick={() => setPanel('stop')}>
          <House aria-hidden /> {step.may_end ? 'May stop here' : 'Stop'}
        </button>
        <button
          className="flex min-h-24 flex-1 items-center justify-center gap-3 rounded-xl bg-tape text-3xl font-bold text-[#17352f]"
          onClick={onward}
        >
          {finished
            ? 'All done: end the cut'
            : isDone(state, step.id)
              ? 'On'
              : step.doing === 'work'
                ? 'Done, next'
                : 'Next'}
          <ChevronRight size={36} aria-hidden />
        </button>
      </nav>
      <NotesPanel
        open={panel === 'notes'}
        sheet={sheet}
        step={step}
        state={state}
        act={act}
        onClose={() => setPanel(null)}
      />
      <StopDialog
        open={panel === 'stop'}
        state={state}
        onClose={() => setPanel(null)}
        onGo={(id) => act({ type: 'go', step: id, nowMs: Date.now() })}
        onEnd={onEnd}
      />
    </main>
  )
}

/** Time so far, of the whole and of this step; it tells and never urges. */
function Times({
  state,
  step,
  started,
  minutes,
}: {
  state: CutState
  step: string
  started: string | null
  minutes: number
}) {
  const [nowMs, setNow] = useState(() => Date.now())
  useEffect(() => {
    const timer = window.setInterval(() => setNow(Date.now()), 1000)
    return () => window.clearInterval(timer)
  }, [])
  const whole = started ? (nowMs - Date.parse(`${started}Z`)) / 1000 : 0
  return (
    <span className="text-quiet" aria-live="off">
      <span data-time>{clock(Math.max(whole, 0))}</span> so far · this step{' '}
      {clock(secondsOn(state, step, nowMs))}
      {minutes >= 0.5 && ` of about ${Math.round(minutes)} min`}
    </span>
  )
}

type Does = {
  onward: () => void
  list: () => void
  notes: () => void
  why: () => void
  stop: () => void
}

function useTableKeys(act: Dispatch<CutAction>, closed: boolean, does: Does) {
  useShortcuts((event) => {
    const nowMs = Date.now()
    const way = undoKey(event)
    const letter = event.key.toLowerCase()
    if (way) act({ type: way, nowMs })
    else if (event.ctrlKey || event.metaKey || event.altKey) return false
    else if ([' ', 'ArrowRight', 'PageDown'].includes(event.key)) {
      // A pedal that is stood on ticks one step, not all of them.
      if (!event.repeat) does.onward()
    } else if (['ArrowLeft', 'PageUp'].includes(event.key)) act({ type: 'back', nowMs })
    else if (letter === 's') act({ type: 'skip', nowMs })
    else if (letter === 'n') does.notes()
    else if (letter === 'w') does.why()
    else if (letter === 'l' || event.key === 'Escape') does.list()
    else if (letter === 'h') does.stop()
    else return false
    // Taken: space must not press a button that a finger left the focus on.
    return true
  }, !closed)
}
