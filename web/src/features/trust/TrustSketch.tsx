const TABLET = 'M46 18 H174 Q182 18 182 26 V104 Q182 112 174 112 H46 Q38 112 38 104 V26 Q38 18 46 18'

const LINES = {
  take: 'M96 6 H118 L128 16 V58 H96 Z M118 6 V16 H128 M112 40 a7 7 0 1 0 .1 0 M108 52 L106 60 M116 52 L118 60 M112 68 V92 M102 82 L112 92 L122 82 M84 100 H140',
  trust:
    'M54 36 H120 M54 58 H106 M54 80 H114 M136 50 H160 Q168 50 168 58 Q168 66 160 66 H136 Q128 66 128 58 Q128 50 136 50 M160 52 a6 6 0 1 0 .1 0 M132 82 L139 90 L154 74',
  open: 'M54 32 H166 V44 H54 Z M60 38 V36 a3 3 0 0 1 6 0 V38 M59 38 H67 V42 H59 Z M92 70 L88 54 L100 62 Q110 59 120 62 L132 54 L128 70 Q136 84 126 96 Q110 108 94 96 Q84 84 92 70 M102 76 h.1 M118 76 h.1 M106 88 Q110 85 114 88 Q110 93 106 88',
} as const

/** A tablet, and what is done on it. */
export function TrustSketch({ step }: { step: keyof typeof LINES }) {
  return (
    <svg viewBox="30 0 160 118" className="h-32 w-full shrink-0" aria-hidden>
      <g fill="none" stroke="currentColor" strokeWidth="2.5" strokeLinecap="round" strokeLinejoin="round">
        <path d={TABLET} className="text-rule" />
        <path d={LINES[step]} />
      </g>
    </svg>
  )
}
