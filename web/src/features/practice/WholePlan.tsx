import { useState } from 'react'
import { length, useUnit } from '../../ui/units'
import type { Answering, DrillProps } from './DrillScreen'
import { PracticeHead } from './PracticeHead'
import { Lines, Sheet } from './Sheet'
import { Asked } from './WhatSuits'

/** Outline, lengths, tools and order; then it is cut in simulation and grown. */
export function WholePlan({ answering, top, foot }: DrillProps) {
  const { state, shown } = answering
  const { task } = state
  const [stage, setStage] = useState(1)
  return (
    <Sheet
      top={top}
      foot={foot}
      told={shown !== null}
      head={
        <>
          <PracticeHead
            task={task}
            depths={shown?.cut ? 'cut' : 'bare'}
            cut={shown?.cut?.cut ?? null}
            ahead={shown?.cut?.later ?? null}
            state={shown?.cut ? stage : 0}
            turns
            label="The head; arrow keys turn it"
          />
          {shown?.cut && (
            <label className="absolute inset-x-4 bottom-2 flex items-center gap-3 rounded-lg bg-sheet/85 px-3">
              before
              <input
                type="range"
                min={0}
                max={2}
                step={0.05}
                value={stage}
                onChange={(event) => setStage(event.target.valueAsNumber)}
                className="tape-slider h-10 min-w-0 flex-1"
                aria-label={`Before the cut, after it, and ${task.weeks ?? 0} weeks on`}
              />
              {task.weeks} weeks on
            </label>
          )}
        </>
      }
    >
      <div className="flex flex-col gap-3">
        <Asked task={task} />
        {shown ? <CameOut answering={answering} /> : <Planning answering={answering} />}
      </div>
    </Sheet>
  )
}

function Planning({ answering: { state, act } }: { answering: Answering }) {
  const { task, draft } = state
  const [unit] = useUnit()
  return (
    <>
      <div role="radiogroup" aria-label="Outline" className="flex flex-wrap gap-1.5">
        {task.families.map((family) => (
          <button
            key={family.id}
            role="radio"
            aria-checked={draft.family === family.id}
            data-family={family.id}
            title={family.description}
            onClick={() => act({ type: 'family', id: family.id })}
            className="min-h-11 rounded-lg border border-rule bg-paper px-3 font-semibold aria-checked:border-cut aria-checked:bg-cut aria-checked:text-sheet"
          >
            {family.name}
          </button>
        ))}
      </div>
      <ul className="flex flex-col gap-2" aria-label="Places">
        {task.zones.map((zone) => {
          const turn = draft.order.indexOf(zone.zone)
          const mm = draft.lengths[zone.zone] ?? zone.now_mm
          return (
            <li key={zone.zone} className="rounded-lg border border-rule bg-paper p-2" data-zone={zone.zone}>
              <div className="flex items-center gap-2">
                <button
                  onClick={() => act({ type: 'rank', id: zone.zone })}
                  aria-pressed={turn >= 0}
                  aria-label={`${zone.words}: ${turn >= 0 ? `cut as number ${turn + 1}` : 'no turn yet'}`}
                  className="grid size-11 shrink-0 place-items-center rounded-full border-2 border-rule text-xl font-bold aria-pressed:border-cut aria-pressed:bg-cut aria-pressed:text-sheet"
                >
                  {turn >= 0 ? turn + 1 : '·'}
                </button>
                <span className="w-18 leading-tight">
                  <b>{zone.words}</b>
                  <span className="block text-sm text-quiet">of {length(zone.now_mm, unit)}</span>
                </span>
                <input
                  type="range"
                  min={1}
                  max={Math.max(zone.now_mm, 2)}
                  step={1}
                  value={mm}
                  onChange={(event) =>
                    act({ type: 'length', zone: zone.zone, mm: event.target.valueAsNumber })
                  }
                  className="tape-slider h-11 min-w-0 flex-1"
                  aria-label={`Leave at the ${zone.words}, mm`}
                />
                <b className="min-w-16 shrink-0 text-right text-xl whitespace-nowrap">
                  {length(mm, unit)} {unit === 'mm' ? 'mm' : ''}
                </b>
              </div>
              <div role="radiogroup" aria-label={`Tool for ${zone.words}`} className="flex gap-1">
                {task.tools.map((tool) => (
                  <button
                    key={tool.id}
                    role="radio"
                    aria-checked={draft.tools[zone.zone] === tool.id}
                    data-tool={tool.id}
                    onClick={() => act({ type: 'tool', zone: zone.zone, id: tool.id })}
                    className="min-h-11 flex-1 rounded border border-rule px-1 text-sm leading-tight aria-checked:border-cut aria-checked:bg-cut aria-checked:text-sheet"
                  >
                    {tool.words}
                  </button>
                ))}
              </div>
            </li>
          )
        })}
      </ul>
    </>
  )
}

function CameOut({ answering: { state, shown } }: { answering: Answering }) {
  const { task, draft } = state
  const [unit] = useUnit()
  if (shown?.told.drill !== 'plan') return null
  return (
    <>
      <p className="text-xl font-semibold" data-told>
        {shown.told.words}
      </p>
      <ul className="flex flex-col gap-1.5" aria-label="What went wrong">
        {shown.told.faults.map((fault) => (
          <li key={fault.words} data-cause={fault.cause}>
            {fault.words}
          </li>
        ))}
      </ul>
      <Lines lines={shown.lines} />
      <table className="w-full">
        <thead className="text-left text-sm text-quiet">
          <tr>
            <th>place</th>
            <th className="text-right">you, mm</th>
            <th className="text-right">outline, mm</th>
            <th className="text-right">turn</th>
          </tr>
        </thead>
        <tbody>
          {task.zones.map((zone) => (
            <tr key={zone.zone} className="border-t border-rule">
              <td>{zone.words}</td>
              <td className="text-right">{length(draft.lengths[zone.zone] ?? 0, unit)}</td>
              <td className="text-right font-semibold">{length(shown.lengths_mm[zone.zone] ?? 0, unit)}</td>
              <td className="text-right">
                {draft.order.indexOf(zone.zone) + 1}
                <span className="text-quiet"> / {shown.right.indexOf(zone.zone) + 1}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}
