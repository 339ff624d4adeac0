import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import { X } from 'lucide-react'
import { useState } from 'react'
import { screenUrl, type Dog, type Outline } from '../../api/client'
import { viewBox } from '../../sheet/level'
import { plainPath, smoothPath } from '../../sheet/lines'
import { useLater } from '../../ui/useLater'
import type { Setting } from './outlineMachine'
import { cellsOf, type Cell } from './sheetCells'
import { dayIn } from './words'
import { useAhead } from './useOutlines'

type Props = { dog: Dog; drawing: Outline; setting: Setting; onClose: () => void }

const MOST_WEEKS = 10
const SETTLED_MS = 150

/** One clean picture for the owner: the head as it is, and as it will be, some weeks ahead if asked. */
export function OwnerView({ dog, drawing, setting, onClose }: Props) {
  const [weeks, setWeeks] = useState(0)
  const asked = useLater(weeks, SETTLED_MS)
  const ahead = useAhead(dog, setting, asked)
  const shown = ahead.data ?? drawing
  const cells = cellsOf(shown, dog.photos)
  return (
    <Dialog open onClose={onClose} className="fixed inset-0 z-30">
      <DialogPanel className="flex size-full flex-col gap-3 bg-paper p-6" data-owner>
        <div className="flex items-baseline justify-between">
          <DialogTitle className="text-4xl font-bold tracking-tight">
            {dog.name} — {drawing.called}
          </DialogTitle>
          <button className="grid size-12 place-items-center" aria-label="Close" onClick={onClose}>
            <X size={28} aria-hidden />
          </button>
        </div>
        <div className="grid min-h-0 flex-1 grid-cols-3 gap-4 portrait:grid-cols-1">
          <Picture words="now" cell={cells.front} />
          <Picture words={weeks ? `${weeks} weeks after` : 'finished'} cell={cells.front} cut />
          <Picture words="from the side" cell={cells.side} cut />
        </div>
        <label className="mx-auto flex w-full max-w-3xl items-center gap-4 text-lg">
          <span className="w-40 text-right">today</span>
          <input
            type="range"
            min={0}
            max={MOST_WEEKS}
            step={1}
            value={weeks}
            onChange={(event) => setWeeks(Number(event.target.value))}
            className="tape-slider h-10 flex-1"
            aria-label="Weeks ahead"
          />
          <output className="w-64 text-xl whitespace-nowrap font-bold">
            {weeks ? `in ${weeks} ${weeks === 1 ? 'week' : 'weeks'} · ${dayIn(weeks)}` : 'on the day'}
          </output>
        </label>
      </DialogPanel>
    </Dialog>
  )
}

/** The photo, whole or only as far as the outline leaves hair; without a photo the lines alone. */
function Picture({ words, cell, cut = false }: { words: string; cell: Cell; cut?: boolean }) {
  const clip = `clip-${words.replaceAll(' ', '-')}-${cell.name}`
  const { photo } = cell
  return (
    <figure className="flex min-h-0 flex-col items-center gap-1">
      <svg viewBox={viewBox(cell.box)} className="min-h-0 w-full flex-1" role="img" aria-label={words}>
        {photo ? (
          <g transform={photo.at.transform}>
            <clipPath id={`${clip}-dog`}>
              <path d={plainPath(photo.lines.coat)} />
            </clipPath>
            <clipPath id={clip} clipPath={photo.lines.coat.length ? `url(#${clip}-dog)` : undefined}>
              <path d={smoothPath(photo.lines.outline)} />
            </clipPath>
            <image
              href={screenUrl(photo.photo)}
              width={photo.photo.width_px}
              height={photo.photo.height_px}
              clipPath={cut ? `url(#${clip})` : undefined}
            />
            {cut && (
              <path
                d={smoothPath(photo.lines.outline)}
                fill="none"
                stroke="var(--color-cut)"
                strokeWidth={0.7 * photo.at.pxPerMm}
                strokeOpacity="0.55"
                data-line="owner"
              />
            )}
          </g>
        ) : (
          <path
            d={smoothPath(cut ? cell.drawn.outline : cell.drawn.coat)}
            fill="var(--color-tooth)"
            stroke="var(--color-cut)"
            strokeWidth="1.5"
            data-line="owner"
          />
        )}
      </svg>
      <figcaption className="text-xl font-semibold">{words}</figcaption>
    </figure>
  )
}
