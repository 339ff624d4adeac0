import { useState, type PointerEvent } from 'react'
import { useShortcuts } from '../../ui/useShortcuts'
import { ZoomButtons } from '../../ui/ZoomButtons'
import { screenUrl, type Photo, type Schemas } from '../../api/client'
import { imagePoint, screenPoint, toImage, type ImagePoint } from '../../sheet/points'
import { closeness, middle, type Window } from '../../sheet/zoom'
import { Loupe } from './Loupe'
import type { Marks, MarksAction } from './marksMachine'
import { A_STEP, useZoom } from '../../sheet/useZoom'
import { viewWords } from '../../shared/words'

type Props = {
  photo: Photo
  marks: Marks
  ghosts: readonly Schemas['GhostOut'][]
  rules: ReadonlyMap<string, Schemas['MarkRuleOut']>
  active: string | null
  selected: string | null
  findings: readonly Schemas['FindingOut'][]
  act: (action: MarksAction) => void
}

/** How near a mark a press picks it up; nearer while another waits to be placed, which may lie close by. */
const GRAB_SHARE = 0.022
const GRAB_WHILE_PLACING_SHARE = 0.006

/** The photo with its marks: press to place or pick one up, drag to move, a loupe beside the finger. */
export function MarkPlane({ photo, marks, ghosts, rules, active, selected, findings, act }: Props) {
  const [svg, setSvg] = useState<SVGSVGElement | null>(null)
  const [held, setHeld] = useState<{ mark: string; at: ImagePoint } | null>(null)
  const placing = active !== null && !(active in marks)
  const size = { width: photo.width_px, height: photo.height_px }
  const { window: seen, fingers, zoom, whole } = useZoom(svg, size)
  const near = closeness(seen, size)
  const grab = ((placing ? GRAB_WHILE_PLACING_SHARE : GRAB_SHARE) * photo.width_px) / near
  // Drawn marks keep their size on the screen however close the photo is looked at.
  const unit = photo.width_px / 1200 / near
  const culprits = findings.flatMap((f) => (f.mark ? [f.mark] : []))
  useShortcuts((event) => {
    if (event.key !== ' ' || event.target instanceof HTMLButtonElement || !active || active in marks)
      return false
    act({ type: 'place', mark: active, at: middle(seen) })
    return true
  })

  function under(at: ImagePoint): string | null {
    const near = Object.entries(marks)
      .map(([id, m]) => ({ id, away: Math.hypot(m.at[0] - at.x, m.at[1] - at.y) }))
      .sort((a, b) => a.away - b.away)[0]
    const ghost = placing ? ghosts.find((g) => g.mark === active) : undefined
    const meant = ghost && Math.hypot(ghost.at[0] - at.x, ghost.at[1] - at.y)
    // Eye corners all but meet from the side: what lies nearer to the expected place is the mark to place.
    if (near && meant !== undefined && meant < near.away) return null
    return near && near.away < grab ? near.id : null
  }
  function point(event: PointerEvent): ImagePoint {
    const at = svg ? toImage(svg, screenPoint(event.clientX, event.clientY)) : imagePoint(0, 0)
    return imagePoint(
      Math.min(Math.max(at.x, 0), photo.width_px),
      Math.min(Math.max(at.y, 0), photo.height_px),
    )
  }
  function down(event: PointerEvent<SVGSVGElement>) {
    if (fingers(event)) return setHeld(null)
    if (event.button !== 0) return
    const at = point(event)
    const mark = under(at) ?? (active && !(active in marks) ? active : null)
    if (!mark) return act({ type: 'select', mark: null })
    event.currentTarget.setPointerCapture(event.pointerId)
    const placed = marks[mark]
    setHeld({ mark, at: placed ? imagePoint(placed.at[0], placed.at[1]) : at })
    if (placed) act({ type: 'select', mark })
  }
  function up(event: PointerEvent) {
    if (fingers(event)) return setHeld(null)
    if (!held) return
    const before = marks[held.mark]?.at
    if (!before || before[0] !== held.at.x || before[1] !== held.at.y)
      act({ type: 'place', mark: held.mark, at: held.at })
    // A newly placed mark is not kept chosen: the next press places the next one.
    if (!before) act({ type: 'select', mark: null })
    setHeld(null)
  }
  const shown = held
    ? { ...marks, [held.mark]: { ...marks[held.mark], at: [held.at.x, held.at.y] as [number, number] } }
    : marks
  return (
    <div className="relative min-h-72 flex-1 overflow-hidden rounded-xl border border-rule bg-[#20302b]">
      <svg
        ref={setSvg}
        role="application"
        aria-label={`${viewWords(photo.view)} photo; press to place ${active ? (rules.get(active)?.words ?? active) : 'marks'}`}
        data-plane={photo.view}
        viewBox={`${seen.x} ${seen.y} ${seen.width} ${seen.height}`}
        data-closeness={near.toFixed(2)}
        className="absolute inset-0 size-full touch-none cursor-crosshair"
        onPointerDown={down}
        onPointerMove={(event) => {
          if (fingers(event)) setHeld(null)
          else if (held) setHeld({ ...held, at: point(event) })
        }}
        onPointerUp={up}
        onPointerCancel={(event) => {
          fingers(event)
          setHeld(null)
        }}
      >
        <image href={screenUrl(photo)} width={photo.width_px} height={photo.height_px} />
        {ghosts
          .filter((g) => !(g.mark in shown))
          .map((g) => (
            <Ghost
              key={g.mark}
              ghost={g}
              unit={unit}
              active={g.mark === active}
              words={rules.get(g.mark)?.words ?? g.mark}
            />
          ))}
        {Object.entries(shown).map(([id, m]) => (
          <MarkDot
            key={id}
            id={id}
            words={rules.get(id)?.words ?? id}
            at={m.at}
            unit={unit}
            chosen={id === selected || id === held?.mark}
            unsure={m.unsure ?? false}
            wrong={culprits.includes(id)}
            onFocus={() => act({ type: 'select', mark: id })}
          />
        ))}
      </svg>
      {SIDES[photo.view]?.map((words, i) => (
        <span
          key={words}
          className={`pointer-events-none absolute bottom-2 rounded bg-[#10241f]/75 px-2 py-0.5 text-sm text-white ${i ? 'right-2' : 'left-2'}`}
        >
          {words}
        </span>
      ))}
      <ZoomButtons near={near} step={A_STEP} zoom={zoom} whole={whole} />
      {svg && !held && <Culprits findings={findings} marks={marks} svg={svg} seen={seen} />}
      {held && svg && <Loupe photo={photo} at={held.at} svg={svg} />}
    </div>
  )
}

/** Whose side is where: left and right are always the dog's own. */
const SIDES: Partial<Record<Photo['view'], readonly [string, string]>> = {
  front: ['the dog’s right', 'the dog’s left'],
  top: ['the dog’s left', 'the dog’s right'],
  back: ['the dog’s left', 'the dog’s right'],
}

type CulpritsProps = {
  findings: readonly Schemas['FindingOut'][]
  marks: Marks
  svg: SVGSVGElement
  seen: Window
}

/** What is wrong, told beside the mark it is said of. */
function Culprits({ findings, marks, svg, seen }: CulpritsProps) {
  const box = svg.getBoundingClientRect()
  const told = findings.filter((f) => f.mark && marks[f.mark])
  return told.slice(0, 2).map((f) => {
    const at = marks[f.mark as string]?.at ?? [0, 0]
    const scale = Math.min(box.width / seen.width, box.height / seen.height)
    const x = box.width / 2 + (at[0] - seen.x - seen.width / 2) * scale
    const y = box.height / 2 + (at[1] - seen.y - seen.height / 2) * scale
    if (x < 0 || y < 0 || x > box.width || y > box.height) return null
    return (
      <p
        key={f.message}
        data-culprit={f.mark}
        className="pointer-events-none absolute w-64 rounded-lg border-l-4 border-[#ff6a4d] bg-[#fffaf0] px-3 py-2 text-sm font-semibold text-[#17352f] shadow-lg"
        style={{
          left: Math.min(Math.max(x - 128, 8), box.width - 264),
          ...(y > box.height / 2 ? { bottom: box.height - y + 26 } : { top: y + 26 }),
        }}
      >
        {f.message}
      </p>
    )
  })
}

type DotProps = {
  id: string
  words: string
  at: readonly [number, number]
  unit: number
  chosen: boolean
  unsure: boolean
  wrong: boolean
  onFocus: () => void
}

function MarkDot({ id, words, at, unit, chosen, unsure, wrong, onFocus }: DotProps) {
  const side = id.endsWith('_left') ? 'L' : id.endsWith('_right') ? 'R' : ''
  const colour = wrong ? '#ff6a4d' : '#f2c230'
  return (
    <g
      transform={`translate(${at[0]} ${at[1]}) scale(${unit})`}
      tabIndex={0}
      role="button"
      aria-label={`${words}${unsure ? ', not sure' : ''}${wrong ? ', look again' : ''}`}
      data-mark={id}
      onFocus={onFocus}
      className="outline-none"
    >
      {chosen && <circle r="19" fill="none" stroke="#fff" strokeWidth="2.5" strokeDasharray="5 4" />}
      <circle r="9" fill="none" stroke="#10241f" strokeWidth="5" />
      <circle
        r="9"
        fill="none"
        stroke={colour}
        strokeWidth="3"
        strokeDasharray={unsure ? '4 3' : undefined}
      />
      <path d="M-15 0H-4M4 0H15M0 -15V-4M0 4V15" stroke="#10241f" strokeWidth="3.4" />
      <path d="M-15 0H-4M4 0H15M0 -15V-4M0 4V15" stroke={colour} strokeWidth="1.6" />
      {(chosen || wrong) && (
        <text
          x="22"
          y="-14"
          fontSize="24"
          fontWeight="700"
          fill="#fff"
          stroke="#10241f"
          strokeWidth="5"
          paintOrder="stroke"
        >
          {words}
        </text>
      )}
      {!chosen && side && (
        <text
          x="12"
          y="-9"
          fontSize="17"
          fontWeight="700"
          fill={colour}
          stroke="#10241f"
          strokeWidth="4"
          paintOrder="stroke"
        >
          {side}
        </text>
      )}
    </g>
  )
}

function Ghost({
  ghost,
  unit,
  active,
  words,
}: {
  ghost: Schemas['GhostOut']
  unit: number
  active: boolean
  words: string
}) {
  return (
    <g transform={`translate(${ghost.at[0]} ${ghost.at[1]})`} data-ghost={ghost.mark} pointerEvents="none">
      <circle
        r={Math.max(ghost.sigma_px, 7 * unit)}
        fill={active ? '#ffffff55' : '#ffffff18'}
        stroke="#fff"
        strokeOpacity={active ? 1 : 0.55}
        strokeDasharray={`${4 * unit} ${4 * unit}`}
        strokeWidth={(active ? 2.5 : 1.5) * unit}
      />
      <circle r={2.5 * unit} fill="#fff" />
      {active && (
        <text
          y={Math.max(ghost.sigma_px, 7 * unit) + 26 * unit}
          textAnchor="middle"
          fontSize={22 * unit}
          fontWeight="700"
          fill="#fff"
          stroke="#10241f"
          strokeWidth={5 * unit}
          paintOrder="stroke"
        >
          {words}?
        </text>
      )}
    </g>
  )
}
