import type { Measured, Schemas } from '../api/client'
import { length, useUnit, type Unit } from '../ui/units'

type Measure = Schemas['MeasureOut']

const GROUPS: readonly (readonly [Measure['unit'], string])[] = [
  ['mm', 'Lengths'],
  ['deg', 'Angles'],
  ['ratio', 'Proportions'],
]
/** A ± as large as this share of its measure fills the bar. */
const WIDE_SHARE = 0.4
const WIDE_DEG = 25

export function said(m: Measure, value: number, unit: Unit): string {
  if (m.unit === 'mm') return length(value, unit)
  return m.unit === 'deg' ? `${Math.round(value)}°` : value.toFixed(2)
}

/** The measures as they stand: words first, then numbers whose bars shrink as they become surer. */
export function MeasureTable({ measured }: { measured?: Measured }) {
  const [unit] = useUnit()
  if (!measured) return <p className="text-quiet">Working it out…</p>
  if (!measured.measures.length)
    return <p className="text-quiet">Measures appear here once four marks are placed on a photo.</p>
  const real = measured.uneven
  return (
    <section aria-label="Measures">
      <p className="text-[0.95rem]">
        {measured.proportions.map((p, i) => (
          <span key={p.measure} className={p.sure ? 'font-semibold' : 'text-quiet'}>
            {i > 0 && ' · '}
            {p.words}
          </span>
        ))}
      </p>
      {real.length > 0 && (
        <p className="mt-1 text-[0.95rem] text-warn">Uneven: {real.map((u) => u.words).join('; ')}.</p>
      )}
      {GROUPS.map(([of, words]) => (
        <table key={of} className="mt-2 w-full text-[0.9rem]">
          <caption className="text-left font-bold">{words}, with 95 % either way</caption>
          <tbody>
            {measured.measures
              .filter((m) => m.unit === of)
              .map((m) => (
                <Row key={m.id} measure={m} unit={unit} />
              ))}
          </tbody>
        </table>
      ))}
    </section>
  )
}

function Row({ measure: m, unit }: { measure: Measure; unit: Unit }) {
  const half = (m.high - m.low) / 2
  const full = m.unit === 'deg' ? WIDE_DEG : WIDE_SHARE * Math.max(Math.abs(m.value), 1e-6)
  return (
    <tr data-measure={m.id} className="border-t border-grid">
      <th scope="row" className="text-left font-normal">
        {m.words}
      </th>
      <td className="text-right text-base font-bold">{said(m, m.value, unit)}</td>
      <td className="w-12 text-right text-quiet">±{said(m, half, unit)}</td>
      <td className="w-16 pl-2" aria-hidden>
        <span className="block h-2 rounded-sm bg-grid">
          <span
            className="block h-2 rounded-sm bg-skin transition-[width] duration-500 motion-reduce:transition-none"
            style={{ width: `${Math.min(half / full, 1) * 100}%` }}
          />
        </span>
      </td>
    </tr>
  )
}
