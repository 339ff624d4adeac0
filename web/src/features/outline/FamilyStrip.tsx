import { useEffect, useRef, type KeyboardEvent } from 'react'
import type { Dog, Thumb } from '../../api/client'
import { boxOf, viewBox, widened } from '../../sheet/level'
import { plainPath, smoothPath } from '../../sheet/lines'
import { Scroller } from '../../ui/Scroller'
import { verdictWords } from './words'
import { useThumbs } from './useOutlines'

type Props = { dog: Dog; chosen: string; onChoose: (family: string) => void }

/** Every outline fitted for this dog, best first; a tile stays where it is while others are fitted. */
export function FamilyStrip({ dog, chosen, onChoose }: Props) {
  const { places, fitted, all } = useThumbs(dog)
  const strip = useRef<HTMLDivElement>(null)
  useEffect(() => {
    // The one that is chosen stays in sight, wherever it comes to stand.
    strip.current
      ?.querySelector(`[data-thumb="${chosen}"]`)
      ?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  }, [chosen, all])
  return (
    <div ref={strip} className="shrink-0">
      <Scroller
        across
        role="radiogroup"
        tabIndex={fitted ? -1 : 0}
        onKeyDown={alongTheStrip}
        aria-label="Outlines for this head, best first"
        className="grid auto-cols-[7rem] grid-flow-col grid-rows-2 gap-1.5 pb-1 portrait:grid-rows-1"
        data-fitted={fitted}
      >
        {places.map(({ key, name, thumb }) =>
          thumb ? (
            <ThumbButton key={key} thumb={thumb} on={key === chosen} onChoose={onChoose} />
          ) : (
            <span
              key={key}
              className="grid h-[5.6rem] place-items-center rounded-lg border border-dashed border-rule p-1 text-center text-sm text-quiet"
            >
              {name}…
            </span>
          ),
        )}
      </Scroller>
    </div>
  )
}

const STEPS: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }

/** Arrows go from one outline to the next; Enter or space chooses. */
function alongTheStrip(event: KeyboardEvent<HTMLDivElement>) {
  const step = STEPS[event.key]
  if (!step) return
  event.preventDefault()
  const all = [...event.currentTarget.querySelectorAll<HTMLButtonElement>('[data-thumb]')]
  const at = all.findIndex((one) => one === document.activeElement)
  all[(at + step + all.length) % all.length]?.focus()
}

type ThumbProps = { thumb: Thumb; on: boolean; onChoose: Props['onChoose'] }

function ThumbButton({ thumb, on, onChoose }: ThumbProps) {
  return (
    <button
      role="radio"
      aria-checked={on}
      title={thumb.reasons.join('\n')}
      className={`flex h-[5.6rem] flex-col rounded-lg border p-1 text-left leading-tight ${
        on ? 'border-2 border-ink bg-tape/25' : 'border-rule bg-sheet hover:border-ink'
      }`}
      data-thumb={thumb.family}
      data-verdict={thumb.verdict}
      onClick={() => onChoose(thumb.family)}
    >
      <span className="flex min-h-0 flex-1 justify-center gap-1">
        <Small lines={thumb.views['front']} />
        <Small lines={thumb.views['left']} />
      </span>
      <b className="truncate text-[0.82rem]">{thumb.name}</b>
      <span
        className={`text-xs ${thumb.verdict === 'today' && !thumb.comb_first.length ? '' : 'font-semibold text-missing'}`}
      >
        {verdictWords(thumb)}
      </span>
    </button>
  )
}

/** One small view: the coat dotted, the outline firm. */
export function Small({ lines }: { lines?: Record<string, [number, number][]> }) {
  const [coat, outline] = [lines?.['coat'] ?? [], lines?.['outline'] ?? []]
  if (!coat.length) return null
  return (
    <svg viewBox={viewBox(widened(boxOf(coat), 4))} className="h-full min-w-0 flex-1" aria-hidden>
      <path
        d={plainPath(coat)}
        fill="none"
        stroke="var(--color-coat)"
        strokeWidth="3"
        strokeDasharray="1 5"
      />
      <path
        d={smoothPath(outline)}
        fill="var(--color-sheet)"
        fillOpacity="0.6"
        stroke="var(--color-cut)"
        strokeWidth="6"
        strokeLinejoin="round"
      />
    </svg>
  )
}
