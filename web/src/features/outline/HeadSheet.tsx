import { Maximize2, Minimize2 } from 'lucide-react'
import { useDeferredValue, useMemo, useState, type ReactNode } from 'react'
import type { Dog, Outline } from '../../api/client'
import { DrawnView } from './DrawnView'
import { PhotoView } from './PhotoView'
import { cellsOf, type Cell, type Side } from './sheetCells'
import { useTurntable } from './useOutlines'

export type Enlarged = 'front' | 'side' | 'top' | 'solid' | null
type Props = {
  dog: Dog
  drawing: Outline
  moving: boolean
  enlarged: Enlarged
  onEnlarge: (which: Enlarged) => void
  onSet: (id: string, value: number) => void
  onRest: () => void
}

/** The aligned sheet: front, side and top at one scale and level, and the head on a turntable. */
export function HeadSheet({ dog, drawing, moving, enlarged, onEnlarge, onSet, onRest }: Props) {
  const [shownSide, setShownSide] = useState<Side>('left')
  const cells = useMemo(() => cellsOf(drawing, dog.photos, shownSide), [drawing, dog.photos, shownSide])
  const bothSides = (['left', 'right'] as const).every((view) =>
    dog.photos.some((p) => p.view === view && drawing.photos.some((l) => l.photo_id === p.id)),
  )
  const { front, side, top } = cells
  const wide = (cell: Cell) => cell.box.right - cell.box.left
  const high = (cell: Cell) => cell.box.bottom - cell.box.top
  const view = (cell: Cell) => (
    <Frame key={cell.name} which={cell.name} words={cell.words} enlarged={enlarged} onEnlarge={onEnlarge}>
      {cell.name === 'side' && bothSides && (
        <button
          className="absolute right-12 z-10 h-12 text-sm underline"
          onClick={() => setShownSide(shownSide === 'left' ? 'right' : 'left')}
        >
          <span className="rounded bg-sheet/85 px-2 py-1">
            {shownSide === 'left' ? 'right' : 'left'} side
          </span>
        </button>
      )}
      {cell.photo ? (
        <PhotoView
          dogName={dog.name}
          {...cell.photo}
          frame={cell.box}
          drawing={drawing}
          moving={moving}
          onSet={onSet}
          onRest={onRest}
        />
      ) : (
        <DrawnView dogName={dog.name} cell={cell} drawing={drawing} />
      )}
    </Frame>
  )
  const shown = enlarged === null ? ['front', 'side', 'top', 'solid'] : [enlarged]
  return (
    <div
      className="grid min-h-0 flex-1 gap-2"
      style={
        enlarged
          ? undefined
          : {
              gridTemplateColumns: `${wide(front)}fr ${wide(side)}fr`,
              gridTemplateRows: `${high(front)}fr ${Math.min(high(top), high(front) * 1.15)}fr`,
            }
      }
      data-sheet
    >
      {shown.includes('front') && view(front)}
      {shown.includes('side') && view(side)}
      {shown.includes('top') && view(top)}
      {shown.includes('solid') && (
        <Frame which="solid" words="turntable" enlarged={enlarged} onEnlarge={onEnlarge}>
          <Solid dog={dog} drawing={drawing} moving={moving} />
        </Frame>
      )}
    </div>
  )
}

/** The turning head follows when a slider rests: it is the heaviest to draw. */
function Solid({ dog, drawing, moving }: { dog: Dog; drawing: Outline; moving: boolean }) {
  const [rested, setRested] = useState(drawing)
  if (!moving && rested !== drawing) setRested(drawing)
  const turntable = useTurntable(dog)
  const later = useDeferredValue(rested)
  if (!turntable) return <p className="m-auto text-quiet">Turning the head…</p>
  const { Turntable, mesh } = turntable
  return <Turntable dogName={dog.name} mesh={mesh} drawing={later} />
}

type FrameProps = {
  which: Exclude<Enlarged, null>
  words: string
  enlarged: Enlarged
  onEnlarge: Props['onEnlarge']
  children: ReactNode
}

function Frame({ which, words, enlarged, onEnlarge, children }: FrameProps) {
  const large = enlarged === which
  return (
    <figure
      className="graph relative flex min-h-0 min-w-0 overflow-hidden rounded-xl border border-rule"
      data-cell={which}
    >
      {children}
      <figcaption className="pointer-events-none absolute top-1.5 left-8 rounded bg-sheet/85 px-2 text-sm font-semibold">
        {words}
      </figcaption>
      <button
        className="absolute top-0 right-0 grid size-12 place-items-center text-ink"
        aria-label={large ? 'Back to all views' : `Enlarge: ${words}`}
        onClick={() => onEnlarge(large ? null : which)}
      >
        <span className="grid size-8 place-items-center rounded-md bg-sheet/85">
          {large ? <Minimize2 size={17} aria-hidden /> : <Maximize2 size={17} aria-hidden />}
        </span>
      </button>
    </figure>
  )
}
