import { Camera, ImagePlus, LoaderCircle, Maximize2, Trash2 } from 'lucide-react'
import { useRef, useState, type DragEvent } from 'react'
import { screenUrl, type Photo, type State, type View } from '../../api/client'
import { Notice } from '../../ui/Notice'
import { Looked } from './Looked'
import type { Progress } from './usePhotos'
import { ViewSketch } from '../../shared/ViewSketch'
import type { ViewWords } from '../../shared/photoWords'

type Props = ViewWords & {
  photo?: Photo
  progress: Progress
  onFile: (file: File) => void
  onRemove: (photo: Photo) => void
  onOpen: (photo: Photo) => void
  onCamera: () => void
  onStop: (photo: Photo) => void
  onMove: (photo: Photo, view: View, state: State) => void
}

export const ACCEPT = 'image/jpeg,image/png,image/webp,image/heic,image/heif,.heic,.heif'
const SQUARE =
  'grid min-h-12 items-center justify-items-center rounded-lg border border-rule bg-sheet hover:border-ink'

/** One place for one photo: says how to take it, takes a dropped or chosen file, tells what was wrong. */
export function PhotoSlot(props: Props) {
  const { id, words, how, needed, photo, progress } = props
  const input = useRef<HTMLInputElement>(null)
  const [over, setOver] = useState(false)
  function drop(event: DragEvent) {
    if (event.dataTransfer.files.length !== 1) return
    event.preventDefault()
    event.stopPropagation()
    setOver(false)
    const file = event.dataTransfer.files[0]
    if (file) props.onFile(file)
  }
  return (
    <section
      aria-label={words}
      data-slot={id}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      className={`graph flex min-h-60 overflow-hidden rounded-xl border-2 max-[900px]:flex-col ${
        over ? 'border-missing' : photo ? 'border-rule' : 'border-dashed border-rule'
      }`}
    >
      {photo ? (
        <button
          className="relative min-h-0 min-w-0 flex-1 cursor-zoom-in"
          onClick={() => props.onOpen(photo)}
          aria-label={`Open ${words}: edge, findings, slot`}
        >
          <img
            src={screenUrl(photo)}
            alt={`${words}: ${photo.file_name}`}
            className="absolute inset-0 size-full object-contain"
          />
        </button>
      ) : (
        <div className="flex flex-1 items-center justify-center gap-4 p-4">
          <ViewSketch view={id} />
          <div className="max-w-52">
            <p className="text-xl font-bold">{words}</p>
            <p className="text-quiet">{how}</p>
            {!needed && <p className="text-sm text-quiet">Not needed, but it helps.</p>}
          </div>
        </div>
      )}
      <div className="relative flex w-50 shrink-0 flex-col gap-2 bg-sheet p-2.5 max-[900px]:w-full max-[900px]:bg-sheet">
        {photo && <p className="text-lg leading-tight font-bold">{words}</p>}
        <div className="min-h-0 flex-1 overflow-y-auto">
          {progress.kind === 'refused' && <Notice tone="warn">{progress.reason}</Notice>}
          {progress.kind === 'sending' && (
            <p className="flex items-center gap-2 text-quiet" role="status">
              <LoaderCircle size={18} className="shrink-0 animate-spin" aria-hidden />
              <span className="truncate">{progress.name}</span>
            </p>
          )}
          {photo && <Looked photo={photo} onStop={() => props.onStop(photo)} onMove={props.onMove} />}
        </div>
        <div className="grid grid-cols-3 gap-1.5">
          {photo && (
            <button className={SQUARE} onClick={() => props.onOpen(photo)} aria-label={`Open: ${words}`}>
              <Maximize2 size={18} aria-hidden />
            </button>
          )}
          <button
            className={photo ? SQUARE : `${SQUARE} col-span-3 flex! justify-center gap-2`}
            onClick={props.onCamera}
            aria-label={`Take with the camera: ${words}`}
          >
            <Camera size={18} aria-hidden /> {!photo && <span className="font-semibold">Camera</span>}
          </button>
          {photo && (
            <button className={SQUARE} onClick={() => props.onRemove(photo)} aria-label={`Remove: ${words}`}>
              <Trash2 size={18} aria-hidden />
            </button>
          )}
          <button
            className="col-span-3 inline-flex min-h-12 items-center justify-center gap-2 rounded-lg border border-rule bg-sheet px-2 font-semibold hover:border-ink"
            onClick={() => input.current?.click()}
          >
            <ImagePlus size={18} aria-hidden /> {photo ? 'Another photo' : 'Choose a photo'}
            <span className="sr-only"> for {words}</span>
          </button>
        </div>
        <input
          ref={input}
          type="file"
          accept={ACCEPT}
          aria-label={`File for ${words}`}
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const file = event.target.files?.[0]
            event.target.value = ''
            if (file) props.onFile(file)
          }}
        />
      </div>
    </section>
  )
}
