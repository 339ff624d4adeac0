import { useDeferredValue, useMemo, useState, type ReactNode } from 'react'
import type { Dog, Outline } from '../../api/client'
import { DrawnView } from './DrawnView'
import { PhotoView } from './PhotoView'
import { cellsOf, type Cell, type Side } from './sheetCells'
import type { Setting } from './outlineMachine'
import { finishedSurface, useAhead, useTurntable } from './useOutlines'

/** So far ahead the turning head can be taken. */
const AHEAD_WEEKS = 10

export type Enlarged = 'front' | 'side' | 'top' | 'solid' | null
type Props = {
  dog: Dog
  drawing: Outline
  setting: Setting
  moving: boolean
  enlarged: Enlarged
  onEnlarge: (which: Enlarged) => void
  onSet: (id: string, value: number) => void
  onRest: () => void
}

/** The aligned sheet: front, side and top at one scale and level, and the head on a turntable. */
export function HeadSheet({ dog, drawing, setting, moving, enlarged, onEnlarge, onSet, onRest }: Props) {
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
          className="absolute right-3 z-10 h-12 text-sm underline"
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
      className="graph grid min-h-0 flex-1 overflow-hidden rounded-xl border border-rule"
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
        <Frame which="solid" words="on its stand" enlarged={enlarged} onEnlarge={onEnlarge}>
          <Solid dog={dog} drawing={drawing} setting={setting} moving={moving} large={enlarged === 'solid'} />
        </Frame>
      )}
    </div>
  )
}

/** The turning head follows when a slider rests: it is the heaviest to draw. */
type SolidProps = { dog: Dog; drawing: Outline; setting: Setting; moving: boolean; large: boolean }

function Solid({ dog, drawing, setting, moving, large }: SolidProps) {
  const [wanted, setWanted] = useState(false)
  const ahead = useAhead(dog, setting, AHEAD_WEEKS, wanted).data
  const [rested, setRested] = useState(drawing)
  if (!moving && rested !== drawing) setRested(drawing)
  const turntable = useTurntable(dog)
  const later = useDeferredValue(rested)
  if (!turntable) return <p className="m-auto text-quiet">Turning the head…</p>
  const { Turntable, mesh } = turntable
  return (
    <Turntable
      dogName={dog.name}
      mesh={mesh}
      drawing={later}
      ahead={ahead && ahead.family === later.family ? ahead.depths : null}
      weeks={AHEAD_WEEKS}
      onAhead={() => setWanted(true)}
      large={large}
      surface={(ending) => finishedSurface(dog, setting, ending)}
    />
  )
}

type FrameProps = {
  which: Exclude<Enlarged, null>
  words: string
  enlarged: Enlarged
  onEnlarge: Props['onEnlarge']
  children: ReactNode
}

/** One view's place on the sheet: no box of its own, its name takes it closer. */
function Frame({ which, words, enlarged, onEnlarge, children }: FrameProps) {
  const large = enlarged === which
  return (
    <figure className="relative flex min-h-0 min-w-0 overflow-hidden" data-cell={which}>
      {children}
      <figcaption className="absolute top-0 left-5">
        <button
          className="grid min-h-12 place-items-center text-sm"
          aria-label={large ? 'Back to all views' : `Enlarge: ${words}`}
          onClick={() => onEnlarge(large ? null : which)}
        >
          <span className="rounded bg-sheet/85 px-2 py-0.5">
            <b className="font-semibold">{words}</b>
            <span className="ml-2 underline">{large ? 'whole sheet' : 'closer'}</span>
          </span>
        </button>
      </figcaption>
    </figure>
  )
}
