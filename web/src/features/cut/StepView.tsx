import { TriangleAlert } from 'lucide-react'
import { useRef } from 'react'
import type { Dog, Schemas } from '../../api/client'
import { inUnit, useUnit } from '../../ui/units'
import { useFitted } from '../../ui/useFitted'
import { saidOf, type CutState, type Step } from './cutMachine'
import { FromLast } from '../../shared/FromLast'
import { OwnHand } from './OwnHand'
import { partsAt } from './partsAt'
import { SmallHead } from './SmallHead'
import { CombFirst } from './CombFirst'
import { numberWords, partLength, runWords } from './words'
import { Scroller } from '../../ui/Scroller'

type Sheet = Schemas['SheetOut']

/** One step, to be read from two steps away: its number, its tool, where and which way, what to mind. */
export function StepView({
  dog,
  sheet,
  step,
  state,
  why,
}: {
  dog: Dog
  sheet: Sheet
  step: Step
  state: CutState
  why: boolean
}) {
  const said = saidOf(state, step.id)
  const [unit] = useUnit()
  const words = useRef<HTMLDivElement>(null)
  useFitted(words)
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,2fr)_minmax(0,3fr)] gap-5 portrait:grid-cols-1 portrait:grid-rows-[minmax(0,1fr)_minmax(0,2fr)]">
      <div className="flex min-h-0 flex-col gap-2">
        <SmallHead sheet={sheet} step={step} className="flex-1" />
        <CombFirst dog={dog} step={step} />
      </div>
      <Scroller
        role="region"
        aria-label="The step"
        tabIndex={0}
        outer=""
        className="pr-1 outline-offset-[-2px]"
      >
        <div ref={words} className="flex flex-col gap-[0.4em]">
          <h2 className="text-[1.9em] leading-tight font-bold">{step.title}</h2>
          {sheet.before_time && step.number === 1 && (
            <p className="text-[1.9em] leading-tight font-bold text-warn" data-before-time>
              {sheet.before_time}
            </p>
          )}
          <Lengths step={step} />
          <FromLast parts={partsAt(dog, step)} className="text-[1.125em]" />
          <OwnHand dog={dog} step={step} />
          {step.tool && (
            <p className="text-[1.9em] font-semibold" data-tool>
              {inUnit(step.tool, unit)}
            </p>
          )}
          {said.tool && <p className="text-[1.25em]">Really used: {said.tool}</p>}
          {step.told && <p className="text-[1.125em] text-warn">{step.told}</p>}
          <p className="text-[1.25em] leading-snug" data-how>
            {step.how}
          </p>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-[1.125em] leading-snug">
            <Row words="Hold" says={step.hold} />
            <Row words="Look" says={step.check} />
            <Row words="Minds" says={step.minded.join(', ')} />
            {step.sides_words.map((words) => (
              <Row key={words} words="Sides" says={words} />
            ))}
          </dl>
          <Cautions step={step} />
          {why && <Why step={step} />}
        </div>
      </Scroller>
    </div>
  )
}

/** The numbers that are cut: the largest thing on the screen; where places differ, each its own. */
function Lengths({ step }: { step: Step }) {
  const [unit] = useUnit()
  const suffix = unit === 'mm' ? ' mm' : ''
  if (step.parts.some((part) => part.run)) return <Runs step={step} />
  if (step.parts.length)
    return (
      <ul className="flex flex-wrap gap-x-8 gap-y-2" data-parts>
        {step.parts.map((part) => (
          <li key={part.words}>
            <span className="block text-[4.5em] leading-none font-bold tracking-tight whitespace-nowrap">
              {partLength(part, unit)}
              {part.leave_mm !== null && <span className="text-[0.34em]">{suffix}</span>}
            </span>
            <span className="text-[1.25em] font-semibold">{part.words}</span>
          </li>
        ))}
      </ul>
    )
  if (step.leave_mm)
    return (
      <p className="font-bold whitespace-nowrap" data-number>
        <span className="text-[6em] leading-none tracking-tight">{numberWords(step, unit)}</span>
        <span className="text-[1.9em]">{suffix}</span>
      </p>
    )
  if (!step.eye) return null
  return (
    <p className="text-[2.25em] leading-tight font-bold" data-eye>
      {step.eye}
    </p>
  )
}

/** A length that runs over its place: the span large, beside it where it is short and where long. */
function Runs({ step }: { step: Step }) {
  const [unit] = useUnit()
  const suffix = unit === 'mm' ? ' mm' : ''
  return (
    <div className="flex flex-wrap items-center gap-x-6 gap-y-1">
      <p className="font-bold whitespace-nowrap" data-number>
        <span className="text-[4.5em] leading-none tracking-tight">{numberWords(step, unit)}</span>
        <span className="text-[1.5em]">{suffix}</span>
      </p>
      <ul className="min-w-[18em] flex-1 text-[1.125em] leading-snug font-semibold" data-parts>
        {step.parts.map((part) => (
          <li key={part.words}>
            <span className="text-quiet">{part.words}</span>{' '}
            <span data-run>{part.run ? runWords(part, unit) : `${partLength(part, unit)}${suffix}`}</span>
          </li>
        ))}
      </ul>
    </div>
  )
}

function Row({ words, says }: { words: string; says: string }) {
  if (!says) return null
  return (
    <>
      <dt className="font-semibold text-quiet">{words}</dt>
      <dd>{says}</dd>
    </>
  )
}

function Cautions({ step }: { step: Step }) {
  const full = step.cautions.filter((caution) => caution.full)
  const brief = step.cautions.filter((caution) => !caution.full)
  return (
    <div className="flex flex-col gap-1" role="note" aria-label="Cautions">
      {full.map((caution) => (
        <p
          key={caution.id}
          data-caution={caution.id}
          className="flex gap-2 border-l-4 border-off pl-3 text-[1.125em] leading-snug"
        >
          <TriangleAlert size={22} className="mt-0.5 shrink-0 text-off" aria-hidden />
          {caution.words}
        </p>
      ))}
      {brief.length > 0 && (
        <p className="pl-4 text-[1em] text-quiet">
          {brief.map((caution) => (
            <span
              key={caution.id}
              data-caution={caution.id}
              className="mr-4 inline-flex items-center gap-1.5"
            >
              <TriangleAlert size={16} className="text-off" aria-hidden />
              {caution.brief}
            </span>
          ))}
        </p>
      )}
    </div>
  )
}

const LINKS: Readonly<Record<string, string>> = {
  measure: 'Measured',
  rule: 'Rule',
  room: 'Room',
  wish: 'Wish',
  tool: 'Tool',
  skin: 'Skin',
  hand: 'Hand',
  dog: 'Dog',
  sides: 'Sides',
}

/** The chain behind the step: measure, rule, room, wish. */
export function Why({ step }: { step: Step }) {
  return (
    <dl
      aria-label="Why"
      className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 border-l-4 border-tape pl-3 text-[1.125em] leading-snug"
    >
      {step.why.map((because, i) => (
        <div key={i} className="contents">
          <dt className="font-semibold text-quiet">{LINKS[because.of] ?? because.of}</dt>
          <dd>{because.words}</dd>
        </div>
      ))}
    </dl>
  )
}
