import { Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/react'
import { useState } from 'react'
import { flushSync } from 'react-dom'
import type { Dog, HandMeasure, Measured, Probe, Schemas } from '../../api/client'
import { CombHead } from './CombHead'
import { HandField } from './HandField'
import { HelpNow } from './HelpNow'
import { useShortcuts } from '../../ui/useShortcuts'
import { MeasureTable } from '../../shared/MeasureTable'
import { viewWords, zoneWords } from '../../shared/words'

type Finding = Measured['findings'][number]

type Props = {
  dog: Dog
  guide: Schemas['MarkGuide']
  measured?: Measured
  setHand: (change: (had: HandMeasure[]) => HandMeasure[]) => Promise<void>
  setProbes: (change: (had: Probe[]) => Probe[]) => Promise<void>
  onFinding: (photoId: number | null, mark: string | null) => void
}

/** What is still missing, rather than wrong: said calmly. */
const HINTS = new Set(['too_few_marks', 'no_scale', 'depth_unknown'])

const SIGMA_MM = 1
const TABS = ['Measures', 'By hand', 'Comb'] as const
const [MEASURES, BY_HAND, COMB] = [0, 1, 2]

/** What is wrong, what would help most, the measures with their ±, readings by calliper and comb. */
export function MeasuresPanel({ dog, guide, measured, setHand, setProbes, onFinding }: Props) {
  const findings = measured?.findings ?? []
  const [tab, setTab] = useState(MEASURES)
  const [zone, setZone] = useState<string | null>(null)
  const [span, setSpan] = useState<string | null>(null)
  const idOf = (m: HandMeasure) => `${m.from_mark}-${m.to_mark}`
  const spans = guide.spans.map((s) => ({ ...s, id: `${s.from_mark}-${s.to_mark}`, words: capital(s.words) }))
  useTypedReading(() => setTab((now) => (now === MEASURES ? BY_HAND : now)))
  return (
    <>
      {measured !== undefined && measured.known_visits > 0 && (
        <p className="shrink-0 border-l-4 border-cut px-3 text-[0.95rem]" data-known>
          <b>Bone known</b> from{' '}
          {measured.known_visits === 1 ? 'the last visit' : `${measured.known_visits} visits`}: eyes and nose
          tell where the camera stood, and the other suggestions can be accepted.
        </p>
      )}
      {measured && measured.wider !== 1 && (
        <p className="shrink-0 border-l-4 border-brass px-3 text-[0.95rem]" data-wider={measured.wider}>
          ± told {measured.wider} times wider, by this salon’s own readings.
        </p>
      )}
      <Findings findings={findings} onFinding={onFinding} />
      <HelpNow
        dog={dog}
        measured={measured}
        onHelp={(help) => {
          if (help.kind === 'hand') {
            // The field is there once the tab is: the next thing is typing.
            flushSync(() => {
              setSpan(help.what)
              setTab(BY_HAND)
            })
            toField()
          } else if (help.kind === 'comb') {
            flushSync(() => {
              setZone(help.what)
              setTab(COMB)
            })
            toField()
          } else if (help.kind === 'photo') {
            const shown = dog.photos.find((p) => p.view === help.what && p.state === 'dry')
            if (shown) onFinding(shown.id, null)
          } else if (help.kind === 'mark') {
            const [photo = '', mark = ''] = help.what.split(':')
            const shown = dog.photos.find((p) => `${viewWords(p.view)}, ${p.state}` === photo)
            onFinding(shown?.id ?? null, mark)
          }
        }}
      />
      <TabGroup
        selectedIndex={tab}
        onChange={setTab}
        className="flex shrink-0 flex-col rounded-xl border border-rule bg-sheet"
      >
        <TabList className="flex border-b border-rule">
          {TABS.map((words) => (
            <Tab
              key={words}
              className="min-h-12 flex-1 font-semibold text-quiet data-selected:border-b-4 data-selected:border-cut data-selected:text-ink"
            >
              {words}
            </Tab>
          ))}
        </TabList>
        <TabPanels className="p-3">
          <TabPanel>
            <MeasureTable measured={measured} />
          </TabPanel>
          <TabPanel>
            <HandField
              title="Measured by hand, mm"
              entries={dog.hand_measures.map((m) => ({
                id: idOf(m),
                mm: m.mm,
                words: spans.find((s) => s.id === idOf(m))?.words ?? idOf(m),
              }))}
              choices={spans}
              chosen={span}
              onChoose={setSpan}
              onAdd={async (id, mm) => {
                const read = spans.find((s) => s.id === id)
                if (read)
                  await setHand((had) => [
                    ...had.filter((m) => idOf(m) !== id),
                    { from_mark: read.from_mark, to_mark: read.to_mark, mm, sigma_mm: SIGMA_MM },
                  ])
              }}
              onRemove={(id) => setHand((had) => had.filter((m) => idOf(m) !== id))}
            />
          </TabPanel>
          <TabPanel>
            <CombHead dog={dog} zones={guide.combed} chosen={zone} onChoose={setZone} />
            <HandField
              title="Comb to the skin: coat depth, mm"
              entries={dog.coat_probes.map((p) => ({ id: p.zone, mm: p.depth_mm, words: placeOf(p.zone) }))}
              choices={guide.combed.map((id) => ({ id, words: placeOf(id) }))}
              chosen={zone}
              onChoose={setZone}
              onAdd={(id, mm) =>
                setProbes((had) => [
                  ...had.filter((p) => p.zone !== id),
                  { zone: id, side: null, depth_mm: mm, length_mm: null },
                ])
              }
              onRemove={(id) => setProbes((had) => had.filter((p) => p.zone !== id))}
            />
          </TabPanel>
        </TabPanels>
      </TabGroup>
      {dog.note && (
        <p className="shrink-0 border-l-4 border-rule px-3 text-[0.95rem] text-quiet">{dog.note}</p>
      )}
    </>
  )
}

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1)
const placeOf = (zone: string) => `Coat at the ${zoneWords(zone)}`

/** A calliper that types like a keyboard finds its field by itself: digits typed at nothing open it. */
function useTypedReading(open: () => void) {
  useShortcuts((event) => {
    // 0 alone shows the whole photo again; no reading begins with it.
    if (event.ctrlKey || event.metaKey || event.altKey || !/^[1-9]$/.test(event.key)) return false
    // Within the key's own event, so that this digit already falls into the field and none is lost.
    flushSync(open)
    toField()
    return false
  })
}

const toField = () => document.querySelector<HTMLInputElement>('[data-reading-field]')?.focus()

type FindingsProps = { findings: readonly Finding[]; onFinding: Props['onFinding'] }

/** The first one, and how many more there are: measures keep their place. */
function Findings({ findings, onFinding }: FindingsProps) {
  const [all, setAll] = useState(false)
  const more = findings.length - 1
  // What is wrong before what is only missing.
  const sorted = [...findings].sort((a, b) => Number(HINTS.has(a.code)) - Number(HINTS.has(b.code)))
  return (
    <>
      {sorted.slice(0, all ? undefined : 1).map((f) => (
        <FindingCard key={f.message} finding={f} onFinding={onFinding} />
      ))}
      {more > 0 && (
        <button
          className="min-h-8 shrink-0 self-start text-[0.95rem] text-warn underline"
          aria-expanded={all}
          onClick={() => setAll(!all)}
        >
          {all ? 'only the first' : `and ${more} more to look at`}
        </button>
      )}
    </>
  )
}

function FindingCard({ finding: f, onFinding }: { finding: Finding; onFinding: Props['onFinding'] }) {
  return (
    <button
      data-finding={f.code}
      onClick={() => onFinding(f.photo_id, f.mark)}
      className={`shrink-0 rounded-lg border-l-4 text-left ${HINTS.has(f.code) ? 'border-tape px-3 text-sm text-quiet' : 'border-warn bg-sheet px-3 py-2 text-[0.95rem] font-semibold'}`}
    >
      {f.message}
    </button>
  )
}
