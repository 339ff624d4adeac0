import { screenUrl, type Photo, type State, type View } from '../../api/client'
import { stateWords, STATES, VIEWS, viewWords } from '../../shared/photoWords'

type Props = {
  photos: readonly Photo[]
  onUse: (photo: Photo, view: View, state: State) => void
  onOpen: (photo: Photo) => void
}

/** Photos kept beside the slots: each may take a slot's place, which then comes here. */
export function SpareTray({ photos, onUse, onOpen }: Props) {
  if (!photos.length) return null
  return (
    <section aria-label="Unused photos" className="rounded-xl border border-rule bg-sheet p-3">
      <h2 className="mb-2 font-bold">
        Unused photos <span className="font-normal text-quiet">({photos.length}) their slots were taken</span>
      </h2>
      <ul className="flex gap-3 overflow-x-auto pb-1">
        {photos.map((photo) => (
          <li key={photo.id} className="w-44 shrink-0" data-spare={photo.id}>
            <button
              onClick={() => onOpen(photo)}
              aria-label={`Open: ${photo.file_name}`}
              className="block w-full"
            >
              <img
                src={screenUrl(photo)}
                alt={`${viewWords(photo.view)}, ${stateWords(photo.state)}: ${photo.file_name}`}
                className="h-24 w-full rounded-lg object-cover"
              />
            </button>
            <select
              aria-label={`Use ${photo.file_name} as`}
              className="mt-1 h-12 w-full rounded-lg border border-rule bg-sheet px-2 text-sm"
              value=""
              onChange={(event) => {
                const [view, state] = event.target.value.split('/') as [View, State]
                onUse(photo, view, state)
              }}
            >
              <option value="" disabled>
                Use as …
              </option>
              {STATES.flatMap((s) =>
                VIEWS.map((v) => (
                  <option key={`${v.id}/${s.id}`} value={`${v.id}/${s.id}`}>
                    {v.words}, {s.words.toLowerCase()}
                  </option>
                )),
              )}
            </select>
          </li>
        ))}
      </ul>
    </section>
  )
}
