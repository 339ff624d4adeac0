import type { Outline } from '../../api/client'
import { inUnit, useUnit } from '../../ui/units'

const DIGITS: Readonly<Record<string, number>> = { width_mm: 0, uneven_mm: 1 }

/** Why the verdict is what it is, and what the cut does to the head's look. */
export function WhyPanel({ drawing }: { drawing: Outline }) {
  const [unit] = useUnit()
  return (
    <div className="flex flex-col gap-3">
      <p>{drawing.description}</p>
      <ul className="flex flex-col gap-1.5 text-[0.95rem]" aria-label="Why">
        {drawing.reasons.map((reason) => (
          <li key={reason} className="border-l-4 border-tape pl-2">
            {inUnit(reason, unit)}
          </li>
        ))}
        {drawing.notes.map((note) => (
          <li key={note} className="text-warn">
            {inUnit(note, unit)}
          </li>
        ))}
      </ul>
      {drawing.runs_out !== null && (
        <p className="text-[0.95rem]" data-runs-out={drawing.runs_out}>
          Chance that the hair runs out somewhere: <b>{Math.round(100 * drawing.runs_out)} in 100</b>
        </p>
      )}
      {drawing.effects.length > 0 && (
        <table className="text-[0.95rem]">
          <caption className="mb-1 text-left font-semibold">What it does to the head</caption>
          <thead className="text-sm text-quiet">
            <tr>
              <th />
              <th className="text-right font-normal">now</th>
              <th className="text-right font-normal">then</th>
            </tr>
          </thead>
          <tbody>
            {drawing.effects.map((e) => (
              <tr key={e.id} className="border-t border-rule" data-effect={e.id}>
                <th scope="row" className="text-left font-normal">
                  {e.words}
                </th>
                <td className="text-right">{e.now.toFixed(DIGITS[e.id] ?? 2)}</td>
                <td className="text-right font-semibold">{e.after.toFixed(DIGITS[e.id] ?? 2)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  )
}
