import { ArrowRight, Play, RotateCcw } from 'lucide-react'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import { useDog } from '../../app/Visit'
import type { Dog, Schemas } from '../../api/client'
import { partOf, usePart } from '../../outbox/useOutbox'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { BeforePanel } from './BeforePanel'
import { SheetList } from './SheetList'
import { TableView } from './TableView'
import { useCut } from './useCut'
import { useCutChanges, useCutSheet } from './useCutSheet'
import { Scroller } from '../../ui/Scroller'

type Cut = Schemas['CutOut']
type Sheet = Schemas['SheetOut']

/** The sheet at a glance, and step by step at the table. */
export function CutStage() {
  const dog = useDog()
  const cut = useCutSheet(dog)
  const outline = usePart(partOf(dog.id, 'outline'))
  if (cut.data && !cut.data.sheet && (outline === 'waiting' || outline === 'away'))
    return <Notice>The outline is on its way to the salon’s server; the sheet follows.</Notice>
  if (!cut.data)
    return (
      <Notice tone={cut.failureReason ? 'warn' : 'plain'}>
        {cut.failureReason?.message ?? 'Writing the cut sheet…'}
      </Notice>
    )
  if (!cut.data.sheet)
    return (
      <Notice>
        {cut.data.reason}{' '}
        <Link className="underline" to={`/dogs/${dog.id}/outline`}>
          Go to the outline
        </Link>
      </Notice>
    )
  return <Cutting key={cut.data.id ?? 'new'} dog={dog} cut={cut.data} sheet={cut.data.sheet} />
}

function Cutting({ dog, cut, sheet }: { dog: Dog; cut: Cut; sheet: Sheet }) {
  const { state, act, waiting } = useCut(dog, sheet, cut.log, cut.started, cut.version)
  const [atTable, setAtTable] = useState(cut.started !== null && cut.ended === null)
  const { wrong, start, rebuild, end, goOn } = useCutChanges(dog, setAtTable)
  useAwake(atTable)
  if (atTable)
    return (
      <>
        {wrong && <Notice tone="warn">{wrong}</Notice>}
        <TableView
          dog={dog}
          sheet={sheet}
          state={state}
          act={act}
          started={cut.started}
          waiting={waiting}
          onRebuild={cut.stale ? () => rebuild(true) : null}
          onList={() => setAtTable(false)}
          onEnd={end}
        />
      </>
    )
  const begun = cut.started !== null
  const done = Object.values(state.log)
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_25rem] gap-4 p-4 portrait:grid-cols-1 portrait:overflow-auto">
      <section className="flex min-h-0 flex-col gap-3">
        <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-2">
          <h1 className="text-2xl font-bold">
            {sheet.outline} for {dog.name}
          </h1>
          <p className="text-lg text-quiet" data-summary>
            {sheet.steps.length} steps, about {Math.round(sheet.minutes)} min
            {begun &&
              `; ${done.filter((e) => e.state === 'done').length} done, ${done.filter((e) => e.state === 'skipped').length} skipped`}
          </p>
        </div>
        {wrong && <Notice tone="warn">{wrong}</Notice>}
        {sheet.before_time && (
          <p className="shrink-0 text-xl font-bold text-warn" data-before-time>
            {sheet.before_time}
          </p>
        )}
        {sheet.rests_on && (
          <p className="shrink-0 text-lg font-bold text-warn" data-rests-on>
            {sheet.rests_on}
          </p>
        )}
        {cut.stale && (
          <Notice tone="warn">
            What this sheet was made from has changed since it was begun.{' '}
            <button className="underline" onClick={() => rebuild(false)}>
              Rebuild the sheet
            </button>
          </Notice>
        )}
        <Scroller
          outer="flex-1 rounded-xl border border-rule bg-sheet overflow-hidden"
          className="p-4"
          tabIndex={0}
          aria-label="The whole sheet"
        >
          <SheetList
            sheet={sheet}
            log={state.log}
            at={begun && !cut.ended ? state.at : null}
            onGo={
              begun && !cut.ended
                ? (step) => {
                    act({ type: 'go', step, nowMs: Date.now() })
                    setAtTable(true)
                  }
                : undefined
            }
          />
        </Scroller>
      </section>
      <aside className="flex min-h-0 flex-col gap-3">
        <Scroller outer="flex-1 rounded-xl border border-rule bg-sheet overflow-hidden" className="p-4">
          <BeforePanel dog={dog} sheet={sheet} stylist={cut.stylist} fixed={begun} />
        </Scroller>
        {cut.ended ? (
          <div className="flex shrink-0 flex-col gap-2">
            <p className="text-lg">
              <b>{cut.stopped_after ? 'Stopped early.' : 'Cut to the end.'}</b>{' '}
              {cut.stopped_after && sheet.steps.find((s) => s.id === cut.stopped_after)?.ends_with}
            </p>
            <Link
              to={`/dogs/${dog.id}/check`}
              className="inline-flex min-h-16 items-center justify-center gap-2 rounded-lg bg-cut px-5 text-xl font-semibold text-sheet"
            >
              On to the check <ArrowRight size={20} aria-hidden />
            </Link>
            <Button onClick={goOn}>
              <RotateCcw size={18} aria-hidden /> Continue cutting
            </Button>
          </div>
        ) : begun ? (
          <Button look="firm" className="min-h-16 text-xl" onClick={() => setAtTable(true)}>
            <Play size={22} aria-hidden /> Back to the table
          </Button>
        ) : (
          <Button look="firm" className="min-h-16 text-xl" onClick={start}>
            <Play size={22} aria-hidden /> Start cutting
          </Button>
        )}
      </aside>
    </main>
  )
}

/** The screen stays on at the table, where the browser can do that. */
function useAwake(wanted: boolean) {
  useEffect(() => {
    if (!wanted || !('wakeLock' in navigator)) return
    let lock: WakeLockSentinel | undefined
    let over = false
    void navigator.wakeLock
      .request('screen')
      .then((got) => {
        lock = got
        if (over) void got.release()
      })
      .catch(() => undefined)
    return () => {
      over = true
      void lock?.release()
    }
  }, [wanted])
}
