import { Radio, RadioGroup } from '@headlessui/react'
import { ArrowRight, Images, Smartphone } from 'lucide-react'
import { useRef, useState, type DragEvent } from 'react'
import { Link, useNavigate } from 'react-router'
import { useDog } from '../../app/Visit'
import type { Photo, State, View } from '../../api/client'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { UndoButtons } from '../../undo/UndoButtons'
import { AskedTray } from './AskedTray'
import { ComingIn } from './ComingIn'
import { PhoneCode } from './PhoneCode'
import { PhotoDesk } from './PhotoDesk'
import { ACCEPT, PhotoSlot } from './PhotoSlot'
import { SpareTray } from './SpareTray'
import { usePhotos } from './usePhotos'
import { useSorting } from './useSorting'
import { STATES, VIEWS } from '../../shared/photoWords'

/** Slots by view and state; drop one on a slot, or any number anywhere: they are sorted by what they show. */
export function PhotosStage() {
  const dog = useDog()
  const navigate = useNavigate()
  const [state, setState] = useState<State>('dry')
  const [open, setOpen] = useState<number | null>(null)
  const [phoning, setPhoning] = useState(false)
  const many = useRef<HTMLInputElement>(null)
  const photos = usePhotos(dog)
  const sorting = useSorting(dog)
  const ready = VIEWS.filter((v) => v.needed).every((v) => photos.inSlot(v.id, 'dry'))
  const all = [...dog.photos, ...dog.spares]
  const opened = all.find((p) => p.id === open)
  const moveTo = (photo: Photo, view: View, to: State) =>
    void photos.move([{ photo, to: { view, state: to, spare: false, maybe: [] } }])
  const toCamera = (view: View) => navigate(`/dogs/${dog.id}/camera?view=${view}&state=${state}`)
  function drop(event: DragEvent) {
    event.preventDefault()
    const files = [...event.dataTransfer.files]
    if (files.length) sorting.act({ type: 'dropped', files, usual: state })
  }
  const count = (s: State) => dog.photos.filter((p) => p.state === s).length
  return (
    <main
      className="flex min-h-0 flex-1 flex-col gap-3 overflow-auto p-4"
      onDragOver={(event) => event.preventDefault()}
      onDrop={drop}
    >
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h1 className="sr-only">Photos of {dog.name}</h1>
        <RadioGroup value={state} onChange={setState} aria-label="State of the coat" className="flex gap-2">
          {STATES.map((s) => (
            <Radio
              key={s.id}
              value={s.id}
              className="min-h-12 cursor-pointer rounded-lg border-2 border-rule bg-sheet px-4 py-1 data-checked:border-ink data-checked:bg-tape data-checked:text-[#17352f]"
            >
              <span className="block font-semibold">
                {s.words} {count(s.id) > 0 && <span className="font-normal">· {count(s.id)}</span>}
              </span>
              <span className="text-sm">{s.hint}</span>
            </Radio>
          ))}
        </RadioGroup>
        <div className="flex items-center gap-3">
          <UndoButtons undo={photos.undo} redo={photos.redo} />
          <Button onClick={() => setPhoning(true)}>
            <Smartphone size={18} aria-hidden /> Phone
          </Button>
          <Button onClick={() => many.current?.click()}>
            <Images size={18} aria-hidden /> Several photos
          </Button>
          <input
            ref={many}
            type="file"
            multiple
            accept={ACCEPT}
            aria-label="Add several photos"
            className="sr-only"
            tabIndex={-1}
            onChange={(event) => {
              const files = [...(event.target.files ?? [])]
              event.target.value = ''
              if (files.length) sorting.act({ type: 'dropped', files, usual: state })
            }}
          />
          {ready && (
            <Link
              to={`/dogs/${dog.id}/marks`}
              className="inline-flex min-h-12 items-center gap-2 rounded-lg bg-cut px-5 font-semibold text-sheet"
            >
              Go on to marks <ArrowRight size={18} aria-hidden />
            </Link>
          )}
        </div>
      </div>
      {photos.wrong && <Notice tone="warn">{photos.wrong}</Notice>}
      <ComingIn state={sorting.state} act={sorting.act} />
      <AskedTray
        photos={dog.spares.filter((p) => p.maybe.length > 0)}
        onUse={(photo, view) => moveTo(photo, view, photo.state)}
        onLeaveOut={(photo) => void photos.remove(photo)}
        onOpen={(photo) => setOpen(photo.id)}
      />
      <div className="grid flex-1 grid-cols-2 gap-3">
        {VIEWS.map((view) => (
          <PhotoSlot
            key={`${view.id}-${state}`}
            {...view}
            photo={photos.inSlot(view.id, state)}
            progress={photos.progress(view.id, state)}
            onFile={(file) => photos.add(file, view.id, state)}
            onRemove={photos.remove}
            onOpen={(photo) => setOpen(photo.id)}
            onCamera={() => toCamera(view.id)}
            onStop={photos.stop}
            onMove={moveTo}
          />
        ))}
      </div>
      <SpareTray
        photos={dog.spares.filter((p) => p.maybe.length === 0)}
        onUse={moveTo}
        onOpen={(photo) => setOpen(photo.id)}
      />
      <p className="flex flex-wrap gap-x-5 text-quiet">
        {!ready && <span>A dry front and a dry left photo are enough. </span>}
        <span>
          Scale card to print:{' '}
          <a
            className="inline-block min-h-6 underline"
            href="/api/scale-card.pdf?paper=a4"
            target="_blank"
            rel="noreferrer"
          >
            A4
          </a>{' '}
          or{' '}
          <a
            className="inline-block min-h-6 underline"
            href="/api/scale-card.pdf?paper=letter"
            target="_blank"
            rel="noreferrer"
          >
            Letter
          </a>
          . Held beside the eye, it gives the size without a calliper.
        </span>
      </p>
      {phoning && <PhoneCode dog={dog} state={state} onClose={() => setPhoning(false)} />}
      {opened && (
        <PhotoDesk
          key={opened.id}
          photo={opened}
          together={all.filter((p) => opened.together.includes(p.id))}
          onMove={moveTo}
          onTurn={(some, to) => void photos.turn(some, to)}
          onClose={() => setOpen(null)}
        />
      )}
    </main>
  )
}
