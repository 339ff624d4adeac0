import { shortDay } from '../../shared/days'
import { weeksShown, weeksTo, type Event, type NextTime } from './nextMachine'

const LEFT = 312
const RIGHT = 24
const WIDE = 780
const ROW = 46
const HEAD = 54

/** Weeks after the cut as a length of tape: what shows, each with its span, and where the next visit lies. */
export function WeekStrip({ next }: { next: NextTime }) {
  const weeks = weeksShown(next)
  const x = (week: number) => LEFT + (Math.min(week, weeks) / weeks) * (WIDE - LEFT - RIGHT)
  const shown = next.events.filter((e) => e.low <= weeks)
  const high = HEAD + ROW * shown.length + 10
  const booked = next.booked[0]
  return (
    <>
      <svg
        viewBox={`0 0 ${WIDE} ${high}`}
        className="w-full shrink-0"
        role="img"
        aria-label="What shows by which week"
      >
        <rect x={LEFT} y={14} width={WIDE - LEFT - RIGHT} height={26} className="fill-tape" />
        {Array.from({ length: weeks + 1 }, (_, week) => (
          <g key={week}>
            <line
              x1={x(week)}
              x2={x(week)}
              y1={14}
              y2={week % 2 ? 22 : 28}
              stroke="#17352f"
              strokeWidth={1.5}
            />
            {week % 2 === 0 && (
              <text x={x(week)} y={10} textAnchor="middle" fontSize={13} className="fill-ink">
                {week || 'cut'}
              </text>
            )}
          </g>
        ))}
        {next.weeks !== null && <Clip x={x(next.weeks)} high={high} />}
        {booked && (
          <line
            x1={x(weeksTo(next.from_day, booked.day))}
            x2={x(weeksTo(next.from_day, booked.day))}
            y1={14}
            y2={high}
            className="stroke-cut"
            strokeWidth={4}
          />
        )}
        {shown.map((event, i) => (
          <Row key={event.id} event={event} y={HEAD + ROW * i + ROW / 2} x={x} weeks={weeks} />
        ))}
      </svg>
      <table className="sr-only">
        <caption>What shows first</caption>
        <tbody>
          {next.events.map((e) => (
            <tr key={e.id} data-event={e.id}>
              <td>{e.words}</td>
              <td>
                about {shortDay(e.day)}, {shortDay(e.low_day)} to {shortDay(e.high_day)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}

/** The brass clip on the proposed week. */
function Clip({ x, high }: { x: number; high: number }) {
  return (
    <g>
      <line x1={x} x2={x} y1={12} y2={high} className="stroke-brass" strokeWidth={2} strokeDasharray="2 5" />
      <rect
        x={x - 9}
        y={10}
        width={18}
        height={34}
        rx={4}
        className="fill-none stroke-brass"
        strokeWidth={4}
      />
    </g>
  )
}

function Row({
  event,
  y,
  x,
  weeks,
}: {
  event: Event
  y: number
  x: (week: number) => number
  weeks: number
}) {
  const ink = event.minded ? 'fill-ink' : 'fill-quiet'
  const line = event.minded ? 'stroke-off' : 'stroke-quiet'
  const beyond = event.weeks > weeks
  return (
    <g>
      <text x={0} y={y - 3} fontSize={16} fontWeight={event.minded ? 700 : 400} className={ink}>
        {event.words}
      </text>
      <text x={0} y={y + 14} fontSize={13} className="fill-quiet">
        about {shortDay(event.day)} ({shortDay(event.low_day)} to {shortDay(event.high_day)})
      </text>
      <line
        x1={x(event.low)}
        x2={x(event.high)}
        y1={y}
        y2={y}
        className={line}
        strokeWidth={event.minded ? 10 : 6}
        strokeOpacity={0.35}
        strokeLinecap="round"
      />
      {!beyond && (
        <circle cx={x(event.weeks)} cy={y} r={6} className={event.minded ? 'fill-off' : 'fill-quiet'} />
      )}
    </g>
  )
}
