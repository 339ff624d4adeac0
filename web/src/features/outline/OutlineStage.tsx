import { ChevronDown } from 'lucide-react'
import { memo, useDeferredValue, useState } from 'react'
import { undoKey, useShortcuts } from '../../ui/useShortcuts'
import { Link } from 'react-router'
import { useDog } from '../../app/Visit'
import { Notice } from '../../ui/Notice'
import { shortDay } from '../../shared/days'
import { CombChart } from './CombChart'
import { CombLegend } from './CombLegend'
import { Compare } from './Compare'
import { FamilyStrip } from './FamilyStrip'
import { HeadSheet, type Enlarged } from './HeadSheet'
import { OwnerView } from './OwnerView'
import { SidePanel } from './SidePanel'
import { useOutline } from './useOutline'

const Chart = memo(CombChart)
const ENLARGE: Readonly<Record<string, Enlarged>> = {
  '1': 'front',
  '2': 'side',
  '3': 'top',
  '4': 'solid',
  '0': null,
}

/** The aligned sheet, every outline fitted for this dog, few sliders in words, the comb chart. */
export function OutlineStage() {
  const dog = useDog()
  const { state, act, settled, trouble, keep, traceAgain, wish } = useOutline(dog)
  const [enlarged, setEnlarged] = useState<Enlarged>(null)
  const [lengths, setLengths] = useState(true)
  const [owner, setOwner] = useState(false)
  const [comparing, setComparing] = useState(false)
  const drawing = state.drawing
  const stale = dog.stale['outline']
  // The outline follows the finger first; chart and reasons a moment later.
  const told = useDeferredValue(drawing) ?? drawing
  useShortcuts((event) => {
    const way = undoKey(event)
    if (way) act({ type: way })
    else if (event.altKey || event.ctrlKey || event.metaKey) return false
    else if (event.key in ENLARGE) setEnlarged(ENLARGE[event.key] ?? null)
    else if (event.key === 'Escape') setEnlarged(null)
    else return false
    return true
  }, !owner)
  return (
    <main
      className="flex min-h-0 flex-1 flex-col gap-2 overflow-auto p-3"
      data-shown={state.shown}
      data-settled={settled}
    >
      <h1 className="sr-only">Outline for {dog.name}</h1>
      {trouble && (
        <Notice tone="warn">
          {trouble.message}{' '}
          {!drawing && !trouble.away && (
            <Link className="underline" to={`/dogs/${dog.id}/marks`}>
              Go to Marks
            </Link>
          )}
        </Notice>
      )}
      {stale && state.setting.family === dog.saved_outline?.family && (
        <Notice tone="warn">
          Since this outline was kept ({shortDay(dog.saved_outline.saved.slice(0, 10))}), {stale.join(', ')}{' '}
          changed. What is drawn here is worked out from what is there now; the cut sheet still goes by the
          kept one.{' '}
          <button className="min-h-6 underline" onClick={() => void keep()}>
            Keep it as it is now
          </button>
        </Notice>
      )}
      {!drawing && !trouble && (
        <Notice>Finding the coat’s edge and fitting the outline; the first time takes some seconds…</Notice>
      )}
      {drawing && told && (
        <>
          <div className="grid min-h-96 flex-1 grid-cols-[minmax(0,1fr)_22.5rem] gap-3 portrait:grid-cols-1 portrait:grid-rows-[minmax(0,1.25fr)_minmax(0,1fr)]">
            <div className="flex min-h-0 min-w-0 flex-col gap-2">
              {comparing ? (
                <Compare
                  dog={dog}
                  drawing={told}
                  onTake={(family) => {
                    act({ type: 'family', family })
                    setComparing(false)
                  }}
                  onClose={() => setComparing(false)}
                />
              ) : (
                <HeadSheet
                  dog={dog}
                  drawing={drawing}
                  setting={state.setting}
                  moving={state.moving}
                  enlarged={enlarged}
                  onEnlarge={setEnlarged}
                  onSet={(id, value) => act({ type: 'set', id, value })}
                  onRest={() => act({ type: 'rest' })}
                />
              )}
              <section
                className="graph shrink-0 rounded-xl border border-rule px-3 pt-1"
                aria-label="Comb chart"
              >
                <div className="flex items-center">
                  <CombLegend />
                  <button
                    className="ml-auto flex min-h-9 items-center gap-1 text-sm"
                    aria-expanded={lengths}
                    onClick={() => setLengths(!lengths)}
                  >
                    {lengths ? 'hide lengths' : 'lengths'}
                    <ChevronDown size={16} className={lengths ? '' : 'rotate-180'} aria-hidden />
                  </button>
                </div>
                {lengths && <Chart zones={told.zones} />}
              </section>
            </div>
            <div className="flex min-h-0 min-w-0 flex-col gap-2">
              <FamilyStrip
                dog={dog}
                chosen={state.setting.family}
                onChoose={(family) => act({ type: 'family', family })}
              />
              <SidePanel
                dog={dog}
                drawing={drawing}
                told={told}
                state={state}
                act={act}
                keep={keep}
                traceAgain={traceAgain}
                wish={wish}
                onCompare={() => setComparing(!comparing)}
                onOwner={() => setOwner(true)}
              />
            </div>
          </div>
          <p className="sr-only" data-in-words>
            {told.text}
          </p>
          {owner && (
            <OwnerView dog={dog} drawing={told} setting={state.setting} onClose={() => setOwner(false)} />
          )}
        </>
      )}
    </main>
  )
}
