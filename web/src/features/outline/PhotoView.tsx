import { memo, useId, useMemo } from 'react'
import { screenUrl, type Outline, type Photo } from '../../api/client'
import { boxOf, onSheet, viewBox, type Box, type Levelled } from '../../sheet/level'
import { furryPath, plainPath, smoothPath } from '../../sheet/lines'
import { lengthWords, useUnit } from '../../ui/units'
import { Handles } from './Handles'
import { Rulers } from './Rulers'
import { viewWords } from '../../shared/words'

const HAIR_MM = 4.2
const HAIR_GAP_MM = 1.9
/** Over so much a photo fades into the sheet, */
const FADE_MM = 12
/** beyond the head to either side, and round at the corners: a plate in a book, no window. */
const PAST_MM = 16
const ROUNDED_MM = 46

/** Views in which the head has a middle line. */
const ACROSS: readonly string[] = ['front', 'top', 'back']

type Props = {
  dogName: string
  photo: Photo
  lines: Outline['photos'][number]
  at: Levelled
  frame: Box
  drawing: Outline
  moving: boolean
  onSet: (id: string, value: number) => void
  onRest: () => void
}

/** One photo levelled on the sheet: skin, coat and outline over it, and places to pull the outline by. */
export function PhotoView({ dogName, photo, lines, at, frame, drawing, moving, onSet, onRest }: Props) {
  const hatch = useId()
  const unit = Math.round(at.pxPerMm * 1000) / 1000
  const words = viewWords(photo.view)
  const still = useMemo(
    () => ({
      fur: furryPath(lines.coat, HAIR_MM * unit, HAIR_GAP_MM * unit, {
        width: photo.width_px,
        height: photo.height_px,
      }),
      skin: smoothPath(lines.skin),
      coat: plainPath(lines.coat_on_head),
    }),
    [lines.coat, lines.skin, lines.coat_on_head, unit, photo.width_px, photo.height_px],
  )
  const outline = smoothPath(lines.outline)
  const box = viewBox(frame)
  return (
    <>
      <StillLayer
        photo={photo}
        box={box}
        frame={frame}
        transform={at.transform}
        unit={unit}
        band={lines.skin_band_px}
        fur={still.fur}
        skin={still.skin}
      />
      <svg
        viewBox={box}
        className="absolute inset-0 size-full"
        role="group"
        aria-label={`${dogName}, ${words}: ${drawing.name} outline, ${drawing.sizes.words} ${Math.round(drawing.sizes.now)} mm`}
        data-view={photo.view}
        data-outline={lines.outline.length}
      >
        <defs>
          <pattern
            id={hatch}
            width={9}
            height={9}
            patternUnits="userSpaceOnUse"
            patternTransform={`rotate(48) scale(${unit / 2.6})`}
          >
            <path d="M0 0V9" stroke="#e0482a" strokeWidth="3.2" />
          </pattern>
        </defs>
        <g transform={at.transform}>
          <path
            d={still.coat + outline}
            fill={!moving ? `url(#${hatch})` : '#e0482a'}
            fillRule="evenodd"
            fillOpacity={!moving ? 0.5 : 0.2}
          />
          <path d={outline} fill="none" stroke="#fdfaf0" strokeWidth={3.4 * unit} strokeLinejoin="round" />
          <path
            d={outline}
            fill="none"
            stroke="#14423a"
            strokeWidth={2 * unit}
            strokeLinejoin="round"
            data-line="outline"
          />
          {lines.shortage.map(([x, y], i) => (
            <circle
              key={i}
              cx={x}
              cy={y}
              r={1.5 * unit}
              fill="#1b62ad"
              stroke="#fff"
              strokeWidth={0.4 * unit}
            />
          ))}
          {lines.setting
            .filter((line) => line.length > 1)
            .map((line, i) => (
              <path
                key={i}
                d={`M${line.map((p) => p.join(' ')).join('L')}`}
                fill="none"
                stroke="#14423a"
                strokeWidth={0.9 * unit}
                strokeDasharray={`${3 * unit} ${2 * unit}`}
                data-line="setting"
              />
            ))}
          <Handles
            handles={lines.handles}
            parameters={drawing.parameters}
            unit={unit}
            onSet={onSet}
            onRest={onRest}
          />
        </g>
        <Rulers frame={frame} level={photo.view !== 'top'} centre={ACROSS.includes(photo.view)} />
        {photo.view === 'front' ? <FrontTags lines={onSheet(lines.outline, at)} drawing={drawing} /> : null}
      </svg>
    </>
  )
}

type StillProps = {
  photo: Photo
  box: string
  frame: Box
  transform: string
  unit: number
  band: number
  fur: string
  skin: string
}

/** What does not move with a slider, on a layer of its own, so that the photo is not painted anew. */
const StillLayer = memo(function StillLayer({
  photo,
  box,
  frame,
  transform,
  unit,
  band,
  fur,
  skin,
}: StillProps) {
  const fade = useId()
  return (
    <svg viewBox={box} className="absolute inset-0 size-full will-change-transform" aria-hidden>
      <defs>
        <filter id={`${fade}-soft`} x="-20%" y="-20%" width="140%" height="140%">
          <feGaussianBlur stdDeviation={FADE_MM / 2} />
        </filter>
        <mask id={fade}>
          <rect
            x={frame.left + FADE_MM - PAST_MM}
            y={frame.top + FADE_MM}
            width={frame.right - frame.left - 2 * FADE_MM + 2 * PAST_MM}
            height={frame.bottom - frame.top - 2 * FADE_MM}
            rx={ROUNDED_MM}
            fill="#fff"
            filter={`url(#${fade}-soft)`}
          />
        </mask>
      </defs>
      {/* The photo lies on the sheet without an edge of its own. */}
      <g mask={`url(#${fade})`}>
        <image
          href={screenUrl(photo)}
          width={photo.width_px}
          height={photo.height_px}
          transform={transform}
        />
      </g>
      <g transform={transform}>
        <path d={fur} stroke="#8f5406" strokeWidth={0.6 * unit} fill="none" />
        <path d={skin} fill="none" stroke="#75688f" strokeOpacity="0.28" strokeWidth={2 * band} />
        <path d={skin} fill="none" stroke="#efeaff" strokeWidth={1.5 * unit} />
        <path d={skin} fill="none" stroke="#54467a" strokeWidth={0.8 * unit} />
      </g>
    </svg>
  )
})

const EDGE_MM = 2
const CHEEK_LEVEL_MM = 22
const BAND_MM = 12

/** The box of those places of a line that lie near a level: axis 0 across, 1 up and down. */
function nearly(line: readonly (readonly [number, number])[], axis: 0 | 1, level: number): Box {
  const near = line.filter((p) => Math.abs(p[axis] - level) < BAND_MM)
  return boxOf(near.length ? near : line)
}

/** The lengths to leave, at the places of the front outline where they are cut. */
function FrontTags({ lines, drawing }: { lines: [number, number][]; drawing: Outline }) {
  const [unit] = useUnit()
  if (!lines.length) return null
  const [high, wide] = [nearly(lines, 0, 0), nearly(lines, 1, CHEEK_LEVEL_MM)]
  const leave = (zone: string, side?: string) => {
    const of = drawing.zones.filter((z) => z.zone === zone && (!side || z.side === side))
    return lengthWords(of.reduce((sum, z) => sum + z.leave_mm, 0) / Math.max(of.length, 1), unit)
  }
  const tags = [
    { x: 0, y: high.top - EDGE_MM - 13, text: leave('crown'), anchor: 0 },
    { x: wide.left - EDGE_MM, y: CHEEK_LEVEL_MM, text: `${leave('cheek', 'right')} R`, anchor: -1 },
    { x: wide.right + EDGE_MM, y: CHEEK_LEVEL_MM, text: `${leave('cheek', 'left')} L`, anchor: 1 },
    { x: 0, y: high.bottom + EDGE_MM + 5, text: leave('chin'), anchor: 0 },
  ]
  return (
    <g aria-hidden>
      {tags.map((tag, i) => {
        const wide = tag.text.length * 5.4 + 7
        const x = tag.x + (tag.anchor * wide) / 2
        return (
          <g key={i} transform={`translate(${x} ${tag.y})`}>
            <rect
              x={-wide / 2}
              y="-6.5"
              width={wide}
              height="13"
              rx="2"
              fill="#14423a"
              stroke="#fdfaf0"
              strokeWidth="0.6"
            />
            <text y="3.4" textAnchor="middle" fontSize="9.6" fontWeight="700" fill="#fff">
              {tag.text}
            </text>
          </g>
        )
      })}
    </g>
  )
}
