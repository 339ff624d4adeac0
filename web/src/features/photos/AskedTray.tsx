import { screenUrl, type Photo, type View } from '../../api/client'
import { Button } from '../../ui/Button'
import { viewWords } from '../../shared/photoWords'

type Props = {
  photos: readonly Photo[]
  onUse: (photo: Photo, view: View) => void
  onOpen: (photo: Photo) => void
  onLeaveOut: (photo: Photo) => void
}

/** Photos whose view is not sure: a person says it with one press. */
export function AskedTray({ photos, onUse, onOpen, onLeaveOut }: Props) {
  if (!photos.length) return null
  return (
    <section aria-label="Where does this belong?" className="rounded-xl border-2 border-ink bg-sheet p-3">
      <h2 className="mb-2 font-bold">
        Where does {photos.length > 1 ? 'each of these' : 'this'} belong?{' '}
        <span className="font-normal text-quiet">The picture alone does not say for sure.</span>
      </h2>
      <ul className="flex flex-wrap gap-4">
        {photos.map((photo) => (
          <li key={photo.id} className="flex w-96 max-w-full gap-3" data-asked={photo.id}>
            <button
              onClick={() => onOpen(photo)}
              aria-label={`Open: ${photo.file_name}`}
              className="shrink-0"
            >
              <img
                src={screenUrl(photo)}
                alt={photo.file_name}
                className="h-28 w-36 rounded-lg object-cover"
              />
            </button>
            <div className="grid flex-1 content-start gap-2">
              {photo.maybe.map((view) => (
                <Button key={view} onClick={() => onUse(photo, view)}>
                  {viewWords(view)}
                </Button>
              ))}
              <Button className="text-quiet!" onClick={() => onLeaveOut(photo)}>
                No dog: leave out
              </Button>
            </div>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-sm text-quiet">Another view: press the photo.</p>
    </section>
  )
}
