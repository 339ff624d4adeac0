import { useRef } from 'react'
import type { DrillProps } from './DrillScreen'
import { PracticeHead } from './PracticeHead'
import { Lines, Sheet } from './Sheet'

/** A measure guessed before it is told. */
export function ByEye({ answering: { state, act, shown, tell }, top, foot }: DrillProps) {
  const { task, draft } = state
  const { measure } = task
  const ratio = measure?.unit === 'ratio'
  const step = ratio ? 0.01 : 1
  const guess = draft.guess
  const sure = useRef<HTMLButtonElement>(null)
  return (
    <Sheet
      top={top}
      foot={foot}
      told={shown !== null}
      head={
        <PracticeHead
          task={task}
          depths="bare"
          state={shown ? 1 : 0}
          turns
          truth={Object.entries(shown?.marks_mm ?? {}).map(([id, at]) => ({ id, at }))}
          ruler={!ratio}
          label="A head; arrow keys turn it"
        />
      }
    >
      {measure && (
        <div className="flex flex-col gap-3">
          <p className="text-2xl font-bold" data-measure={measure.id}>
            {measure.question}
          </p>
          {shown?.told.drill === 'eye' ? (
            <>
              <p className="text-lg">
                You said <b>{said(guess ?? 0, ratio)}</b>; it is{' '}
                <b className="text-3xl" data-truth>
                  {said(shown.told.true, ratio)}
                </b>
                .
              </p>
              <p className="text-xl font-semibold" data-told>
                {shown.told.words}
              </p>
              <Lines lines={shown.lines} />
            </>
          ) : (
            <>
              <label className="flex items-baseline gap-2 text-lg">
                <input
                  type="number"
                  inputMode="decimal"
                  autoFocus
                  min={measure.least}
                  max={measure.most}
                  step={step}
                  value={guess ?? ''}
                  aria-label="Your guess"
                  onChange={(event) =>
                    act({
                      type: 'guess',
                      value: event.target.value === '' ? null : event.target.valueAsNumber,
                    })
                  }
                  onKeyDown={(event) => {
                    if (event.key !== 'Enter') return
                    if (tell) tell()
                    else sure.current?.focus()
                  }}
                  className="h-16 w-36 rounded-lg border border-rule bg-paper px-3 text-4xl font-bold"
                />
                {ratio ? 'to 1' : 'mm'}
              </label>
              <input
                type="range"
                min={measure.least}
                max={measure.most}
                step={step}
                value={guess ?? (measure.least + measure.most) / 2}
                aria-label="Your guess, by slider"
                onChange={(event) => act({ type: 'guess', value: event.target.valueAsNumber })}
                className="tape-slider h-12"
              />
              <div role="radiogroup" aria-label="How sure are you?" className="flex flex-wrap gap-2">
                <span className="w-full">Within</span>
                {task.sure.map((percent, i) => (
                  <button
                    key={percent}
                    ref={i === 0 ? sure : undefined}
                    role="radio"
                    aria-checked={draft.within === percent}
                    onClick={() => act({ type: 'within', percent })}
                    className="min-h-12 flex-1 rounded-lg border border-rule bg-paper px-3 font-semibold aria-checked:border-cut aria-checked:bg-cut aria-checked:text-sheet"
                  >
                    {percent} %
                  </button>
                ))}
              </div>
            </>
          )}
        </div>
      )}
    </Sheet>
  )
}

const said = (value: number, ratio: boolean) => (ratio ? value.toFixed(2) : `${value.toFixed(0)} mm`)
