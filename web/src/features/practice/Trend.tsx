import type { Schemas } from '../../api/client'
import { figure, figureUnit } from './practiceMachine'

type Points = Schemas['DrillProgressOut']['points']

const [WIDE, HIGH, EDGE] = [260, 64, 6]

/** A figure over sessions: the line of what is likeliest, in a band as wide as it is unsure. */
export function Trend({ points, unit, words }: { points: Points; unit: string; words: string }) {
  const most = Math.max(...points.map((p) => p.high)) * 1.08
  const x = (i: number) =>
    EDGE + (points.length > 1 ? (i / (points.length - 1)) * (WIDE - 2 * EDGE) : WIDE / 2)
  const y = (value: number) => HIGH - EDGE - (value / most) * (HIGH - 2 * EDGE)
  const line = (of: 'value' | 'low' | 'high', order = points.map((_, i) => i)) =>
    order.map((i) => `${x(i).toFixed(1)},${y(points[i]?.[of] ?? 0).toFixed(1)}`).join(' ')
  const back = points.map((_, i) => points.length - 1 - i)
  const last = points.at(-1)
  if (!last) return null
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="w-full"
      role="img"
      aria-label={`${words}, ${points.length} sessions: now ${figure(last.value, unit)} ${figureUnit(unit)}, between ${figure(last.low, unit)} and ${figure(last.high, unit)}`}
    >
      <line x1={0} x2={WIDE} y1={y(0)} y2={y(0)} className="stroke-rule" />
      {points.map((_, i) => (
        <line key={i} x1={x(i)} x2={x(i)} y1={y(0)} y2={y(0) - 4} className="stroke-quiet" />
      ))}
      {points.length > 1 ? (
        <polygon points={`${line('low')} ${line('high', back)}`} className="fill-cut" fillOpacity={0.16} />
      ) : (
        <line
          x1={x(0)}
          x2={x(0)}
          y1={y(last.low)}
          y2={y(last.high)}
          className="stroke-cut"
          strokeWidth={8}
          strokeOpacity={0.25}
          strokeLinecap="round"
        />
      )}
      <polyline points={line('value')} className="fill-none stroke-cut" strokeWidth={2.5} />
      <circle cx={x(points.length - 1)} cy={y(last.value)} r={4.5} className="fill-cut" />
    </svg>
  )
}
