import type { Box } from '../../sheet/level'

const STEP_MM = 10

/** The level through the eyes, the middle line, and a millimetre rule along the left and lower edge. */
type Props = { frame: Box; level?: boolean; centre?: boolean }

export function Rulers({ frame, level = true, centre = false }: Props) {
  const steps = (low: number, high: number) =>
    Array.from(
      { length: Math.floor(high / STEP_MM) - Math.ceil(low / STEP_MM) + 1 },
      (_, i) => (Math.ceil(low / STEP_MM) + i) * STEP_MM,
    )
  return (
    <g aria-hidden stroke="#17352f" strokeWidth="0.5">
      {level && (
        <path d={`M${frame.left - 200} 0H${frame.right + 200}`} strokeDasharray="1.5 3" strokeOpacity="0.7" />
      )}
      {centre && (
        <path
          d={`M0 ${frame.top - 200}V${frame.bottom + 200}`}
          strokeDasharray="7 2.5 1.5 2.5"
          strokeOpacity="0.55"
        />
      )}
      {steps(frame.top, frame.bottom).map((y) => (
        <path key={`y${y}`} d={`M${frame.left} ${y}h${y % 50 === 0 ? 7 : 3.5}`} />
      ))}
      {steps(frame.left, frame.right).map((x) => (
        <path key={`x${x}`} d={`M${x} ${frame.bottom}v${x % 50 === 0 ? -7 : -3.5}`} />
      ))}
    </g>
  )
}
