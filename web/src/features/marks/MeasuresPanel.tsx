import type { Dog, HandMeasure, Measured, Probe } from '../../api/client'
import { length, useUnit } from '../../ui/units'
import { HandField } from './HandField'

type Finding = Measured['findings'][number]

type Props = {
  dog: Dog
  measured?: Measured
  setHand: (change: (had: HandMeasure[]) => HandMeasure[]) => Promise<void>
  setProbes: (change: (had: Probe[]) => Probe[]) => Promise<void>
  onFinding: (photoId: number | null, mark: string | null) => void
}

const SPANS = [
  { words: 'Across the outer eye corners', from_mark: 'eye_outer_left', to_mark: 'eye_outer_right' },
  { words: 'Stop to nose tip', from_mark: 'stop', to_mark: 'nose_tip' },
  { words: 'Across the cheek bones', from_mark: 'cheek_left', to_mark: 'cheek_right' },
  { words: 'Occiput to stop', from_mark: 'occiput', to_mark: 'stop' },
].map((span) => ({ ...span, id: `${span.from_mark}-${span.to_mark}` }))

const COMBED = ['jaw', 'cheek', 'temple', 'crown', 'chin', 'visor', 'back_skull'].map((zone) => ({
  id: zone,
  words: `Coat at the ${zone.replaceAll('_', ' ')}`,
}))

/** What is still missing, rather than wrong: said calmly, below the measures. */
const HINTS = new Set(['too_few_marks', 'no_scale', 'depth_unknown'])

const SIGMA_MM = 1

/** Readings typed in, what is wrong, the measures with their ± as they stand, what would help. */
export function MeasuresPanel({ dog, measured, setHand, setProbes, onFinding }: Props) {
  const findings = measured?.findings ?? []
  const hand = dog.hand_measures
  const idOf = (m: HandMeasure) => `${m.from_mark}-${m.to_mark}`
  return (
    <>
      {dog.note && (
        <p className="shrink-0 border-l-4 border-rule px-3 text-[0.95rem] text-quiet">{dog.note}</p>
      )}
      {findings
        .filter((f) => !HINTS.has(f.code))
        .map((f) => (
          <FindingCard key={f.message} finding={f} onFinding={onFinding} />
        ))}
      <HandField
        title="Measured by hand, mm"
        entries={hand.map((m) => ({
          id: idOf(m),
          mm: m.mm,
          words: SPANS.find((s) => s.id === idOf(m))?.words ?? idOf(m),
        }))}
        choices={SPANS}
        onAdd={async (id, mm) => {
          const span = SPANS.find((s) => s.id === id)
          if (span)
            await setHand((had) => [
              ...had.filter((m) => idOf(m) !== id),
              { from_mark: span.from_mark, to_mark: span.to_mark, mm, sigma_mm: SIGMA_MM },
            ])
        }}
        onRemove={(id) => setHand((had) => had.filter((m) => idOf(m) !== id))}
      />
      {findings
        .filter((f) => HINTS.has(f.code))
        .map((f) => (
          <FindingCard key={f.message} finding={f} onFinding={onFinding} />
        ))}
      <MeasureTable measured={measured} />
      <HandField
        title="Comb to the skin: coat depth, mm"
        entries={dog.coat_probes.map((p) => ({
          id: p.zone,
          mm: p.depth_mm,
          words: `Coat at the ${p.zone.replaceAll('_', ' ')}`,
        }))}
        choices={COMBED}
        onAdd={(zone, mm) =>
          setProbes((had) => [
            ...had.filter((p) => p.zone !== zone),
            { zone, side: null, depth_mm: mm, length_mm: null },
          ])
        }
        onRemove={(zone) => setProbes((had) => had.filter((p) => p.zone !== zone))}
      />
    </>
  )
}

function FindingCard({ finding: f, onFinding }: { finding: Finding; onFinding: Props['onFinding'] }) {
  return (
    <button
      data-finding={f.code}
      onClick={() => onFinding(f.photo_id, f.mark)}
      className={`shrink-0 rounded-lg border-l-4 bg-sheet px-3 py-2 text-left text-[0.95rem] ${HINTS.has(f.code) ? 'border-tape' : 'border-warn font-semibold'}`}
    >
      {f.message}
    </button>
  )
}

function MeasureTable({ measured }: { measured?: Measured }) {
  const [unit] = useUnit()
  if (!measured?.measures.length)
    return (
      <p className="shrink-0 px-1 text-quiet">Measures appear here once four marks are placed on a photo.</p>
    )
  return (
    <section aria-label="Measures" className="shrink-0 rounded-xl border border-rule bg-sheet p-3">
      <table className="w-full text-[0.9rem]">
        <caption className="mb-1 text-left font-bold">Measures, with 95 % either way</caption>
        <tbody>
          {measured.measures.map((m) => {
            const half = (m.high - m.low) / 2
            const ratio = m.unit === 'ratio'
            return (
              <tr key={m.id} data-measure={m.id} className="border-t border-grid">
                <th scope="row" className="text-left font-normal">
                  {m.words}
                </th>
                <td className="text-right text-base font-bold">
                  {ratio ? m.value.toFixed(2) : length(m.value, unit)}
                </td>
                <td className="w-20 text-right text-quiet">
                  ±{ratio ? half.toFixed(2) : length(half, unit)}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </section>
  )
}
