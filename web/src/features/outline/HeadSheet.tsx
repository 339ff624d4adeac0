import {
  memo,
  useEffect,
  useId,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
  type PointerEvent,
} from 'react'
import { screenUrl, type Outline, type Photo } from '../../api/client'
import { boxOf, levelled, onSheet, type Box, type Levelled } from '../../sheet/level'
import { furryPath, plainPath, smoothPath } from '../../sheet/lines'
import { screenPoint, toImage } from '../../sheet/points'
import { length, useUnit } from '../../ui/units'

type Props = {
  dogName: string
  photos: Photo[]
  drawing: Outline
  onSet: (id: string, value: number) => void
  onRest: () => void
}

const MARGIN_MM = 16
const HAIR_MM = 4.2
const HAIR_GAP_MM = 1.9

/** The photos side by side at one scale and level, skin, coat and outline drawn over them. */
export function HeadSheet({ dogName, photos, drawing, onSet, onRest }: Props) {
  const up = drawing.parameters.find((p) => p.id === 'centre_up_mm')
  const views = useMemo(
    () =>
      drawing.photos.flatMap((lines) => {
        const photo = photos.find((p) => p.id === lines.photo_id)
        const handle = drawing.handles.find((h) => h.photo_id === lines.photo_id)
        if (!photo || !handle) return []
        const at = levelled(handle, up?.value ?? 0)
        return [
          {
            photo,
            lines,
            at,
            box: boxOf(onSheet(lines.coat_on_head, at)),
          },
        ]
      }),
    [drawing, photos, up?.value],
  )
  const all = views.map((v) => v.box)
  const top = Math.min(...all.map((b) => b.top)) - MARGIN_MM
  const bottom = Math.max(...all.map((b) => b.bottom)) + MARGIN_MM
  const width = Math.max(...all.map((b) => b.right - b.left)) + 2 * MARGIN_MM
  return (
    <div
      className="grid min-h-0 flex-1 gap-3"
      style={{ gridTemplateColumns: `repeat(${views.length}, minmax(0, 1fr))` }}
    >
      {views.map(({ photo, lines, at, box }) => (
        <View
          key={photo.id}
          dogName={dogName}
          photo={photo}
          lines={lines}
          at={at}
          frame={{
            left: (box.left + box.right - width) / 2,
            right: (box.left + box.right + width) / 2,
            top,
            bottom,
          }}
          drawing={drawing}
          up={up}
          onSet={onSet}
          onRest={onRest}
        />
      ))}
    </div>
  )
}

type ViewProps = Omit<Props, 'photos'> & {
  photo: Photo
  lines: Outline['photos'][number]
  at: Levelled
  frame: Box
  up?: Outline['parameters'][number]
}

function View({ dogName, photo, lines, at, frame, drawing, up, onSet, onRest }: ViewProps) {
  const hatch = useId()
  const resting = useResting(drawing)
  const unit = Math.round(at.pxPerMm * 1000) / 1000
  const words = photo.view.replaceAll('_', ' ')
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
  const box = [frame.left, frame.top, frame.right - frame.left, frame.bottom - frame.top]
    .map((mm) => mm.toFixed(1))
    .join(' ')
  return (
    <figure className="relative min-h-0 overflow-hidden rounded-xl border border-rule">
      <StillLayer
        photo={photo}
        box={box}
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
            fill={resting ? `url(#${hatch})` : '#e0482a'}
            fillRule="evenodd"
            fillOpacity={resting ? 0.5 : 0.2}
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
        </g>
        <Rulers frame={frame} />
        {photo.view === 'front' && up && <CentreHandle up={up} onSet={onSet} onRest={onRest} />}
        {photo.view === 'front' ? <FrontTags lines={onSheet(lines.outline, at)} drawing={drawing} /> : null}
      </svg>
      <figcaption className="absolute top-2 left-8 rounded bg-sheet/85 px-2 text-sm font-semibold">
        {words}
      </figcaption>
    </figure>
  )
}

const REST_MS = 160

/** Hatching costs a frame or two to paint: while the drawing moves, what comes off is only tinted. */
function useResting(drawing: Outline): boolean {
  const [rested, setRested] = useState<Outline | null>(null)
  useEffect(() => {
    const timer = window.setTimeout(() => setRested(drawing), REST_MS)
    return () => window.clearTimeout(timer)
  }, [drawing])
  return rested === drawing
}

type StillProps = {
  photo: Photo
  box: string
  transform: string
  unit: number
  band: number
  fur: string
  skin: string
}

/** What does not move with a slider, on a layer of its own, so that the photo is not painted anew. */
const StillLayer = memo(function StillLayer({ photo, box, transform, unit, band, fur, skin }: StillProps) {
  return (
    <svg viewBox={box} className="absolute inset-0 size-full will-change-transform" aria-hidden>
      <g transform={transform}>
        <image href={screenUrl(photo)} width={photo.width_px} height={photo.height_px} />
        <path d={fur} stroke="#8f5406" strokeWidth={0.6 * unit} fill="none" />
        <path d={skin} fill="none" stroke="#75688f" strokeOpacity="0.28" strokeWidth={2 * band} />
        <path d={skin} fill="none" stroke="#efeaff" strokeWidth={1.5 * unit} />
        <path d={skin} fill="none" stroke="#54467a" strokeWidth={0.8 * unit} />
      </g>
    </svg>
  )
})

const RULER_STEP_MM = 10

/** The level through the eyes and a millimetre rule along the left and lower edge. */
function Rulers({ frame }: { frame: Box }) {
  const steps = (low: number, high: number) =>
    Array.from(
      { length: Math.floor(high / RULER_STEP_MM) - Math.ceil(low / RULER_STEP_MM) + 1 },
      (_, i) => (Math.ceil(low / RULER_STEP_MM) + i) * RULER_STEP_MM,
    )
  return (
    <g aria-hidden stroke="#17352f" strokeWidth="0.5">
      <path d={`M${frame.left - 200} 0H${frame.right + 200}`} strokeDasharray="1.5 3" strokeOpacity="0.7" />
      {steps(frame.top, frame.bottom).map((y) => (
        <path key={`y${y}`} d={`M${frame.left} ${y}h${y % 50 === 0 ? 7 : 3.5}`} />
      ))}
      {steps(frame.left, frame.right).map((x) => (
        <path key={`x${x}`} d={`M${x} ${frame.bottom}v${x % 50 === 0 ? -7 : -3.5}`} />
      ))}
    </g>
  )
}

type HandleProps = { up: Outline['parameters'][number]; onSet: Props['onSet']; onRest: () => void }

/** The circle's middle: drag it up or down, or move it with the arrow keys. */
function CentreHandle({ up, onSet, onRest }: HandleProps) {
  const from = useRef<{ y: number; value: number } | null>(null)
  const clamp = (value: number) => Math.min(Math.max(value, up.low), up.high)
  const sheetY = (event: PointerEvent<SVGGElement>) => {
    const svg = event.currentTarget.ownerSVGElement
    return svg ? toImage(svg, screenPoint(event.clientX, event.clientY)).y : 0
  }
  function key(event: KeyboardEvent) {
    const step = { ArrowUp: 1, ArrowDown: -1 }[event.key]
    if (!step) return
    event.preventDefault()
    onSet(up.id, clamp(Math.round(up.value) + step))
    onRest()
  }
  return (
    <g
      transform={`translate(0 ${-up.value})`}
      tabIndex={0}
      role="slider"
      aria-label="Centre of the circle, mm above the eyes"
      aria-valuenow={Math.round(up.value)}
      aria-valuemin={up.low}
      aria-valuemax={up.high}
      aria-orientation="vertical"
      className="cursor-ns-resize touch-none"
      onKeyDown={key}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        from.current = { y: sheetY(event), value: up.value }
      }}
      onPointerMove={(event) =>
        from.current && onSet(up.id, clamp(from.current.value - (sheetY(event) - from.current.y)))
      }
      onPointerUp={() => {
        from.current = null
        onRest()
      }}
    >
      <circle r="11" fill="transparent" />
      <circle r="4.5" fill="#f2c230" stroke="#17352f" strokeWidth="1.2" />
      <path d="M0 -9l2.6 3.4h-5.2zM0 9l2.6 -3.4h-5.2z" fill="#17352f" stroke="#fdfaf0" strokeWidth="0.5" />
    </g>
  )
}

const EDGE_MM = 2

/** The lengths to leave, at the places of the front outline where they are cut. */
function FrontTags({ lines, drawing }: { lines: [number, number][]; drawing: Outline }) {
  const [unit] = useUnit()
  if (!lines.length) return null
  const box = boxOf(lines)
  const leave = (zone: string, side?: string) => {
    const of = drawing.zones.filter((z) => z.zone === zone && (!side || z.side === side))
    return length(of.reduce((sum, z) => sum + z.leave_mm, 0) / Math.max(of.length, 1), unit)
  }
  const middle = (box.top + box.bottom) / 2
  const tags = [
    { x: 0, y: box.top - EDGE_MM - 5, text: leave('crown'), anchor: 0 },
    { x: box.left - EDGE_MM, y: middle, text: `${leave('cheek', 'right')} R`, anchor: -1 },
    { x: box.right + EDGE_MM, y: middle, text: `${leave('cheek', 'left')} L`, anchor: 1 },
    { x: 0, y: box.bottom + EDGE_MM + 5, text: leave('chin'), anchor: 0 },
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
