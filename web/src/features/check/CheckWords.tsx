import { length, useUnit } from '../../ui/units'
import type { Check } from './checkMachine'

const STATES: Record<Check['places'][number]['state'], string> = {
  long: 'long',
  short: 'short',
  true: 'as planned',
  outside: 'outside: comb it',
  inside: 'inside: comb it',
  unsure: 'cannot tell',
  unseen: 'not seen',
}

/** Even or not, what came out short, and every place in a table. */
export function CheckWords({ check }: { check: Check }) {
  const [unit] = useUnit()
  const mm = (value: number) => `${length(value, unit)}${unit === 'mm' ? ' mm' : ''}`
  return (
    <>
      {check.even.length > 0 && (
        <section aria-label="Left against right">
          <h2 className="text-lg font-bold">Left against right</h2>
          <ul>
            {check.even.map((one) => (
              <li key={one.zone} data-even={one.state} className={one.state === 'uneven' ? 'font-bold' : ''}>
                {one.words}
                {Math.abs(one.bone_mm) >= 1 &&
                  ` (bone: ${one.bone_mm > 0 ? 'left' : 'right'} fuller by ${mm(Math.abs(one.bone_mm))})`}
              </li>
            ))}
          </ul>
        </section>
      )}
      {check.short.length > 0 && (
        <section aria-label="Came out short">
          <h2 className="text-lg font-bold">Came out short</h2>
          <ul>
            {check.short.map((one) => (
              <li key={`${one.zone}/${one.side}`}>{one.words}</li>
            ))}
          </ul>
          <p className="text-quiet">
            Nothing to cut: it grows. Cut its neighbours shorter only if even matters more.
          </p>
        </section>
      )}
      <details>
        <summary className="min-h-12 cursor-pointer py-3 font-semibold">Every place</summary>
        <table className="w-full text-left">
          <thead>
            <tr>
              <th>place</th>
              <th>state</th>
              <th className="text-right">off</th>
              <th className="text-right">from – to</th>
            </tr>
          </thead>
          <tbody>
            {check.places
              .filter((p) => p.state !== 'unseen')
              .map((p) => (
                <tr key={`${p.zone}/${p.side}`} data-place={`${p.zone}/${p.side}`} data-state={p.state}>
                  <td>
                    {p.zone_words}, {p.side}
                  </td>
                  <td>{STATES[p.state]}</td>
                  <td className="text-right tabular-nums">{signed(p.off_mm, mm)}</td>
                  <td className="text-right tabular-nums">
                    {signed(p.low, mm)} – {signed(p.high, mm)}
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
        <p className="text-quiet">
          Not seen:{' '}
          {[...new Set(check.places.filter((p) => p.state === 'unseen').map((p) => p.zone_words))].join(', ')}
        </p>
      </details>
    </>
  )
}

const signed = (mm: number, told: (mm: number) => string) =>
  `${mm < -0.5 ? '−' : mm > 0.5 ? '+' : ''}${told(Math.abs(mm))}`
