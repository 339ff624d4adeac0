import { COATS } from '../../shared/coats'
import type { Answering, DrillProps } from './DrillScreen'
import { PracticeHead } from './PracticeHead'
import { Lines, Sheet } from './Sheet'

/** Three outlines put in order for this head and coat. */
export function WhatSuits({ answering: { state, act, shown }, top, foot }: DrillProps) {
  const { task, draft } = state
  const last = task.families.find((f) => f.id === draft.order.at(-1))
  return (
    <Sheet
      top={top}
      foot={foot}
      told={shown !== null}
      head={
        <PracticeHead
          task={task}
          depths="bare"
          state={0}
          turns
          label="A head in its coat; arrow keys turn it"
        />
      }
    >
      <div className="flex flex-col gap-3">
        <Asked task={task} />
        <ol className="flex flex-col gap-2" aria-label="Best first">
          {task.families.map((family) => {
            const at = draft.order.indexOf(family.id)
            const right = shown ? shown.right.indexOf(family.id) + 1 : 0
            return (
              <li key={family.id}>
                <button
                  data-family={family.id}
                  disabled={shown !== null}
                  aria-pressed={at >= 0}
                  onClick={() => act({ type: 'rank', id: family.id })}
                  className="flex min-h-14 w-full items-center gap-3 rounded-lg border border-rule bg-paper px-3 py-1.5 text-left aria-pressed:border-cut"
                >
                  <b className="w-7 text-center text-2xl">{at >= 0 ? at + 1 : '·'}</b>
                  <span className="min-w-0 flex-1">
                    <b>{family.name}</b>
                    <span className="block text-sm text-quiet">{family.description}</span>
                  </span>
                  {right > 0 && (
                    <span className="text-sm whitespace-nowrap text-quiet">Dapwick: {right}</span>
                  )}
                </button>
              </li>
            )
          })}
        </ol>
        {shown ? (
          <>
            <p className="text-xl font-semibold" data-told>
              {shown.told.drill === 'suits' && shown.told.words}
            </p>
            <Lines lines={shown.lines} />
          </>
        ) : (
          last &&
          draft.order.length === task.families.length && (
            <div
              role="radiogroup"
              aria-label={`What speaks most against ${last.name}?`}
              className="flex flex-col gap-1.5"
            >
              <span className="font-semibold">What speaks most against {last.name}?</span>
              {task.reasons.map((reason) => (
                <button
                  key={reason.id}
                  role="radio"
                  aria-checked={draft.why === reason.id}
                  data-why={reason.id}
                  onClick={() => act({ type: 'why', id: reason.id })}
                  className="min-h-11 rounded-lg border border-rule bg-paper px-3 text-left aria-checked:border-cut aria-checked:bg-cut aria-checked:text-sheet"
                >
                  {reason.words}
                </button>
              ))}
            </div>
          )
        )}
      </div>
    </Sheet>
  )
}

/** What the owner wants, and what coat there is. */
export function Asked({ task }: { task: Answering['state']['task'] }) {
  return (
    <p className="text-lg">
      <b>“{task.wish}”</b>
      <span className="text-quiet">
        {' '}
        {COATS.find((one) => one.id === task.coat)?.words ?? task.coat} coat
        {task.weeks ? `, ${task.weeks} weeks between visits` : ''}.
      </span>
    </p>
  )
}
