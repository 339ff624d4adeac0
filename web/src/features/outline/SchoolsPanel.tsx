import { ChevronDown, ScanLine } from 'lucide-react'
import { Disclosure, DisclosureButton, DisclosurePanel, Radio, RadioGroup } from '@headlessui/react'
import type { Outline } from '../../api/client'
import type { OutlineAction } from './outlineMachine'
import { choiceWords } from '../../shared/words'

type Props = { drawing: Outline; act: (action: OutlineAction) => void; traceAgain: () => Promise<void> }
type School = Outline['schools'][number]

const HEADINGS: readonly (readonly [string, string])[] = [
  ['shape', 'Shape'],
  ['ears', 'Ears'],
  ['clipping', 'Clipping'],
  ['order', 'Order of work'],
]

/** How it is cut, as plain questions under their headings, folded to their answers, and with what care. */
export function SchoolsPanel({ drawing, act, traceAgain }: Props) {
  return (
    <div className="flex flex-col gap-3">
      {HEADINGS.map(([about, heading]) => {
        const asked = drawing.schools.filter((school) => school.about === about)
        return asked.length ? (
          <Disclosure as="section" key={about} aria-label={heading} defaultOpen={about === 'shape'}>
            <h3>
              <DisclosureButton className="group flex min-h-12 w-full items-center gap-2 border-b border-rule text-left">
                <span className="font-bold">{heading}</span>
                <span className="min-w-0 flex-1 truncate text-sm text-quiet group-data-open:invisible">
                  {asked.map((school) => choiceWords(school.chosen)).join(', ')}
                </span>
                <ChevronDown size={18} className="shrink-0 group-data-open:rotate-180" aria-hidden />
              </DisclosureButton>
            </h3>
            <DisclosurePanel className="flex flex-col gap-2.5 pt-2">
              {asked.map((school) => (
                <Question key={school.id} school={school} act={act} />
              ))}
            </DisclosurePanel>
          </Disclosure>
        ) : null
      })}
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

function Question({ school, act }: { school: School; act: Props['act'] }) {
  return (
    <RadioGroup
      value={school.chosen}
      onChange={(choice: string) => act({ type: 'school', id: school.id, choice })}
      aria-label={school.question}
    >
      <p className="text-[0.95rem] font-semibold">{school.question}</p>
      <p className="mb-1 text-sm text-quiet">{school.reason}</p>
      <div className="flex flex-wrap gap-1">
        {school.choices.map((choice) => (
          <Radio
            key={choice}
            value={choice}
            className="grid min-h-11 flex-auto cursor-pointer place-items-center rounded-lg border border-rule bg-sheet px-1.5 text-[0.95rem] data-checked:border-cut data-checked:bg-cut data-checked:font-semibold data-checked:text-sheet"
          >
            {choiceWords(choice)}
          </Radio>
        ))}
      </div>
    </RadioGroup>
  )
}
