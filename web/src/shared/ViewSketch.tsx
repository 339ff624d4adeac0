import type { View } from '../api/client'

const LINES: Partial<Record<View, string>> = {
  front:
    'M30 40 L24 12 L42 28 Q50 24 58 28 L76 12 L70 40 Q82 58 70 76 Q50 92 30 76 Q18 58 30 40 M40 48 h.1 M60 48 h.1 M45 62 Q50 58 55 62 Q50 69 45 62',
  left: 'M88 86 Q92 50 74 32 L70 10 L56 28 Q42 30 38 44 L14 56 Q8 62 14 68 Q24 80 44 76 Q54 78 58 88 M40 46 h.1 M14 57 h6',
  right:
    'M12 86 Q8 50 26 32 L30 10 L44 28 Q58 30 62 44 L86 56 Q92 62 86 68 Q76 80 56 76 Q46 78 42 88 M60 46 h.1 M86 57 h-6',
  top: 'M42 34 Q39 12 50 10 Q61 12 58 34 Q76 40 76 62 Q76 90 50 92 Q24 90 24 62 Q24 40 42 34 M27 50 Q9 56 13 80 Q23 78 27 72 M73 50 Q91 56 87 80 Q77 78 73 72 M46 13 Q50 17 54 13 M42 40 h.1 M58 40 h.1',
}

/** How the head lies in the picture for a view. */
export function ViewSketch({ view }: { view: View }) {
  return (
    <svg viewBox="0 0 100 100" className="size-28 shrink-0" aria-hidden>
      <path
        d={LINES[view]}
        fill="none"
        stroke="currentColor"
        strokeWidth="3.5"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  )
}
