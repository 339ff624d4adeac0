import type { Schemas } from '../../api/client'
import { length, useUnit } from '../../ui/units'
import { shortDay } from '../../shared/days'
import { zonesOver } from '../../shared/outlines'
import { zoneWords } from '../../shared/words'

type VisitThen = Schemas['VisitThenOut']
const SHOWN = 4
const ZONES = 7
const CELL = 'px-1.5 py-1 text-right align-top'

/** Measures, coat and minutes from visit to visit. */
export function OverTime({ visits }: { visits: readonly VisitThen[] }) {
  const [unit] = useUnit()
  const shown = visits.slice(-SHOWN)
  const ids = [...new Map(shown.flatMap((v) => v.measures.map((m) => [m.id, m.words] as const)))]
  const zones = zonesOver(shown, ZONES)
  if (!ids.length && !zones.length)
    return <p className="text-quiet">Nothing was measured yet: this fills from visit to visit.</p>
  return (
    <div className="flex flex-col gap-5">
      <table className="w-full text-[0.95rem]">
        <caption className="mb-1 text-left font-bold">The head, {unit}</caption>
        <Days visits={shown} />
        <tbody>
          {ids.map(([id, words]) => (
            <tr key={id} className="border-t border-rule">
              <th scope="row" className="py-1 text-left font-normal">
                {words}
              </th>
              {shown.map((visit) => {
                const measure = visit.measures.find((m) => m.id === id)
                return (
                  <td key={visit.id} className={CELL}>
                    {measure ? (
                      <>
                        <b>{length(measure.value, unit)}</b>
                        <span className="block text-xs text-quiet">
                          ±{length((measure.high - measure.low) / 2, unit)}
                        </span>
                      </>
                    ) : (
                      '–'
                    )}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {zones.length > 0 && (
        <table className="w-full text-[0.95rem]">
          <caption className="mb-1 text-left font-bold">
            The coat, hair length: came with → was left by plan
          </caption>
          <Days visits={shown} />
          <tbody>
            {zones.map((zone) => (
              <tr key={zone} className="border-t border-rule">
                <th scope="row" className="py-1 text-left font-normal">
                  {zoneWords(zone)}
                </th>
                {shown.map((visit) => {
                  const then = visit.coat.find((z) => z.zone === zone)
                  return (
                    <td key={visit.id} className={CELL}>
                      {then ? (
                        <>
                          {length(then.came_mm, unit)} → <b>{length(then.left_mm, unit)}</b>
                        </>
                      ) : (
                        '–'
                      )}
                    </td>
                  )
                })}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="text-sm text-quiet">
        {shown.some((v) => v.minutes) &&
          `Heads took ${shown
            .filter((v) => v.minutes)
            .map((v) => `${Math.round(v.minutes ?? 0)} min`)
            .join(', ')}. `}
        Worked out with{' '}
        {[...new Set(shown.map((v) => v.version).filter(Boolean))].join('; ') || 'nothing yet'}.
      </p>
    </div>
  )
}

function Days({ visits }: { visits: readonly VisitThen[] }) {
  return (
    <thead>
      <tr>
        <td />
        {visits.map((visit, i) => (
          <th key={visit.id} scope="col" className={`${CELL} font-semibold whitespace-nowrap`}>
            {i === visits.length - 1 ? 'now' : shortDay(visit.day)}
          </th>
        ))}
      </tr>
    </thead>
  )
}
