import { ScanLine } from 'lucide-react'
import { Radio, RadioGroup } from '@headlessui/react'
import type { Outline } from '../../api/client'
import type { OutlineAction } from './outlineMachine'
import { choiceWords } from '../../shared/words'

type Props = { drawing: Outline; act: (action: OutlineAction) => void; traceAgain: () => Promise<void> }

/** How it is cut, as plain questions, and with what care. */
export function SchoolsPanel({ drawing, act, traceAgain }: Props) {
  return (
    <div className="flex flex-col gap-3">
      {drawing.schools.map((school) => (
        <RadioGroup
          key={school.id}
          value={school.chosen}
          onChange={(choice: string) => act({ type: 'school', id: school.id, choice })}
          aria-label={school.question}
        >
          <p className="text-[0.95rem] font-semibold">{school.question}</p>
          <p className="mb-1 text-sm text-quiet">{school.reason}</p>
          <div className="flex gap-1">
            {school.choices.map((choice) => (
              <Radio
                key={choice}
                value={choice}
                className="grid min-h-11 flex-1 cursor-pointer place-items-center rounded-lg border border-rule bg-sheet px-1 text-[0.95rem] data-checked:border-cut data-checked:bg-cut data-checked:font-semibold data-checked:text-sheet"
              >
                {choiceWords(choice)}
              </Radio>
            ))}
          </div>
        </RadioGroup>
      ))}
      <p className="text-[0.95rem]">{drawing.finish}</p>
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
    </div>
  )
}
