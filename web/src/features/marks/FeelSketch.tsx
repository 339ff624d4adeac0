type Sketch = 'side' | 'front' | 'top'
type Touch = 'look' | 'finger' | 'thumb' | 'comb'
type Feel = {
  readonly sketch: Sketch
  readonly at: readonly [number, number]
  /** Where the hand comes from, degrees clockwise from above. */
  readonly from: number
  readonly touch: Touch
  /** What the finger does there. */
  readonly move?: 'press' | 'roll' | 'draw'
}

/** How each mark is found, on a head of 100 × 100 units: the dog's left side, its face, its top. */
const FEELS: Readonly<Record<string, Feel>> = {
  nose_tip: { sketch: 'side', at: [9, 60], from: 250, touch: 'look' },
  nose_top: { sketch: 'side', at: [16, 53], from: 330, touch: 'look' },
  stop: { sketch: 'side', at: [36, 42], from: 335, touch: 'finger', move: 'roll' },
  crown: { sketch: 'side', at: [60, 26], from: 0, touch: 'comb', move: 'press' },
  occiput: { sketch: 'side', at: [90, 46], from: 60, touch: 'finger', move: 'roll' },
  lip_front: { sketch: 'side', at: [12, 67], from: 250, touch: 'look' },
  chin: { sketch: 'side', at: [24, 74], from: 200, touch: 'thumb', move: 'press' },
  throat: { sketch: 'side', at: [62, 78], from: 180, touch: 'finger', move: 'press' },
  eye_inner: { sketch: 'front', at: [57, 45], from: 0, touch: 'look' },
  eye_outer: { sketch: 'front', at: [69, 43], from: 30, touch: 'look' },
  mouth_corner: { sketch: 'side', at: [36, 66], from: 150, touch: 'finger', move: 'draw' },
  cheek: { sketch: 'front', at: [76, 54], from: 90, touch: 'thumb', move: 'press' },
  ear_front: { sketch: 'side', at: [62, 29], from: 320, touch: 'finger', move: 'press' },
  ear_back: { sketch: 'side', at: [76, 33], from: 70, touch: 'finger', move: 'press' },
  ear_tip: { sketch: 'side', at: [80, 8], from: 80, touch: 'thumb', move: 'draw' },
  jaw_angle: { sketch: 'side', at: [64, 70], from: 170, touch: 'finger', move: 'press' },
}

const HEADS: Readonly<Record<Sketch, readonly string[]>> = {
  side: [
    'M92 78 Q98 54 84 38 Q72 24 54 26 Q40 28 35 42 L12 54 Q6 60 11 66 Q16 72 26 73 Q44 79 56 76 Q64 80 66 92',
    'M62 29 Q66 12 80 8 Q84 24 76 33',
    'M12 67 Q24 66 36 66',
  ],
  front: [
    'M50 20 Q70 20 77 38 Q80 52 74 64 Q64 72 61 82 Q56 90 50 90 Q44 90 39 82 Q36 72 26 64 Q20 52 23 38 Q30 20 50 20Z',
    'M70 24 Q80 8 90 14 Q92 28 78 40',
    'M30 24 Q20 8 10 14 Q8 28 22 40',
    'M50 76 L50 82 M50 82 Q44 88 39 83 M50 82 Q56 88 61 83',
  ],
  top: ['M50 8 Q58 10 60 30 Q78 44 76 64 Q72 88 50 92 Q28 88 24 64 Q22 44 40 30 Q42 10 50 8Z'],
}
const DARK: Readonly<Record<Sketch, readonly string[]>> = {
  side: ['M37 45 Q41 41 45 44.5 Q41 48 37 45Z', 'M9 59 Q10 53 17 54 Q16 60 10 62Z'],
  front: [
    'M57 45 Q63 39 69 43 Q64 49 57 45Z',
    'M43 45 Q37 39 31 43 Q36 49 43 45Z',
    'M43 68 Q50 64 57 68 Q56 76 50 77 Q44 76 43 68Z',
  ],
  top: ['M46 8 Q50 5 54 8 Q54 14 50 15 Q46 14 46 8Z'],
}

/** Where and how to feel for a mark: a head in one line, the hand that feels, and what it does there. */
export function FeelSketch({ mark }: { mark: string }) {
  const feel = FEELS[mark.replace(/_(left|right)$/, '')]
  if (!feel) return null
  return (
    <svg viewBox="-20 -12 140 124" className="h-28 w-32 shrink-0" aria-hidden data-feel={mark}>
      <g transform={mark.endsWith('_right') ? 'translate(100 0) scale(-1 1)' : undefined}>
        {HEADS[feel.sketch].map((path) => (
          <path
            key={path}
            d={path}
            fill="none"
            stroke="var(--color-skin)"
            strokeWidth="2.4"
            strokeLinecap="round"
            strokeLinejoin="round"
          />
        ))}
        {DARK[feel.sketch].map((path) => (
          <path key={path} d={path} fill="var(--color-ink)" />
        ))}
        <g transform={`translate(${feel.at[0]} ${feel.at[1]})`}>
          <circle r="7" fill="var(--color-tape)" fillOpacity="0.55" />
          <g transform={`rotate(${feel.from})`}>
            <Hand touch={feel.touch} />
            {feel.move && <Movement move={feel.move} />}
          </g>
          <circle r="2.6" fill="var(--color-tape)" stroke="var(--color-ink)" strokeWidth="1.4" />
        </g>
      </g>
    </svg>
  )
}

/** What touches the mark, its end at the origin and itself above. */
function Hand({ touch }: { touch: Touch }) {
  const line = { stroke: 'var(--color-ink)', strokeWidth: 1.6, fill: 'var(--color-sheet)' }
  if (touch === 'look')
    return (
      <path d="M0 -4V-11M-4 0H-11M4 0H11M0 4V11" stroke="var(--color-ink)" strokeWidth="1.6" fill="none" />
    )
  if (touch === 'comb')
    return (
      <g {...line} strokeLinejoin="round">
        <path d="M-10 -25h20v7h-20z" />
        <path d="M-8 -18V-5M-4 -18V-4M0 -18V-3M4 -18V-4M8 -18V-5" fill="none" />
      </g>
    )
  const half = touch === 'thumb' ? 6 : 4.4
  return (
    <g {...line} strokeLinejoin="round">
      <path d={`M${-half} -30V${-3 - half}a${half} ${half} 0 0 0 ${2 * half} 0V-30`} />
      <path
        d={`M${-half * 0.5} ${-3 - half * 1.1}a${half * 0.5} ${half * 0.6} 0 0 0 ${half} 0`}
        fill="none"
      />
    </g>
  )
}

function Movement({ move }: { move: 'press' | 'roll' | 'draw' }) {
  const paths = {
    press: 'M10 -22V-10M6.5 -14L10 -10L13.5 -14',
    roll: 'M-10 -8Q0 -17 10 -8M10 -8L9.5 -13M10 -8L5 -9',
    draw: 'M9 -9L18 -18M18 -18L17.5 -13M18 -18L13 -17.5',
  }
  return (
    <path
      d={paths[move]}
      fill="none"
      stroke="var(--color-cut)"
      strokeWidth="2"
      strokeLinecap="round"
      strokeLinejoin="round"
    />
  )
}
