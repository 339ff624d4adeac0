const HEAD =
  'M92 78 Q98 54 84 38 Q72 24 54 26 Q40 28 35 42 L12 54 Q6 60 11 66 Q16 72 26 72 Q44 78 56 76 Q64 80 66 92'
const EAR = 'M62 29 Q66 12 80 8 Q84 24 76 33'

/** Where each mark lies on a head seen from its left side, in the sketch's own 100 × 100 units. */
const PLACES: Record<string, readonly [number, number]> = {
  nose_tip: [9, 60],
  nose_top: [16, 53],
  stop: [36, 42],
  crown: [60, 26],
  occiput: [90, 46],
  lip_front: [12, 67],
  chin: [24, 72],
  throat: [62, 78],
  eye_inner: [37, 46],
  eye_outer: [45, 45],
  mouth_corner: [36, 66],
  cheek: [62, 56],
  ear_front: [62, 29],
  ear_back: [76, 33],
  ear_tip: [80, 8],
  jaw_angle: [64, 70],
}

/** A head in one line with a finger's dot where to feel. */
export function FeelSketch({ mark }: { mark: string }) {
  const at = PLACES[mark.replace(/_(left|right)$/, '')] ?? [50, 50]
  return (
    <svg viewBox="0 0 100 100" className="size-24 shrink-0" aria-hidden>
      <path
        d={`${HEAD}${EAR}`}
        fill="none"
        stroke="var(--color-skin)"
        strokeWidth="2.6"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
      <path d="M39 46 Q42 42.5 45 45.5 Q42 48 39 46Z" fill="var(--color-ink)" />
      <path d="M9 59 Q10 53 17 54 Q16 60 10 62Z" fill="var(--color-ink)" />
      <circle cx={at[0]} cy={at[1]} r="8" fill="var(--color-tape)" fillOpacity="0.55" />
      <circle
        cx={at[0]}
        cy={at[1]}
        r="3.6"
        fill="var(--color-tape)"
        stroke="var(--color-ink)"
        strokeWidth="1.6"
      />
    </svg>
  )
}
