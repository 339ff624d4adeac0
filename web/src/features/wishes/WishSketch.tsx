import type { Wishes } from '../../api/client'
import { furryPath, smoothPath } from '../../sheet/lines'

const SIDES = [-1, 1] as const
const AROUND = 40
const CENTRE = { x: 130, y: 104 }
const USUAL_RADIUS = 68
const FULLER = 12
const CHIN: Readonly<Record<string, number>> = { any: 14, short: 2, long: 40 }
const EAR: Readonly<Record<string, number>> = { any: 46, keep: 66, short: 28 }
/** How far down the fringe hangs over the eyes' upper edge. */
const FRINGE: Readonly<Record<string, number>> = { any: -9, open: -30, veiled: 12 }
const HIDDEN = -20
const WEEKS_SHOWN = 12

/** A small head that changes with each wish: no dog in particular, so without numbers. */
export function WishSketch({ wishes }: { wishes: Wishes }) {
  const radius = USUAL_RADIUS + FULLER * (wishes.fullness ?? 0)
  const beard = CHIN[wishes.beard ?? 'any'] ?? 0
  const outline = headLine(radius, beard)
  const ear = EAR[wishes.ears ?? 'any'] ?? 0
  const fringe = FRINGE[wishes.eyes ?? 'any'] ?? 0
  const later = Math.min((wishes.weeks_between ?? 0) / WEEKS_SHOWN, 1.4)
  return (
    <svg viewBox="0 0 420 210" role="img" aria-label={inWords(wishes)} className="size-full max-h-72">
      <g strokeLinejoin="round" strokeLinecap="round">
        {SIDES.map((side) => (
          <path
            key={side}
            d={smoothPath(earLine(side, radius, ear))}
            fill="var(--color-sheet)"
            stroke="var(--color-cut)"
            strokeWidth="3"
          />
        ))}
        <path d={smoothPath(outline)} fill="var(--color-sheet)" stroke="var(--color-cut)" strokeWidth="3.5" />
        {SIDES.map((side) => (
          <circle key={side} cx={CENTRE.x + 24 * side} cy={CENTRE.y - 6} r="8.5" fill="var(--color-ink)" />
        ))}
        <path
          d={`M${CENTRE.x - 13} ${CENTRE.y + 22}q13 -9 26 0q-3 15 -13 16q-10 -1 -13 -16z`}
          fill="var(--color-ink)"
        />
        {fringe > HIDDEN && (
          <path
            d={Array.from(
              { length: 15 },
              (_, i) => `M${CENTRE.x - 49 + i * 7} ${CENTRE.y - 34}q2 10 ${i % 2 ? 3 : -1} ${18 + fringe}`,
            ).join('')}
            fill="none"
            stroke="var(--color-coat)"
            strokeWidth="2"
          />
        )}
        {later > 0 && (
          <path
            d={furryPath(headLine(radius + 4 + 7 * later, beard + 8 * later), 4 + 5 * later, 6)}
            fill="none"
            stroke="var(--color-coat)"
            strokeWidth="1.6"
          />
        )}
      </g>
      <g fontSize="15" fill="var(--color-ink)">
        {inWords(wishes)
          .split('; ')
          .map((line, i) => (
            <text key={line} x="262" y={62 + i * 25}>
              {line}
            </text>
          ))}
      </g>
    </svg>
  )
}

/** Round, with the beard's length added below. */
const headLine = (radius: number, beard: number) =>
  Array.from({ length: AROUND }, (_, i) => {
    const turn = (2 * Math.PI * i) / AROUND
    const down = Math.max(0, Math.sin(turn)) ** 3
    return [CENTRE.x + radius * Math.cos(turn), CENTRE.y + radius * Math.sin(turn) + beard * down] as const
  })

const earLine = (side: number, radius: number, long: number) =>
  (
    [
      [0.62, -0.72, 0],
      [0.98, -0.62, 0],
      [1.16, -0.2, 0.45],
      [1.05, -0.05, 0.95],
      [0.86, -0.1, 0.7],
      [0.74, -0.4, 0.2],
    ] as const
  ).map(([x, y, down]) => [CENTRE.x + side * radius * x, CENTRE.y + radius * y + long * 1.5 * down] as const)

function inWords({ eyes, beard, ears, fullness, weeks_between }: Wishes): string {
  const told = [
    eyes === 'open' && 'eyes to be seen',
    eyes === 'veiled' && 'eyes half hidden',
    beard === 'short' && 'short beard',
    beard === 'long' && 'long beard',
    ears === 'keep' && 'ears left long',
    ears === 'short' && 'short ears',
    (fullness ?? 0) < 0 && 'shorter all over',
    (fullness ?? 0) > 0 && 'fuller all over',
    weeks_between && `${weeks_between} weeks to the next`,
  ].filter(Boolean)
  return told.join('; ') || 'as it comes'
}
