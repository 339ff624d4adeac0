import type { Box } from '../../sheet/level'

const STEP_MM = 10

/** The level through the eyes and a millimetre rule along the left and lower edge. */
export function Rulers({ frame, level = true }: { frame: Box; level?: boolean }) {
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
      {steps(frame.top, frame.bottom).map((y) => (
        <path key={`y${y}`} d={`M${frame.left} ${y}h${y % 50 === 0 ? 7 : 3.5}`} />
      ))}
      {steps(frame.left, frame.right).map((x) => (
        <path key={`x${x}`} d={`M${x} ${frame.bottom}v${x % 50 === 0 ? -7 : -3.5}`} />
      ))}
    </g>
  )
}
