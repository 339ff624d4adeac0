import { Camera, ImagePlus, LoaderCircle, Trash2 } from 'lucide-react'
import { useRef, useState } from 'react'
import { Link } from 'react-router'
import { screenUrl, type Dog, type View } from '../../api/client'
import { plainPath, smoothPath } from '../../sheet/lines'
import { viewWords } from '../../shared/photoWords'
import { ViewSketch } from '../../shared/ViewSketch'
import { drawnTicks, type Check } from './checkMachine'

type Props = {
  dog: Dog
  view: View
  shown: Check['photos']
  sending: string | undefined
  wrong: string | undefined
  onFile: (file: File) => void
  onRemove: (id: number) => void
  /** One that may be left out: a line while there is none. */
  extra?: boolean
}

const ACCEPT = 'image/jpeg,image/png,image/webp,image/heic,image/heif,.heic,.heif'
const LEAST_MM = 1.5
const ACTION =
  'inline-flex min-h-12 flex-1 items-center justify-center gap-2 rounded-lg border border-rule bg-sheet px-3 font-semibold hover:border-ink'

/** One finished photo with the plan over it: what stands out as coral ticks, what is short as blue dots. */
export function CheckedPhoto({ dog, view, shown, sending, wrong, onFile, onRemove, extra = false }: Props) {
  const input = useRef<HTMLInputElement>(null)
  const [over, setOver] = useState(false)
  const photo = dog.photos.find((p) => p.view === view && p.state === 'finished')
  // Nothing that was told of the photo before it is drawn over this one.
  const told = shown.find((one) => one.id === photo?.id)
  const words = viewWords(view)
  const line = extra && !photo
  return (
    <figure
      data-finished={view}
      aria-label={words}
      className={`${view === 'front' ? 'row-span-2 phone:row-span-1 ' : ''}flex min-h-0 min-w-0 flex-col overflow-hidden rounded-xl border-2 bg-sheet ${over ? 'border-missing' : 'border-rule'} ${photo ? '' : 'border-dashed'}`}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault()
        event.stopPropagation()
        setOver(false)
        const file = event.dataTransfer.files[0]
        if (file) onFile(file)
      }}
    >
      <div className={line ? 'hidden' : 'relative min-h-40 flex-1 overflow-hidden phone:min-h-64'}>
        {photo ? (
          <svg
            viewBox={boxOf(told, photo.width_px, photo.height_px)}
            className="absolute inset-0 size-full"
            role="img"
            aria-label={`${words}, finished${told?.outline.length ? ', with the plan over it' : ''}`}
          >
            <image href={screenUrl(photo)} width={photo.width_px} height={photo.height_px} />
            {told && <Drawn told={told} />}
          </svg>
        ) : (
          <div className="flex size-full flex-col items-center justify-center gap-2 p-3 text-center">
            <ViewSketch view={view} />
            <p className="text-lg font-bold">{words}</p>
          </div>
        )}
        {photo && !photo.looked && (
          <p className="absolute inset-x-0 bottom-0 bg-sheet/90 p-2 font-semibold" role="status">
            looking at it…
          </p>
        )}
        {told?.why_not && (
          <p className="absolute inset-x-0 bottom-0 bg-sheet/95 p-2 text-warn" role="alert">
            {told.why_not}
          </p>
        )}
      </div>
      <figcaption className="flex shrink-0 flex-wrap items-center gap-2 p-2">
        {(photo || line) && <span className="mr-auto truncate font-bold">{words}</span>}
        {sending && (
          <span className="flex items-center gap-2 text-sm text-quiet" role="status">
            <LoaderCircle size={16} aria-hidden /> {sending}
          </span>
        )}
        {wrong && (
          <p className="w-full text-warn" role="alert">
            {wrong}
          </p>
        )}
        {photo ? (
          <button
            className="grid size-12 place-items-center rounded-lg border border-rule hover:border-ink"
            aria-label={`Remove: ${words}`}
            onClick={() => onRemove(photo.id)}
          >
            <Trash2 size={18} aria-hidden />
          </button>
        ) : (
          <Link className={ACTION} to={`/dogs/${dog.id}/camera?view=${view}&state=finished`}>
            <Camera size={18} aria-hidden /> Camera <span className="sr-only">: {words}</span>
          </Link>
        )}
        <button
          className={photo ? `${ACTION} flex-none` : ACTION}
          onClick={() => input.current?.click()}
          aria-label={`Choose a photo: ${words}`}
        >
          <ImagePlus size={18} aria-hidden /> {photo ? 'Another' : 'Choose'}
        </button>
        <input
          ref={input}
          type="file"
          accept={ACCEPT}
          className="sr-only"
          tabIndex={-1}
          aria-label={`Finished photo: ${words}`}
          onChange={(event) => {
            const file = event.target.files?.[0]
            event.target.value = ''
            if (file) onFile(file)
          }}
        />
      </figcaption>
    </figure>
  )
}

const ROOM = 0.22

/** The part of a photo round the head, px: its planned outline with some room, else all of it. */
function boxOf(told: Check['photos'][number] | undefined, width: number, height: number): string {
  const line = told?.outline ?? []
  if (!line.length) return `0 0 ${width} ${height}`
  const [xs, ys] = [line.map((p) => p[0]), line.map((p) => p[1])]
  const [left, top] = [Math.min(...xs), Math.min(...ys)]
  const [wide, tall] = [Math.max(...xs) - left, Math.max(...ys) - top]
  const room = ROOM * Math.max(wide, tall)
  return `${left - room} ${top - room} ${wide + 2 * room} ${tall + 2 * room}`
}

function Drawn({ told }: { told: Check['photos'][number] }) {
  const unit = told.width / 1200
  return (
    <g>
      <path
        d={plainPath(told.edge)}
        fill="none"
        stroke="var(--color-coat)"
        strokeWidth={2 * unit}
        strokeDasharray={`${5 * unit} ${4 * unit}`}
      />
      <path d={smoothPath(told.outline)} fill="none" stroke="#fdfaf0" strokeWidth={7 * unit} opacity="0.55" />
      <path
        d={smoothPath(told.outline)}
        fill="none"
        stroke="#14423a"
        strokeWidth={3.5 * unit}
        data-line="outline"
      />
      {drawnTicks(told, LEAST_MM).map((tick, i) =>
        tick.mm > 0 ? (
          <path
            key={i}
            d={`M${tick.planned[0]} ${tick.planned[1]}L${tick.found[0]} ${tick.found[1]}`}
            stroke="var(--color-off)"
            strokeWidth={7 * unit}
            strokeLinecap="round"
            data-long={tick.mm}
          />
        ) : (
          <circle
            key={i}
            cx={tick.planned[0]}
            cy={tick.planned[1]}
            r={5 * unit}
            fill="var(--color-missing)"
            data-short={tick.mm}
          />
        ),
      )}
    </g>
  )
}
