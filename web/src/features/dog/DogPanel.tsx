import { Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/react'
import type { Dog, Measured, Schemas } from '../../api/client'
import { shortDay } from '../../shared/days'
import { HeadFacts } from './HeadFacts'
import { OverTime } from './OverTime'
import { Record } from './Record'
import { Scroller } from '../../ui/Scroller'

type Props = { dog: Dog; measured: Measured | undefined; history: Schemas['HistoryOut'] | undefined }
const TABS = ['Head', 'Over time', 'Record'] as const

/** Beside the drawing: the head in words, how it and its coat changed, notes and what can be done with the record. */
export function DogPanel({ dog, measured, history }: Props) {
  return (
    <aside className="flex min-h-0 flex-col rounded-xl border border-rule bg-sheet p-4">
      <h2 className="text-3xl font-bold tracking-tight">{dog.name}</h2>
      <p className="mb-2 text-quiet">
        {[dog.breed, dog.born && `born ${shortDay(dog.born)}`].filter(Boolean).join(' · ')}
      </p>
      <TabGroup className="flex min-h-0 flex-1 flex-col">
        <TabList className="flex shrink-0 border-b border-rule">
          {TABS.map((tab) => (
            <Tab
              key={tab}
              className="min-h-11 flex-1 border-b-4 border-transparent font-semibold text-quiet data-selected:border-cut data-selected:text-ink"
            >
              {tab}
            </Tab>
          ))}
        </TabList>
        <Scroller outer="flex-1" className="pt-3 pr-1">
          <TabPanels>
            <TabPanel>
              <HeadFacts dog={dog} measured={measured} />
            </TabPanel>
            <TabPanel>{history && <OverTime visits={history.visits} />}</TabPanel>
            <TabPanel>
              <Record dog={dog} visits={history?.visits ?? []} />
            </TabPanel>
          </TabPanels>
        </Scroller>
      </TabGroup>
    </aside>
  )
}
