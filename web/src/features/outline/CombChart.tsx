import { useState } from 'react'
import type { Zone } from '../../api/client'
import { length, lengthWords, useUnit } from '../../ui/units'
import { zoneWords } from '../../shared/words'

const WIDTH = 900
const SPINE_Y = 14
const DEEP = 96
const TOOTH = 25
/** Hair there is as long as a blade leaves it, or too little to chart; the table has these zones too. */
const NOT_CHARTED = new Set([
  'stop',
  'inner_corner',
  'bridge',
  'ear_inside',
  'ear_base_front',
  'ear_base_rear',
])
const SHORTER: Readonly<Record<string, string>> = {
  muzzle_side: 'muzzle',
  ear_outside: 'ear outside',
  ear_edge: 'ear edge',
}
const SHORT_DOT = 9

/** Zones as the teeth of a comb, left and right side by side, hair length from the skin at the spine. */
export function CombChart({ zones }: { zones: Zone[] }) {
  const [unit] = useUnit()
  const [pointed, setPointed] = useState<string | null>(null)
  const longest = Math.max(
    40,
    ...zones
      .filter((z) => !NOT_CHARTED.has(z.zone))
      .map((z) => Math.max(z.now_high, z.leave_mm + z.shortage_mm)),
  )
  const names = [...new Set(zones.map((z) => z.zone))].filter((name) => !NOT_CHARTED.has(name))
  const each = WIDTH / names.length
  const y = (mm: number) => SPINE_Y + (Math.min(mm, longest) / longest) * DEEP
  return (
    <figure
      aria-label="Lengths by zone"
      className="relative"
      onPointerLeave={(event) => event.pointerType === 'mouse' && setPointed(null)}
    >
      {pointed && <Pointed zones={zones.filter((z) => z.zone === pointed)} />}
      <svg viewBox={`0 0 ${WIDTH} 144`} className="w-full" aria-hidden>
        <defs>
          <pattern
            id="comb-off"
            width="7"
            height="7"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <path d="M0 0V7" stroke="var(--color-off)" strokeWidth="3" />
          </pattern>
        </defs>
        {names.map((name, i) => {
          const middle = each * (i + 0.5)
          return (
            <g
              key={name}
              onPointerEnter={() => setPointed(name)}
              data-pointed={name === pointed || undefined}
            >
              <rect
                x={each * i}
                width={each}
                height="144"
                fill={name === pointed ? 'var(--color-tape)' : 'transparent'}
                opacity="0.25"
              />
              {zones
                .filter((z) => z.zone === name)
                .map((z) => (
                  <Tooth
                    key={z.side}
                    zone={z}
                    x={middle + (z.side === 'left' ? -TOOTH - 4 : 4)}
                    y={y}
                    text={length(z.leave_mm, unit)}
                  />
                ))}
              <text
                x={middle}
                y="139"
                textAnchor="middle"
                fontSize="13"
                fontWeight="600"
                fill="var(--color-ink)"
              >
                {SHORTER[name] ?? zoneWords(name)}
              </text>
            </g>
          )
        })}
        <path d={`M0 ${SPINE_Y}H${WIDTH}`} stroke="var(--color-skin)" strokeWidth="5" />
      </svg>
      <ZoneTable zones={zones} />
    </figure>
  )
}

/** What is under the pointer or the finger, to be read from a metre; it stands where the legend is. */
function Pointed({ zones }: { zones: Zone[] }) {
  const [unit] = useUnit()
  return (
    <p
      aria-hidden
      data-pointed-zone={zones[0]?.zone}
      className="absolute -top-9 right-28 left-0 flex h-9 items-center gap-5 overflow-hidden bg-sheet text-2xl leading-none whitespace-nowrap"
    >
      <b>{zoneWords(zones[0]?.zone ?? '')}</b>
      {zones.map((z) => (
        <span key={z.side}>
          <span className="text-quiet">{z.side}</span> <b>{lengthWords(z.leave_mm, unit)}</b>
          {z.remove_mm >= 0.5 && <span className="text-lg"> −{length(z.remove_mm, unit)}</span>}
          {z.shortage_mm >= 0.5 && (
            <span className="text-lg text-missing"> {length(z.shortage_mm, unit)} missing</span>
          )}
        </span>
      ))}
    </p>
  )
}

function Tooth({ zone: z, x, y, text }: { zone: Zone; x: number; y: (mm: number) => number; text: string }) {
  const top = SPINE_Y
  const middle = x + TOOTH / 2
  const leave = y(z.leave_mm)
  const dots = z.shortage_mm ? Math.max(1, Math.round(z.shortage_mm / 3)) : 0
  return (
    <g data-tooth={`${z.zone}-${z.side}`}>
      <rect x={x} y={top} width={TOOTH} height={Math.max(leave - top, 0)} fill="var(--color-tooth)" />
      {z.now_mm > z.leave_mm && (
        <rect
          x={x}
          y={leave}
          width={TOOTH}
          height={y(z.now_mm) - leave}
          fill="url(#comb-off)"
          opacity="0.85"
        />
      )}
      <path
        d={`M${x + TOOTH + 3} ${y(z.now_low)}V${y(z.now_high)}m-4 0h8M${x + TOOTH - 1} ${y(z.now_low)}h8`}
        stroke="var(--color-coat)"
        strokeWidth="1.5"
        fill="none"
      />
      <path d={`M${x - 4} ${leave}H${x + TOOTH + 4}`} stroke="var(--color-cut)" strokeWidth="5" />
      {Array.from({ length: dots }, (_, i) => (
        <circle key={i} cx={middle} cy={leave + 10 + i * SHORT_DOT} r="3.4" fill="var(--color-missing)" />
      ))}
      <text
        x={middle}
        y={Math.max(leave - 6, top + 18)}
        textAnchor="middle"
        fontSize="17"
        fontWeight="800"
        fill="var(--color-ink)"
        stroke="var(--color-sheet)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        {text}
      </text>
      <text x={middle} y="123" textAnchor="middle" fontSize="11" fill="var(--color-quiet)">
        {z.side === 'left' ? 'L' : 'R'}
      </text>
    </g>
  )
}

/** The same for ears and for tests: a table that a screen reader walks through. */
function ZoneTable({ zones }: { zones: Zone[] }) {
  return (
    <div className="sr-only">
      <table>
        <caption>Hair length to leave and to take off, mm</caption>
        <thead>
          <tr>
            <th>zone</th>
            <th>side</th>
            <th>leave</th>
            <th>either way</th>
            <th>take off</th>
            <th>missing</th>
            <th>tool</th>
          </tr>
        </thead>
        <tbody>
          {zones.map((z) => (
            <tr key={z.zone + z.side} data-zone={z.zone} data-side={z.side}>
              <th scope="row">{zoneWords(z.zone)}</th>
              <td>{z.side}</td>
              <td data-leave>{z.leave_mm.toFixed(1)}</td>
              <td>{((z.high - z.low) / 2).toFixed(1)}</td>
              <td data-off>{z.remove_mm.toFixed(1)}</td>
              <td>{z.shortage_mm.toFixed(1)}</td>
              <td>{z.tool}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
