import { LoaderCircle } from 'lucide-react'
import { Button } from '../../ui/Button'
import { allDone, countIn, refused, waitsForServer, type SortAction, type SortState } from './sortMachine'
import { stateWords, viewWords } from '../../shared/photoWords'

/** How the files dropped at once are doing: how many are in, where they went, which were refused and why. */
export function ComingIn({ state, act }: { state: SortState; act: (action: SortAction) => void }) {
  if (!state.files.length) return null
  const done = allDone(state)
  const bad = refused(state)
  const now = state.files.find((f) => f.state === 'sending')
  const placed = state.files.filter((f) => f.photo && !f.photo.spare)
  return (
    <section
      aria-label="Photos coming in"
      className="rounded-xl border border-rule bg-sheet p-3"
      role="status"
    >
      <div className="flex items-center gap-3">
        {!done && <LoaderCircle size={18} className="animate-spin" aria-hidden />}
        <span className="font-bold" data-coming>
          {countIn(state)} of {state.files.length} in
        </span>
        <div className="h-2 flex-1 overflow-hidden rounded-full border border-rule bg-paper" aria-hidden>
          <div
            className="h-full bg-cut"
            style={{ width: `${(100 * (countIn(state) + bad.length)) / state.files.length}%` }}
          />
        </div>
        <span className="max-w-80 truncate text-quiet">
          {waitsForServer(state)
            ? 'The server does not answer. It is tried again by itself.'
            : (now?.file.name ??
              placed
                .map((f) => f.photo && `${viewWords(f.photo.view)}, ${stateWords(f.photo.state)}`)
                .at(-1))}
        </span>
        <Button onClick={() => act({ type: done ? 'clear' : 'stop' })}>{done ? 'OK' : 'Stop'}</Button>
      </div>
      {bad.map((f) => (
        <p key={f.key} className="mt-1 text-warn" role="alert">
          {f.reason}
        </p>
      ))}
    </section>
  )
}
