import type { Schemas } from '../../api/client'
import { FaceStrokes } from '../../shared/HeadView'
import { plainPath, smoothPath } from '../../sheet/lines'
import type { Step } from './cutMachine'
import type { ViewName } from '../../shared/dogStrokes'
import { zoneWords } from '../../shared/words'

type Sheet = Schemas['SheetOut']

const CAPTIONS: Readonly<Record<string, string>> = {
  front: 'from the front',
  left: 'its left side',
  right: 'its right side',
  top: 'from above',
}
const MARGIN_MM = 14
const FACES: readonly string[] = ['front', 'left', 'right', 'top']

/** The head of this dog from where the step is best seen: coat, outline, the zone worked on, the line to follow. */
export function SmallHead({ sheet, step, className = '' }: { sheet: Sheet; step: Step; className?: string }) {
  const head = sheet.heads[step.view]
  if (!head) return null
  const all = [...head.coat, ...head.outline]
  const [xs, ys] = [all.map((p) => p[0]), all.map((p) => p[1])]
  const [left, top] = [Math.min(...xs) - MARGIN_MM, Math.min(...ys) - MARGIN_MM]
  const [wide, tall] = [Math.max(...xs) + MARGIN_MM - left, Math.max(...ys) + MARGIN_MM - top]
  const places = Object.keys(sheet.patches).filter((key) => {
    const [place = '', view] = key.split('@')
    const [zone = '', side] = place.split(':')
    return view === step.view && step.zones.includes(zone) && (step.side === null || step.side === side)
  })
  const across = step.view === 'front' || step.view === 'top'
  // From the front the dog's left is on the right of the picture; from above on its left.
  const [west, east] = step.view === 'top' ? ['left', 'right'] : ['right', 'left']
  return (
    <figure className={`flex min-h-0 flex-col ${className}`}>
      <svg
        role="img"
        aria-label={`The head ${CAPTIONS[step.view] ?? step.view}; ${step.zones.map(zoneWords).join(', ') || 'the whole head'}${step.side ? `, ${step.side} side` : ''}`}
        viewBox={`${left} ${top} ${wide} ${tall}`}
        className="min-h-0 flex-1"
        data-view={step.view}
      >
        <defs>
          <marker
            id="way"
            viewBox="0 0 10 10"
            refX="8"
            refY="5"
            markerWidth="5"
            markerHeight="5"
            orient="auto"
          >
            <path d="M0 0 10 5 0 10z" fill="var(--color-off)" />
          </marker>
        </defs>
        <path
          d={smoothPath(head.coat)}
          fill="none"
          stroke="var(--color-coat)"
          strokeWidth="0.8"
          strokeDasharray="2 1.6"
        />
        <path
          d={smoothPath(head.outline)}
          fill="color-mix(in srgb, var(--color-tooth) 16%, var(--color-sheet))"
          stroke="none"
        />
        {FACES.includes(step.view) && <FaceStrokes marks={head.marks ?? {}} name={step.view as ViewName} />}
        {/* One veil over all places, so that overlaps are not darker. */}
        <g opacity="0.45">
          {places.map((key) => (
            <path
              key={key}
              data-place={key}
              d={plainPath(sheet.patches[key] ?? [])}
              fill="var(--color-tape)"
            />
          ))}
        </g>
        <path d={smoothPath(head.outline)} fill="none" stroke="var(--color-cut)" strokeWidth="2" />
        {step.line.length > 1 && (
          <path
            data-way
            d={`M${step.line.map(([x, y]) => `${x} ${y}`).join('L')}`}
            fill="none"
            stroke="var(--color-off)"
            strokeWidth="2.4"
            strokeLinecap="round"
            strokeLinejoin="round"
            markerEnd="url(#way)"
          />
        )}
        {step.lengths.map(({ at, mm }, i) => (
          <g key={i} transform={`translate(${at[0]} ${at[1]})`} data-length={mm}>
            <circle r="9.5" fill="var(--color-sheet)" stroke="var(--color-cut)" strokeWidth="1.4" />
            <text y="4.4" textAnchor="middle" fontSize="12.5" fontWeight="700" fill="var(--color-ink)">
              {Math.round(mm)}
            </text>
          </g>
        ))}
        {across &&
          [west, east].map((side, i) => (
            <text
              key={side}
              x={i ? left + wide - 3 : left + 3}
              y={top + tall - 4}
              fontSize="8"
              textAnchor={i ? 'end' : 'start'}
              fill="var(--color-quiet)"
            >
              {side}
            </text>
          ))}
      </svg>
      <figcaption className="shrink-0 text-center text-2xl text-quiet low:text-xl">
        {CAPTIONS[step.view] ?? step.view}
        {step.direction && <b className="ml-2 font-semibold text-ink">{step.direction}</b>}
      </figcaption>
    </figure>
  )
}
