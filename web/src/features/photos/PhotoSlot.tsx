import { ImagePlus, LoaderCircle, Trash2 } from 'lucide-react'
import { useRef, useState, type DragEvent } from 'react'
import { screenUrl, type Photo, type View } from '../../api/client'
import { Notice } from '../../ui/Notice'
import type { Progress } from './usePhotos'
import { ViewSketch } from './ViewSketch'

type Props = {
  id: View
  words: string
  how: string
  needed: boolean
  photo?: Photo
  progress: Progress
  onFile: (file: File) => void
  onRemove: (photo: Photo) => void
}

const ACCEPT = 'image/jpeg,image/png,image/webp,image/heic,image/heif,.heic,.heif'

/** One place for one photo: says how to take it, takes a dropped or chosen file, tells what was wrong. */
export function PhotoSlot({ id, words, how, needed, photo, progress, onFile, onRemove }: Props) {
  const input = useRef<HTMLInputElement>(null)
  const [over, setOver] = useState(false)
  function drop(event: DragEvent) {
    event.preventDefault()
    setOver(false)
    const file = event.dataTransfer.files[0]
    if (file) onFile(file)
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
      className={`graph relative flex min-h-64 flex-col overflow-hidden rounded-xl border-2 ${
        over ? 'border-missing' : photo ? 'border-rule' : 'border-dashed border-rule'
      }`}
    >
      {photo ? (
        <img
          src={screenUrl(photo)}
          alt={`${words}: ${photo.file_name}`}
          className="absolute inset-0 size-full object-contain"
        />
      ) : (
        <div className="flex flex-1 items-center justify-center gap-6 p-6">
          <ViewSketch view={id} />
          <div className="max-w-56">
            <p className="text-xl font-bold">{words}</p>
            <p className="text-quiet">{how}</p>
            {!needed && <p className="text-sm text-quiet">Not needed, but it helps.</p>}
          </div>
        </div>
      )}
      <div className="relative mt-auto">
        {progress.kind === 'refused' && <Notice tone="warn">{progress.reason}</Notice>}
        <div className="flex items-center gap-2 bg-sheet/90 p-2">
          {photo && <span className="px-2 font-semibold">{words}</span>}
          {progress.kind === 'sending' && (
            <span className="flex items-center gap-2 text-quiet" role="status">
              <LoaderCircle size={18} className="animate-spin" aria-hidden /> {progress.name}
            </span>
          )}
          <button
            className="ml-auto inline-flex min-h-12 items-center gap-2 rounded-lg border border-rule bg-sheet px-4 font-semibold hover:border-ink"
            onClick={() => input.current?.click()}
          >
            <ImagePlus size={18} aria-hidden /> {photo ? 'Another photo' : 'Choose a photo'}
            <span className="sr-only"> for {words}</span>
          </button>
          {photo && (
            <button
              className="grid size-12 place-items-center rounded-lg border border-rule bg-sheet hover:border-ink"
              onClick={() => onRemove(photo)}
              aria-label={`Take away: ${words}`}
            >
              <Trash2 size={18} aria-hidden />
            </button>
          )}
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
            if (file) onFile(file)
          }}
        />
      </div>
    </section>
  )
}
