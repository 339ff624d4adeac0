import { Check, House, SkipForward, TriangleAlert } from 'lucide-react'
import type { Schemas } from '../../api/client'
import { inUnit, useUnit } from '../../ui/units'
import type { Log, Step } from './cutMachine'
import { numberWords } from './words'

type Props = { sheet: Schemas['SheetOut']; log: Log; at: string | null; onGo?: (step: string) => void }

/** The whole sheet at a glance, by chapter: number, tool, cautions, where it may end. */
export function SheetList({ sheet, log, at, onGo }: Props) {
  // A step put between those of another chapter stays with them and carries its own chapter's name.
  const runs: { chapter: string; steps: Step[] }[] = []
  for (const step of sheet.steps) {
    const named = runs.some((run) => run.chapter === step.chapter)
    if (runs.length && (named || step.doing === 'rest')) runs.at(-1)?.steps.push(step)
    else runs.push({ chapter: step.chapter, steps: [step] })
  }
  return (
    <>
      <p className="mb-2 flex gap-5 text-sm text-quiet" aria-hidden>
        <span className="flex items-center gap-1.5">
          <TriangleAlert size={15} className="text-off" /> a caution is told in full
        </span>
        <span className="flex items-center gap-1.5">
          <House size={15} /> both sides alike: the dog may go home
        </span>
      </p>
      <div className="columns-2 gap-6 portrait:columns-1">
        {runs.map((run, i) => (
          <section key={i} className="mb-3 break-inside-avoid-column">
            <h3 className="border-b-2 border-rule pb-0.5 font-bold text-quiet">{run.chapter}</h3>
            <ol>
              {run.steps.map((step) => (
                <li key={step.id}>
                  <ListRow
                    step={step}
                    guest={step.chapter !== run.chapter && step.doing !== 'rest'}
                    entry={log[step.id]}
                    here={step.id === at}
                    onGo={onGo}
                  />
                </li>
              ))}
            </ol>
          </section>
        ))}
      </div>
    </>
  )
}

type RowProps = {
  step: Step
  guest: boolean
  entry: Log[string] | undefined
  here: boolean
  onGo?: (step: string) => void
}

function ListRow({ step, guest, entry, here, onGo }: RowProps) {
  const [unit] = useUnit()
  const number = numberWords(step, unit)
  return (
    <button
      disabled={!onGo}
      onClick={() => onGo?.(step.id)}
      aria-current={here ? 'step' : undefined}
      data-row={step.id}
      className={`flex min-h-11 w-full items-center gap-2 border-b border-rule px-1 py-1 text-left ${here ? 'bg-tape/40' : onGo ? 'hover:bg-tape/20' : ''} ${step.doing === 'rest' ? 'text-quiet italic' : ''}`}
    >
      <span className="w-7 shrink-0 text-right text-sm text-quiet">{step.number}</span>
      <span className="min-w-0 flex-1 leading-tight">
        <span className={entry ? 'text-quiet line-through' : 'font-semibold'}>{step.title}</span>
        {step.tool && (
          <span className="block text-sm text-quiet">
            {guest && `${step.chapter}: `}
            {inUnit(step.tool, unit)}
            {step.comb_first.length > 0 && <b className="text-ink"> · comb first</b>}
          </span>
        )}
      </span>
      {step.cautions.some((caution) => caution.full) && (
        <TriangleAlert size={16} className="shrink-0 text-off" aria-label="caution" />
      )}
      {step.may_end && <House size={16} className="shrink-0" aria-label="may end here" />}
      {entry?.state === 'done' && <Check size={18} strokeWidth={3} className="shrink-0" aria-label="done" />}
      {entry?.state === 'skipped' && <SkipForward size={18} className="shrink-0" aria-label="skipped" />}
      <span className="w-16 shrink-0 text-right text-xl font-bold whitespace-nowrap">{number}</span>
    </button>
  )
}
