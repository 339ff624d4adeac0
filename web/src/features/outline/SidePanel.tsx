import { Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/react'
import { Check, Columns2, Eye, Redo2, RotateCcw, Undo2 } from 'lucide-react'
import type { Dog, Outline, Wishes } from '../../api/client'
import { Button } from '../../ui/Button'
import { Scroller } from '../../ui/Scroller'
import { FromLast, partsFor } from '../../shared/FromLast'
import { lengthWords, useUnit } from '../../ui/units'
import { CombNow } from './CombNow'
import type { OutlineAction, OutlineState } from './outlineMachine'
import { CutFor } from './CutFor'
import { Instead } from './Instead'
import { OwnOutline } from './OwnOutline'
import { SchoolsPanel } from './SchoolsPanel'
import { WhyPanel } from './WhyPanel'
import { WishesPanel } from './WishesPanel'
import { WordSlider } from './WordSlider'
import { dayIn } from './words'

type Props = {
  dog: Dog
  drawing: Outline
  /** Chart and reasons may lag a moment behind the drawing. */
  told: Outline
  state: OutlineState
  act: (action: OutlineAction) => void
  keep: () => Promise<void>
  traceAgain: () => Promise<void>
  wish: (wishes: Wishes) => void
  onCompare: () => void
  onOwner: () => void
}

const TABS = ['Shape', 'How', 'Wishes', 'Why'] as const

export function SidePanel({
  dog,
  drawing,
  told,
  state,
  act,
  keep,
  traceAgain,
  wish,
  onCompare,
  onOwner,
}: Props) {
  const [unit] = useUnit()
  const { smallest, largest } = drawing.sizes
  // A slider that hardly moves the outline says so: the coat carries no more.
  const sizeEnds = [lengthWords(smallest, unit), lengthWords(largest, unit)] as const
  const unmet = told.wishes.filter((w) => !w.met).length
  return (
    <aside className="flex min-h-0 flex-1 flex-col gap-2">
      <header className="flex items-baseline justify-between gap-2">
        <h2 className="text-2xl leading-tight font-bold tracking-tight">{drawing.called}</h2>
        <div
          className={`shrink-0 text-right font-bold whitespace-nowrap ${drawing.verdict === 'today' && !drawing.comb_first.length ? '' : 'text-missing'}`}
          data-verdict={drawing.verdict}
        >
          <CombNow dog={dog} drawing={drawing} />
          {drawing.verdict === 'later' && (
            <span className="block text-right text-xs font-normal">about {dayIn(drawing.weeks)}</span>
          )}
        </div>
      </header>
      <FromLast parts={partsFor(dog, 'outline')} />
      {drawing.verdict !== 'today' && <Instead dog={dog} drawing={drawing} act={act} />}
      <TabGroup className="flex min-h-0 flex-1 flex-col">
        <TabList className="flex shrink-0 border-b border-rule">
          {TABS.map((tab) => (
            <Tab
              key={tab}
              className="min-h-11 flex-1 border-b-4 border-transparent font-semibold text-quiet data-selected:border-cut data-selected:text-ink"
            >
              {tab}
              {tab === 'Wishes' && unmet > 0 && (
                <span
                  className="ml-1 rounded-full bg-missing px-1.5 text-xs text-sheet"
                  aria-label={`${unmet} not met`}
                >
                  {unmet}
                </span>
              )}
            </Tab>
          ))}
        </TabList>
        <Scroller outer="flex-1" className="py-2 pr-1">
          <TabPanels>
            <TabPanel className="flex flex-col gap-1.5 portrait:grid portrait:grid-cols-2 portrait:gap-x-8">
              {drawing.parameters.map((p) => (
                <WordSlider
                  key={p.id}
                  parameter={p}
                  set={state.setting.params[p.id]}
                  ends={p.id === 'fullness' ? sizeEnds : undefined}
                  act={act}
                />
              ))}
              <OwnOutline dog={dog} drawing={drawing} setting={state.setting} act={act} />
            </TabPanel>
            <TabPanel>
              <SchoolsPanel drawing={drawing} act={act} traceAgain={traceAgain} />
            </TabPanel>
            <TabPanel>
              <WishesPanel dog={dog} drawing={told} wish={wish} />
              <CutFor dog={dog} setting={state.setting} act={act} />
            </TabPanel>
            <TabPanel>
              <WhyPanel drawing={told} />
            </TabPanel>
          </TabPanels>
        </Scroller>
      </TabGroup>
      <div className="flex shrink-0 gap-1.5">
        <Tool
          label="Undo"
          words="undo"
          icon={Undo2}
          onClick={() => act({ type: 'undo' })}
          disabled={!state.past.length}
        />
        <Tool
          label="Redo"
          words="redo"
          icon={Redo2}
          onClick={() => act({ type: 'redo' })}
          disabled={!state.future.length}
        />
        <Tool
          label="As fitted"
          words="as fitted"
          icon={RotateCcw}
          onClick={() => act({ type: 'as_fitted' })}
        />
        <Tool label="Compare two outlines" words="compare" icon={Columns2} onClick={onCompare} />
      </div>
      <div className="flex shrink-0 gap-1.5">
        <Button className="flex-1 px-2 whitespace-nowrap" onClick={onOwner}>
          <Eye size={18} aria-hidden /> Show the owner
        </Button>
        <Button
          look="firm"
          className="flex-1 px-2 whitespace-nowrap"
          onClick={() => void keep()}
          disabled={state.kept && !dog.stale['outline']}
        >
          {state.kept && !dog.stale['outline'] ? (
            <>
              <Check size={18} aria-hidden /> Kept
            </>
          ) : (
            'Keep this outline'
          )}
        </Button>
      </div>
    </aside>
  )
}

type ToolProps = { label: string; words: string; icon: typeof Undo2; onClick: () => void; disabled?: boolean }

function Tool({ label, words, icon: Icon, onClick, disabled }: ToolProps) {
  return (
    <Button
      className="flex-1 flex-col gap-0! px-1!"
      onClick={onClick}
      disabled={disabled}
      aria-label={label}
      title={label}
    >
      <Icon size={18} aria-hidden />
      <span className="text-xs leading-tight font-medium">{words}</span>
    </Button>
  )
}
