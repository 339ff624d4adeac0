import { ArrowRight, Eye, Scissors } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import type { Dog, View } from '../../api/client'
import { useDog } from '../../app/Visit'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { UndoButtons } from '../../undo/UndoButtons'
import { BeforeAfter } from './BeforeAfter'
import { CheckedPhoto } from './CheckedPhoto'
import { CheckWords } from './CheckWords'
import { Combs } from './Combs'
import { TouchUps } from './TouchUps'
import type { Check } from './checkMachine'
import { useCheck, useCombs, useFinished, useRefine, useTouchUps } from './useCheck'
import { Scroller } from '../../ui/Scroller'

const SLOTS: readonly View[] = ['front', 'left', 'right']
/** Half from a side, cheek and muzzle are seen that hide one another from the front and from the side. */
const EXTRA: readonly View[] = ['three_quarter_left', 'three_quarter_right']

/** After the cut: the finished head against its plan, what to take in, before and after for the owner. */
export function CheckStage() {
  const dog = useDog()
  const check = useCheck(dog)
  const finished = useFinished(dog)
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_26rem] gap-4 p-4 max-[1100px]:grid-cols-[minmax(0,1fr)_22rem] portrait:grid-cols-1 portrait:overflow-auto phone:block phone:space-y-4">
      <h1 className="sr-only">Check of {dog.name}</h1>
      <section
        aria-label="Finished photos"
        className="grid min-h-0 grid-cols-2 grid-rows-[minmax(0,1fr)_minmax(0,1fr)] gap-3 portrait:min-h-[36rem] phone:grid-cols-1 phone:min-h-0 phone:grid-rows-none phone:auto-rows-min"
      >
        {[...SLOTS, ...EXTRA].map((view) => (
          <CheckedPhoto
            key={view}
            dog={dog}
            view={view}
            extra={EXTRA.includes(view)}
            shown={check.data?.photos ?? []}
            sending={finished.sending[view]}
            wrong={finished.wrong[view]}
            onFile={(file) => void finished.add(file, view)}
            onRemove={(id) => void finished.remove(id, view)}
          />
        ))}
      </section>
      {check.data ? (
        <Told key={check.data.touch_ups.map((t) => t.place).join()} dog={dog} check={check.data} />
      ) : (
        <Notice tone={check.failureReason ? 'warn' : 'plain'}>
          {check.failureReason?.message ?? 'Working it out…'}
        </Notice>
      )}
    </main>
  )
}

function Told({ dog, check }: { dog: Dog; check: Check }) {
  const [state, act] = useTouchUps(dog, check)
  const combing = useCombs(dog, check)
  const [owner, setOwner] = useState(false)
  const refine = useRefine(dog)
  const version = check.photos.map((p) => p.id).join('-')
  return (
    <aside className="flex min-h-0 flex-col gap-3" data-waiting={check.waiting}>
      <Scroller
        outer="flex-1 rounded-xl border border-rule bg-sheet overflow-hidden"
        className="flex flex-col gap-4 p-4"
        tabIndex={0}
        aria-label="What the photos tell"
      >
        <div className="flex items-start gap-2">
          <p className="min-w-0 flex-1 text-xl font-bold" role="status" data-check-words>
            {check.waiting > 0 ? 'Looking at the photos…' : check.reason || check.words}
          </p>
          <UndoButtons
            undo={state.past.length ? () => act({ type: 'undo' }) : null}
            redo={state.future.length ? () => act({ type: 'redo' }) : null}
          />
        </div>
        {check.places.length > 0 && (
          <>
            <TouchUps check={check} done={state.done} act={act} comb={combing.comb} />
            <Combs check={check} combing={combing} />
            <CheckWords check={check} />
          </>
        )}
      </Scroller>
      {check.pictures.length > 0 && (
        <Button onClick={() => setOwner(true)}>
          <Eye size={20} aria-hidden /> Show the owner: before and after
        </Button>
      )}
      {check.places.length > 0 && (
        <Button disabled={refine.isPending} onClick={() => refine.mutate()}>
          <Scissors size={20} aria-hidden /> Go over it once more: a short sheet
        </Button>
      )}
      {refine.failureReason && <Notice tone="warn">{refine.failureReason.message}</Notice>}
      <Link
        to={`/dogs/${dog.id}/next`}
        className="inline-flex min-h-14 shrink-0 items-center justify-center gap-2 rounded-lg bg-cut px-5 text-lg font-semibold text-sheet"
      >
        Next time <ArrowRight size={18} aria-hidden />
      </Link>
      {owner && (
        <BeforeAfter dog={dog} views={check.pictures} version={version} onClose={() => setOwner(false)} />
      )}
    </aside>
  )
}
