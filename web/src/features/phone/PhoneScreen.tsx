import { Camera, Check, LoaderCircle, RotateCcw, TriangleAlert } from 'lucide-react'
import { useParams } from 'react-router'
import { VIEWS, viewWords } from '../../shared/photoWords'
import { StatePick } from '../../shared/StatePick'
import { ViewSketch } from '../../shared/ViewSketch'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { doing, inState, nextView, type Doing, type Shown } from './phoneMachine'
import { usePhone } from './usePhone'

/** A phone in one hand: the view wanted, one big button, what became of the photos before. */
export function PhoneScreen() {
  const phone = usePhone(useParams().token ?? '')
  const { now } = phone
  if (now.over && !now.file) return <Over reason={now.reason} />
  if (!now.shown) return <Notice>{now.reason || 'Asking the salon what is wanted…'}</Notice>
  const view = nextView(now)
  const all = now.shown.view === null && now.pointed === null
  return (
    <main
      className="graph flex h-full flex-col gap-3 overflow-auto p-4"
      data-wanted={now.shown.view ?? 'none'}
    >
      <h1 className="text-2xl leading-tight font-bold">{now.shown.dog}</h1>
      <StatePick value={inState(now)} onChange={(state) => void phone.turn(state)} />
      <section
        aria-label="Taken next"
        className="grid flex-1 content-center justify-items-center gap-2 text-center [&_svg]:size-44"
      >
        {all ? (
          <>
            <Check strokeWidth={2.5} aria-hidden />
            <p className="text-2xl font-bold">All are in.</p>
            <p className="text-quiet">Press one below to take it again, or go on at the tablet.</p>
          </>
        ) : (
          <>
            <ViewSketch view={view} />
            <p className="text-2xl font-bold">{viewWords(view)}</p>
            <p className="max-w-72 text-lg text-quiet">{VIEWS.find((v) => v.id === view)?.how}</p>
          </>
        )}
      </section>
      {now.reason && (
        <p role="alert" className="text-warn">
          {now.reason}
        </p>
      )}
      {now.file && !now.sending ? (
        <Button look="firm" className="min-h-18 text-xl" onClick={phone.again}>
          <RotateCcw size={24} aria-hidden /> Send it again
        </Button>
      ) : (
        <label
          className={`flex min-h-18 items-center justify-center gap-3 rounded-xl border-2 border-ink bg-tape px-4 text-xl font-bold text-[#17352f] focus-within:outline-3 focus-within:outline-missing ${now.sending ? 'opacity-60' : ''}`}
        >
          {now.sending ? (
            <LoaderCircle size={26} className="animate-spin" aria-hidden />
          ) : (
            <Camera size={26} aria-hidden />
          )}
          <span role="status">{now.sending ? 'On its way…' : `Take ${viewWords(view).toLowerCase()}`}</span>
          <input
            type="file"
            accept="image/*"
            capture="environment"
            disabled={now.sending}
            aria-label={`Take ${viewWords(view).toLowerCase()}`}
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0]
              event.target.value = ''
              if (file) phone.take(file)
            }}
          />
        </label>
      )}
      <div className="grid grid-cols-4 gap-1.5" role="group" aria-label="Photos of this visit">
        {now.shown.views.map((one) => (
          <Taken key={one.view} one={one} next={!all && one.view === view} onPoint={phone.point} />
        ))}
      </div>
      <Wrong views={now.shown.views} />
    </main>
  )
}

const WORDS: Record<Doing, string> = {
  missing: 'not yet',
  looking: 'is being looked at',
  fine: 'is in',
  again: 'better again',
}

type TakenProps = {
  one: Shown['views'][number]
  next: boolean
  onPoint: (view: TakenProps['one']['view']) => void
}

function Taken({ one, next, onPoint }: TakenProps) {
  const kind = doing(one)
  return (
    <button
      onClick={() => onPoint(one.view)}
      aria-label={`${viewWords(one.view)}: ${WORDS[kind]}`}
      aria-pressed={next}
      data-doing={kind}
      className={`relative grid aspect-square place-items-center rounded-lg border-2 bg-sheet ${next ? 'border-ink' : 'border-rule'} [&>svg:first-child]:size-14`}
    >
      <ViewSketch view={one.view} />
      <span className="absolute top-1 right-1">
        {kind === 'fine' && <Check size={20} strokeWidth={3} aria-hidden />}
        {kind === 'again' && <TriangleAlert size={20} className="text-warn" aria-hidden />}
        {kind === 'looking' && <LoaderCircle size={20} className="animate-spin" aria-hidden />}
      </span>
    </button>
  )
}

/** What is the matter with a photo, while the dog still stands there. */
function Wrong({ views }: { views: Shown['views'] }) {
  const wrong = views.flatMap((one) => one.photo?.findings.map((f) => ({ ...f, of: one.view })) ?? [])
  return (
    <ul className="grid gap-1 empty:hidden">
      {wrong.map((f) => (
        <li key={`${f.of} ${f.code}`} className="text-warn">
          {f.message}
        </li>
      ))}
    </ul>
  )
}

function Over({ reason }: { reason: string }) {
  return (
    <main className="graph grid h-full place-items-center p-6 text-center">
      <div>
        <h1 className="mb-2 text-2xl font-bold">Scan again</h1>
        <p className="text-lg" role="alert">
          {reason}
        </p>
      </div>
    </main>
  )
}
