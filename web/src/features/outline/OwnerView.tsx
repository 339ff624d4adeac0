import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react'
import { Download, Printer, X } from 'lucide-react'
import { useState } from 'react'
import type { Dog, Outline } from '../../api/client'
import { viewBox } from '../../sheet/level'
import { smoothPath } from '../../sheet/lines'
import { BlobImage } from '../../ui/BlobImage'
import { useLater } from '../../ui/useLater'
import type { Setting } from './outlineMachine'
import { cellsOf, type Cell } from './sheetCells'
import { useAhead } from './useOutlines'
import { useComing, useOwnerPicture, usePage, type PictureSide } from './useOwnerPicture'
import { dayIn } from './words'

type Props = { dog: Dog; drawing: Outline; setting: Setting; onClose: () => void }

const MOST_WEEKS = 10
const SETTLED_MS = 150
const BUTTON = 'grid size-12 place-items-center rounded-lg hover:bg-tape/40 print:hidden'

const after = (weeks: number) =>
  weeks ? `${weeks} ${weeks === 1 ? 'week' : 'weeks'} after` : 'after the cut'

/** What the owner looks at: the dog as it is and as it will be, some weeks ahead if asked, and what shows then. */
export function OwnerView({ dog, drawing, setting, onClose }: Props) {
  const [weeks, setWeeks] = useState(0)
  const [side, setSide] = useState<PictureSide>('front')
  const asked = useLater(weeks, SETTLED_MS)
  const cell = cellsOf(drawing, dog.photos)[side]
  const page = usePage(dog, setting)
  return (
    <Dialog open onClose={onClose} className="fixed inset-0 z-30">
      <DialogPanel className="flex size-full flex-col gap-3 bg-paper p-6 phone:gap-2 phone:p-3" data-owner>
        <div className="flex items-center gap-2 phone:flex-wrap phone:gap-0">
          <DialogTitle className="min-w-0 flex-1 text-4xl phone:order-first phone:basis-[calc(100%-3rem)] phone:text-3xl font-bold tracking-tight">
            {dog.name} <span className="text-2xl font-normal text-quiet">{drawing.called}</span>
          </DialogTitle>
          <button
            className="min-h-12 rounded-lg px-3 text-lg underline phone:mr-auto phone:pl-0 print:hidden"
            onClick={() => setSide(side === 'front' ? 'side' : 'front')}
          >
            {side === 'front' ? 'from the side' : 'from the front'}
          </button>
          {cell.photo && (
            <button
              className={BUTTON}
              aria-label="Save as a picture"
              aria-busy={page.pending}
              onClick={() => page.pending || page.save(asked)}
            >
              <Download size={24} aria-hidden />
            </button>
          )}
          <button className={BUTTON} aria-label="Print" onClick={() => window.print()}>
            <Printer size={24} aria-hidden />
          </button>
          <button className={`${BUTTON} phone:order-first`} aria-label="Close" onClick={onClose}>
            <X size={28} aria-hidden />
          </button>
        </div>
        {page.trouble && <p role="alert">{page.trouble}</p>}
        <div className="grid min-h-0 flex-1 grid-cols-2 gap-4 portrait:grid-cols-1 portrait:grid-rows-2 print:grid-cols-2 print:grid-rows-1">
          {cell.photo ? (
            <>
              <Pictured dog={dog} setting={setting} side={side} words="now" cut={false} weeks={0} />
              <Pictured dog={dog} setting={setting} side={side} words={after(asked)} cut weeks={asked} />
            </>
          ) : (
            <>
              <Drawn words="now" cell={cell} />
              <DrawnAhead dog={dog} setting={setting} side={side} cell={cell} weeks={asked} />
            </>
          )}
        </div>
        <Weeks dog={dog} setting={setting} weeks={weeks} onWeeks={setWeeks} />
      </DialogPanel>
    </Dialog>
  )
}

type PicturedProps = {
  dog: Dog
  setting: Setting
  side: PictureSide
  words: string
  cut: boolean
  weeks: number
}

/** The dog's own photo, as it is or with its coat taken in. */
function Pictured({ dog, setting, side, words, cut, weeks }: PicturedProps) {
  const { picture, trouble, behind } = useOwnerPicture(dog, setting, side, cut, weeks)
  return (
    <figure className="flex min-h-0 flex-col items-center gap-1" aria-busy={behind}>
      {picture ? (
        <BlobImage
          blob={picture}
          alt={`${dog.name} ${words}`}
          className="min-h-0 flex-1 rounded-lg object-contain"
        />
      ) : (
        <p className="m-auto text-quiet" role={trouble ? 'alert' : 'status'}>
          {trouble ?? 'Drawing…'}
        </p>
      )}
      <figcaption className="text-xl font-semibold">{words}</figcaption>
    </figure>
  )
}

/** Without a photo of this side: the outline alone. */
function Drawn({ words, cell, cut = false }: { words: string; cell: Cell; cut?: boolean }) {
  return (
    <figure className="flex min-h-0 flex-col items-center gap-1">
      <svg viewBox={viewBox(cell.box)} className="min-h-0 w-full flex-1" role="img" aria-label={words}>
        <path
          d={smoothPath(cut ? cell.drawn.outline : cell.drawn.coat)}
          fill="var(--color-tooth)"
          stroke="var(--color-cut)"
          strokeWidth="1.5"
          data-line="owner"
        />
      </svg>
      <figcaption className="text-xl font-semibold">{words}</figcaption>
    </figure>
  )
}

type AheadProps = { dog: Dog; setting: Setting; side: PictureSide; cell: Cell; weeks: number }

function DrawnAhead({ dog, setting, side, cell, weeks }: AheadProps) {
  const ahead = useAhead(dog, setting, weeks)
  const shown = ahead.data ? cellsOf(ahead.data, dog.photos)[side] : cell
  return <Drawn words={after(weeks)} cell={{ ...shown, box: cell.box }} cut />
}

type WeeksProps = { dog: Dog; setting: Setting; weeks: number; onWeeks: (weeks: number) => void }

/** Weeks ahead on one strip, with what shows by then. */
function Weeks({ dog, setting, weeks, onWeeks }: WeeksProps) {
  const coming = useComing(dog, setting).filter((event) => event.low <= MOST_WEEKS)
  const showing = coming.filter((event) => event.weeks <= weeks)
  const next = coming.find((event) => event.weeks > weeks)
  return (
    <div className="mx-auto w-full max-w-4xl">
      <label className="flex items-center gap-4 text-lg phone:flex-col phone:items-stretch phone:gap-0 print:hidden">
        <span className="w-32 text-right phone:hidden">on the day</span>
        <span className="relative flex-1">
          <input
            type="range"
            min={0}
            max={MOST_WEEKS}
            step={1}
            value={weeks}
            onChange={(event) => onWeeks(Number(event.target.value))}
            className="tape-slider h-10 w-full"
            aria-label="Weeks ahead"
          />
          {coming.map((event) => (
            <i
              key={event.id}
              className="pointer-events-none absolute bottom-0 h-1.5 rounded-full bg-off/70"
              style={{
                left: `${(100 * event.low) / MOST_WEEKS}%`,
                width: `${(100 * (Math.min(event.high, MOST_WEEKS) - event.low)) / MOST_WEEKS}%`,
              }}
              aria-hidden
            />
          ))}
        </span>
        <output className="w-64 text-xl font-bold whitespace-nowrap phone:w-full phone:text-center">
          {weeks ? `in ${weeks} ${weeks === 1 ? 'week' : 'weeks'} · ${dayIn(weeks)}` : 'on the day'}
        </output>
      </label>
      <p className="min-h-7 text-center text-lg" data-coming>
        {showing.length > 0 && <b className="mr-3">{showing.map((event) => event.words).join(' · ')}</b>}
        {next && (
          <span className="text-quiet">
            from week {Math.max(Math.floor(next.low), 1)} to {Math.ceil(next.high)}: {next.words}
          </span>
        )}
      </p>
    </div>
  )
}
