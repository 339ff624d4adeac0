import { ArrowRight } from 'lucide-react'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { FeelSketch } from './FeelSketch'
import type { MarksAction } from './marksMachine'

type Props = {
  rule?: Schemas['MarkRuleOut']
  placed: boolean
  unsure: boolean
  expected: boolean
  count: number
  of: number
  ghost?: Schemas['GhostOut']
  /** Marks of this photo that rest on guesses. */
  guessed: readonly string[]
  /** Where it goes on once this photo has its marks. */
  onward: { words: string; go: () => void } | null
  act: (action: MarksAction) => void
}

const KINDS = { seen: 'seen', felt: 'felt through the coat', edge: 'on the edge' }

/** The mark to place now (or the one chosen): its name, where to feel for it, what can be done. */
export function MarkCard({ rule, placed, unsure, expected, count, of, ghost, guessed, onward, act }: Props) {
  return (
    <section aria-label="Next mark" className="shrink-0 rounded-xl border border-rule bg-sheet p-4">
      <div className="mb-2 flex h-2 gap-0.5" role="img" aria-label={`${count} of ${of} marks placed`}>
        {Array.from({ length: of }, (_, i) => (
          <span key={i} className={`flex-1 rounded-sm ${i < count ? 'bg-cut' : 'bg-rule'}`} />
        ))}
      </div>
      {rule ? (
        <>
          <div className="flex items-start gap-3">
            <div className="flex-1">
              <p className="text-sm text-quiet">
                {placed ? 'Chosen' : 'Place now'} · {KINDS[rule.kind]}
              </p>
              <h2 className="text-2xl leading-tight font-bold">{rule.words}</h2>
              <p className="mt-1 text-[0.95rem]">{rule.feel}</p>
              {expected && (
                <p className="mt-1 text-sm text-quiet">
                  Taken as expected: it tells nothing new. Put it where you see or feel it, and it does.
                </p>
              )}
            </div>
            <FeelSketch mark={rule.id} />
          </div>
          <div className="mt-3 flex flex-wrap gap-2">
            {!placed && ghost && (
              <Button look="firm" onClick={() => act({ type: 'accept', ghosts: [ghost] })}>
                Accept suggestion
              </Button>
            )}
            {!placed && <Button onClick={() => act({ type: 'skip', mark: rule.id })}>Skip</Button>}
            {placed && (
              <>
                <Button aria-pressed={unsure} onClick={() => act({ type: 'unsure' })}>
                  {unsure ? 'Not sure ✓' : 'Not sure'}
                </Button>
                <Button onClick={() => act({ type: 'remove', mark: rule.id })}>Remove</Button>
                <Button look="firm" onClick={() => act({ type: 'select', mark: null })}>
                  Next
                </Button>
              </>
            )}
          </div>
        </>
      ) : (
        <>
          <p className="text-lg font-semibold">All marks of this photo are placed or skipped.</p>
          {guessed.length > 0 && (
            <p className="mt-1 text-[0.95rem]" data-guessed={guessed.length}>
              {guessed.length} of them rest on guesses: what is planned is that much less sure.{' '}
              <button
                className="min-h-6 underline"
                onClick={() => act({ type: 'select', mark: guessed[0] ?? null })}
              >
                Look at them
              </button>
            </p>
          )}
          {onward && (
            <Button look="firm" className="mt-3 w-full" onClick={onward.go} data-onward>
              {onward.words} <ArrowRight size={18} aria-hidden />
            </Button>
          )}
        </>
      )}
    </section>
  )
}
