import { Radio, RadioGroup } from '@headlessui/react'
import { ArrowRight, Undo2 } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import { useDog } from '../../app/Visit'
import type { State, View } from '../../api/client'
import { Button } from '../../ui/Button'
import { PhotoSlot } from './PhotoSlot'
import { usePhotos } from './usePhotos'

const STATES: { id: State; words: string; hint: string }[] = [
  { id: 'dry', words: 'Dry, before', hint: 'combed out: shows the coat' },
  { id: 'wet', words: 'Wet', hint: 'after the bath: shows the head' },
  { id: 'finished', words: 'Finished', hint: 'after the cut' },
]

const VIEWS: { id: View; words: string; how: string; needed: boolean }[] = [
  {
    id: 'front',
    words: 'Front',
    how: 'Nose to the lens, level with the eyes, an arm’s length away.',
    needed: true,
  },
  {
    id: 'left',
    words: 'The dog’s left side',
    how: 'Nose to the left edge, lens level with the eye.',
    needed: true,
  },
  { id: 'right', words: 'The dog’s right side', how: 'Nose to the right edge.', needed: false },
  { id: 'top', words: 'From above', how: 'Nose up the picture.', needed: false },
]

/** Slots by view and state; drop a photo on one or choose it. */
export function PhotosStage() {
  const dog = useDog()
  const [state, setState] = useState<State>('dry')
  const photos = usePhotos(dog)
  const ready = VIEWS.filter((v) => v.needed).every((v) => photos.inSlot(v.id, 'dry'))
  return (
    <main className="flex min-h-0 flex-1 flex-col gap-4 overflow-auto p-5">
      <div className="flex flex-wrap items-center justify-between gap-4">
        <h1 className="sr-only">Photos of {dog.name}</h1>
        <RadioGroup value={state} onChange={setState} aria-label="State of the coat" className="flex gap-2">
          {STATES.map((s) => (
            <Radio
              key={s.id}
              value={s.id}
              className="min-h-12 cursor-pointer rounded-lg border-2 border-rule bg-sheet px-4 py-1 data-checked:border-ink data-checked:bg-tape data-checked:text-[#17352f]"
            >
              <span className="block font-semibold">{s.words}</span>
              <span className="text-sm">{s.hint}</span>
            </Radio>
          ))}
        </RadioGroup>
        <div className="flex items-center gap-3">
          {photos.lastRemoved !== null && (
            <Button onClick={photos.bringBack}>
              <Undo2 size={18} aria-hidden /> Bring the photo back
            </Button>
          )}
          {ready ? (
            <Link
              to={`/dogs/${dog.id}/marks`}
              className="inline-flex min-h-12 items-center gap-2 rounded-lg bg-cut px-5 font-semibold text-sheet"
            >
              Go on to marks <ArrowRight size={18} aria-hidden />
            </Link>
          ) : (
            <p className="text-quiet">A dry front and a dry left photo are enough.</p>
          )}
        </div>
      </div>
      <div className="grid flex-1 grid-cols-2 gap-4">
        {VIEWS.map((view) => (
          <PhotoSlot
            key={`${view.id}-${state}`}
            {...view}
            photo={photos.inSlot(view.id, state)}
            progress={photos.progress(view.id, state)}
            onFile={(file) => photos.add(file, view.id, state)}
            onRemove={photos.remove}
          />
        ))}
      </div>
    </main>
  )
}
