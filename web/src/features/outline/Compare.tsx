import { useState } from 'react'
import type { Dog, Outline } from '../../api/client'
import { boxOf, viewBox, widened, type Box } from '../../sheet/level'
import { furryPath, smoothPath } from '../../sheet/lines'
import { length, useUnit } from '../../ui/units'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { pairsOf, verdictWords } from './words'
import { useChoices } from '../../shared/queries'
import { useSecond } from './useOutlines'
import { zoneWords } from '../../shared/words'

type Props = { dog: Dog; drawing: Outline; onTake: (family: string) => void; onClose: () => void }

const VIEWS = ['front', 'left'] as const
const MOST_ROWS = 7

/** Two outlines side by side on this head: shapes at one scale, when, and where lengths differ most. */
export function Compare({ dog, drawing, onTake, onClose }: Props) {
  const choices = useChoices()
  const others = choices.data?.filter((c) => c.key !== drawing.family) ?? []
  const [picked, setPicked] = useState('')
  const other = picked || others[0]?.key || ''
  const second = useSecond(dog, other)
  const pair = second.data ? [drawing, second.data] : [drawing]
  const boxes = Object.fromEntries(
    VIEWS.map((view) => [view, widened(boxOf(drawing.sheet[view]?.['coat'] ?? [[0, 0]]), 6)]),
  ) as Record<(typeof VIEWS)[number], Box>
  return (
    <section
      className="flex min-h-0 flex-1 flex-col gap-2"
      aria-label="Two outlines compared"
      data-compare={other}
    >
      <div className="flex items-center gap-3">
        <label className="flex items-center gap-2 font-semibold">
          {drawing.called} against
          <select
            value={other}
            onChange={(event) => setPicked(event.target.value)}
            className="min-h-12 rounded-lg border border-rule bg-sheet px-3"
          >
            {others.map((c) => (
              <option key={c.key} value={c.key}>
                {c.name}
              </option>
            ))}
          </select>
        </label>
        <Button className="ml-auto" onClick={() => onTake(other)}>
          Choose {second.data?.name ?? 'it'}
        </Button>
        <Button onClick={onClose}>Back to the sheet</Button>
      </div>
      {second.error && <Notice tone="warn">{second.error.message}</Notice>}
      <div className="grid min-h-0 flex-1 grid-cols-2 gap-3">
        {pair.map((one) => (
          <figure key={one.family} className="graph flex min-h-0 flex-col rounded-xl border border-rule p-2">
            <figcaption className="flex justify-between font-bold">
              {one.name}
              <span className={one.verdict === 'today' && !one.comb_first.length ? '' : 'text-missing'}>
                {verdictWords(one)}
              </span>
            </figcaption>
            <div className="flex min-h-0 flex-1">
              {VIEWS.map((view) => (
                <svg
                  key={view}
                  viewBox={viewBox(boxes[view])}
                  className="min-h-0 min-w-0 flex-1"
                  role="img"
                  aria-label={`${one.name}, ${view}`}
                >
                  <path
                    d={furryPath(drawing.sheet[view]?.['coat'] ?? [], 4, 2.4)}
                    stroke="var(--color-coat)"
                    strokeWidth="0.6"
                    fill="none"
                  />
                  <path
                    d={smoothPath(one.sheet[view]?.['skin'] ?? [])}
                    fill="none"
                    stroke="var(--color-skin)"
                  />
                  <path
                    d={smoothPath(one.sheet[view]?.['outline'] ?? [])}
                    fill="var(--color-sheet)"
                    fillOpacity="0.5"
                    stroke="var(--color-cut)"
                    strokeWidth="2.2"
                  />
                </svg>
              ))}
            </div>
            <p className="text-sm">{one.reasons[0]}</p>
          </figure>
        ))}
      </div>
      {second.data && <Differences a={drawing} b={second.data} />}
    </section>
  )
}

/** Zones in which the two leave most unlike lengths. */
function Differences({ a, b }: { a: Outline; b: Outline }) {
  const [unit] = useUnit()
  const other = new Map(pairsOf(b.zones).map((p) => [p.zone, p]))
  const rows = pairsOf(a.zones)
    .flatMap((p) => {
      const q = other.get(p.zone)
      return q ? [{ zone: p.zone, here: mean(p), there: mean(q) }] : []
    })
    .sort((x, y) => Math.abs(y.here - y.there) - Math.abs(x.here - x.there))
    .slice(0, MOST_ROWS)
  return (
    <table className="w-full shrink-0 text-center">
      <caption className="sr-only">Where the lengths differ most</caption>
      <thead className="text-sm text-quiet">
        <tr>
          <th />
          {rows.map((r) => (
            <th key={r.zone} className="font-normal">
              {zoneWords(r.zone)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody className="text-lg font-bold">
        {[
          { name: a.name, of: 'here' as const },
          { name: b.name, of: 'there' as const },
        ].map(({ name, of }) => (
          <tr key={of} className="border-t border-rule">
            <th scope="row" className="text-left text-base">
              {name}
            </th>
            {rows.map((r) => (
              <td key={r.zone}>{length(r[of], unit)}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  )
}

const mean = (pair: ReturnType<typeof pairsOf>[number]) => (pair.left.leave_mm + pair.right.leave_mm) / 2
