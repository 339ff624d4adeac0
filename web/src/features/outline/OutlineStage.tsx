import { Disclosure, DisclosureButton, DisclosurePanel, Radio, RadioGroup } from '@headlessui/react'
import { Check, ChevronDown, Redo2, RotateCcw, ScanLine, Undo2 } from 'lucide-react'
import { memo, useDeferredValue } from 'react'
import { Link } from 'react-router'
import { useDog } from '../../app/Visit'
import type { Dog, Outline } from '../../api/client'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { CombChart } from './CombChart'
import { HeadSheet } from './HeadSheet'
import type { OutlineAction, OutlineState } from './outlineMachine'
import { useOutline } from './useOutline'

/** The aligned sheet, few sliders in words, the reasons, the comb chart. */
export function OutlineStage() {
  const dog = useDog()
  const { state, act, trouble, keep, traceAgain } = useOutline(dog)
  const drawing = state.drawing
  // The outline follows the finger first; chart and reasons a moment later.
  const told = useDeferredValue(drawing) ?? drawing
  return (
    <main className="flex min-h-0 flex-1 flex-col gap-3 overflow-auto p-4" data-shown={state.shown}>
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
      {!drawing && !trouble && (
        <Notice>Finding the coat’s edge and fitting the outline; the first time takes some seconds…</Notice>
      )}
      {drawing && (
        <>
          <div className="grid min-h-80 flex-1 grid-cols-[minmax(0,1fr)_19.5rem] gap-4 portrait:grid-cols-1 portrait:grid-rows-[minmax(20rem,1fr)_auto]">
            <HeadSheet
              dogName={dog.name}
              photos={dog.photos}
              drawing={drawing}
              onSet={(id, value) => act({ type: 'set', id, value })}
              onRest={() => act({ type: 'rest' })}
            />
            <Side dog={dog} drawing={drawing} state={state} act={act} keep={keep} traceAgain={traceAgain} />
          </div>
          <section className="graph shrink-0 rounded-xl border border-rule px-3 pt-1" aria-label="Comb chart">
            <Legend />
            <Chart zones={(told ?? drawing).zones} />
          </section>
        </>
      )}
    </main>
  )
}

function Legend() {
  return (
    <p className="flex flex-wrap items-center gap-x-5 text-sm text-quiet">
      <b className="text-ink">Hair length, mm</b>
      <span>
        <i className="mr-1 inline-block h-1 w-5 bg-cut align-middle" />
        leave
      </span>
      <span>
        <i className="mr-1 inline-block h-3 w-3 bg-off align-middle opacity-80" />
        comes off
      </span>
      <span>
        <i className="mr-1 inline-block h-3 w-0.5 bg-coat align-middle" />
        coat now, 95 %
      </span>
      <span>
        <i className="mr-1 inline-block size-2 rounded-full bg-missing align-middle" />
        missing
      </span>
    </p>
  )
}

const Chart = memo(CombChart)

const VERDICTS = { today: 'Today', later: 'Later', not_on_this_coat: 'Not on this coat' }

type SideProps = {
  dog: Dog
  drawing: Outline
  state: OutlineState
  act: (action: OutlineAction) => void
  keep: () => Promise<void>
  traceAgain: () => Promise<void>
}

function Side({ drawing, state, act, keep, traceAgain }: SideProps) {
  return (
    <aside className="flex min-h-0 flex-col gap-2">
      <header className="flex items-baseline justify-between">
        <h2 className="text-3xl font-bold tracking-tight">{drawing.name}</h2>
        <p
          className={`text-lg font-bold ${drawing.verdict === 'today' ? '' : 'text-missing'}`}
          data-verdict={drawing.verdict}
        >
          {drawing.verdict === 'later'
            ? `in ${drawing.weeks} ${drawing.weeks === 1 ? 'week' : 'weeks'}`
            : VERDICTS[drawing.verdict]}
        </p>
      </header>
      <div className="flex min-h-0 flex-1 flex-col gap-2 overflow-auto pr-1">
        {drawing.parameters
          .filter((p) => p.id !== 'centre_up_mm')
          .map((p) => (
            <WordSlider key={p.id} parameter={p} set={state.params[p.id]} act={act} />
          ))}
        <div className="flex gap-2">
          <Button onClick={() => act({ type: 'undo' })} disabled={state.past.length < 2} aria-label="Undo">
            <Undo2 size={18} aria-hidden />
          </Button>
          <Button onClick={() => act({ type: 'redo' })} disabled={!state.future.length} aria-label="Redo">
            <Redo2 size={18} aria-hidden />
          </Button>
          <Button onClick={() => act({ type: 'as_fitted' })} className="flex-1">
            <RotateCcw size={18} aria-hidden /> As fitted
          </Button>
        </div>
        <ul className="flex flex-col gap-1 text-[0.95rem]" aria-label="Why">
          {drawing.reasons.map((reason) => (
            <li key={reason}>{reason}</li>
          ))}
          {drawing.notes.map((note) => (
            <li key={note} className="text-warn">
              {note}
            </li>
          ))}
        </ul>
        <Disclosure>
          <DisclosureButton className="group flex min-h-12 shrink-0 items-center gap-2 border-t border-rule text-left font-semibold">
            <ChevronDown size={18} className="group-data-open:rotate-180" aria-hidden /> How it is cut, and
            with what care
          </DisclosureButton>
          <DisclosurePanel className="flex flex-col gap-3">
            {drawing.schools.map((school) => (
              <RadioGroup
                key={school.id}
                value={state.schools[school.id] ?? school.default}
                onChange={(choice: string) => act({ type: 'school', id: school.id, choice })}
                aria-label={school.question}
              >
                <p className="text-sm font-semibold" title={school.reason}>
                  {school.question}
                </p>
                <div className="flex gap-1">
                  {school.choices.map((choice) => (
                    <Radio
                      key={choice}
                      value={choice}
                      className="grid min-h-12 flex-1 cursor-pointer place-items-center rounded-lg border border-rule bg-sheet text-[0.95rem] data-checked:border-2 data-checked:border-ink data-checked:bg-tape data-checked:text-[#17352f] data-checked:font-semibold"
                    >
                      {choice}
                    </Radio>
                  ))}
                </div>
              </RadioGroup>
            ))}
            <ul className="border-l-4 border-tape pl-3 text-sm" aria-label="Take care">
              {drawing.cautions.map((caution) => (
                <li key={caution}>{caution}</li>
              ))}
            </ul>
            <button
              className="inline-flex min-h-12 items-center gap-2 self-start text-sm text-quiet underline"
              onClick={() => void traceAgain()}
            >
              <ScanLine size={16} aria-hidden /> Find the coat’s edge again
            </button>
          </DisclosurePanel>
        </Disclosure>
      </div>
      <Button look="firm" className="shrink-0" onClick={() => void keep()} disabled={state.kept}>
        {state.kept ? (
          <>
            <Check size={18} aria-hidden /> Kept with this visit
          </>
        ) : (
          'Keep this outline'
        )}
      </Button>
    </aside>
  )
}

type SliderProps = {
  parameter: Outline['parameters'][number]
  set?: number
  act: (action: OutlineAction) => void
}

/** A slider whose ends are words; the thumb is the tape's yellow. */
function WordSlider({ parameter: p, set, act }: SliderProps) {
  const id = `slider-${p.id}`
  return (
    <div>
      <label htmlFor={id} className="flex justify-between text-[0.95rem]">
        <span>{p.words_low}</span>
        <b>{p.words}</b>
        <span>{p.words_high}</span>
      </label>
      <input
        id={id}
        type="range"
        min={p.low}
        max={p.high}
        step={(p.high - p.low) / 100}
        value={set ?? p.value}
        onChange={(event) => act({ type: 'set', id: p.id, value: Number(event.target.value) })}
        onPointerUp={() => act({ type: 'rest' })}
        onKeyUp={() => act({ type: 'rest' })}
        className="tape-slider h-8 w-full"
      />
    </div>
  )
}
