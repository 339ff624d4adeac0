import { CircleCheck, LoaderCircle, Ruler, TriangleAlert, X } from 'lucide-react'
import type { Photo, State, View } from '../../api/client'
import { viewWords } from '../../shared/photoWords'
import { Button } from '../../ui/Button'

type Props = { photo: Photo; onStop: () => void; onMove: (photo: Photo, view: View, state: State) => void }

/** What the machine makes of a photo: how far it is, usable or what is wrong, the scale card. */
export function Looked({ photo, onStop, onMove }: Props) {
  const job = photo.job
  if (job && (job.kind === 'waiting' || job.kind === 'working')) {
    return (
      <div className="text-sm" role="status" data-job={job.kind}>
        <div className="flex items-center gap-2">
          <LoaderCircle size={18} className="shrink-0 animate-spin" aria-hidden />
          <span className="flex-1 leading-tight">{job.words}</span>
          <button
            className="grid size-12 shrink-0 place-items-center"
            onClick={onStop}
            aria-label="Stop checking this photo"
          >
            <X size={18} aria-hidden />
          </button>
        </div>
        <div
          className="h-2 overflow-hidden rounded-full border border-rule bg-paper"
          role="progressbar"
          aria-label="Checking the photo"
          aria-valuenow={Math.round(job.share * 100)}
        >
          <div className="h-full bg-cut" style={{ width: `${job.share * 100}%` }} />
        </div>
      </div>
    )
  }
  if (job)
    return <Finding message={job.kind === 'stopped' ? 'Stopped. It can be checked again.' : job.words} />
  if (!photo.looked) return null
  return (
    <>
      {photo.findings.map((f) => (
        <div key={f.code}>
          <Finding message={withoutSlot(f.message)} code={f.code} />
          <MoveTo photo={photo} view={f.view} onMove={onMove} />
        </div>
      ))}
      <p className="grid gap-0.5 text-sm">
        {photo.findings.length === 0 && (
          <span className="flex items-center gap-1.5 font-semibold" data-usable={photo.id}>
            <CircleCheck size={17} aria-hidden /> Usable
          </span>
        )}
        {photo.has_edge && <span>{photo.edge_by_hand ? 'Edge drawn by hand' : 'Edge found'}</span>}
        <span className="flex items-center gap-1.5">
          <Ruler size={16} aria-hidden />
          {photo.card_markers ? 'Scale card seen' : 'No scale card'}
        </span>
      </p>
    </>
  )
}

function Finding({ message, code }: { message: string; code?: string }) {
  return (
    <p className="mb-1 flex items-start gap-1.5 text-sm leading-snug text-warn" data-finding={code}>
      <TriangleAlert size={17} className="mt-0.5 shrink-0" aria-hidden />
      {message}
    </p>
  )
}

type MoveToProps = { photo: Photo; view: View | null; onMove: Props['onMove'] }

/** One press moves a photo to the slot it belongs in; what lies there changes places with it. */
export function MoveTo({ photo, view, onMove }: MoveToProps) {
  if (!view) return null
  return (
    <Button
      className="my-1 w-full px-2! text-sm!"
      onClick={() => onMove(photo, view, photo.state)}
      data-move-to={view}
    >
      Move to {viewWords(view).toLowerCase()}
    </Button>
  )
}

/** The slot's name is on the slot already. */
export function withoutSlot(message: string): string {
  const rest = message.slice(message.indexOf(': ') + 2)
  return rest.charAt(0).toUpperCase() + rest.slice(1)
}
