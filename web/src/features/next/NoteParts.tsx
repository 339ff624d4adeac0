import { Check, X } from 'lucide-react'
import { told, type NextTime, type NoteAction, type SaidOf } from './nextMachine'

type Props = { next: NextTime; said: SaidOf; act: (action: NoteAction) => void }

const RETURNS: Readonly<Record<string, string>> = {
  wishes: 'comes back on Wishes',
  marks: 'comes back on Marks',
  outline: 'comes back on Outline',
  cut: 'comes back at its step',
}

/** The note filled from what happened: each part kept or dropped by one tap, its words open to change. */
export function NoteParts({ next, said, act }: Props) {
  const parts = told(next, said)
  if (!parts.length) return <p className="text-quiet">Nothing happened that the next visit has to know.</p>
  return (
    <ul className="flex flex-col gap-2" aria-label="Noted from this visit">
      {parts.map((part) => (
        <li
          key={part.id}
          data-part={part.id}
          data-kept={part.kept}
          className={`flex items-stretch gap-1 rounded-lg border ${part.kept ? 'border-rule bg-paper' : 'border-dashed border-rule opacity-70'}`}
        >
          <div className="min-w-0 flex-1 px-3 py-2">
            <textarea
              key={part.words}
              aria-label={`Note: ${part.words}`}
              defaultValue={part.words}
              rows={2}
              maxLength={200}
              disabled={!part.kept}
              onBlur={(event) => {
                if (event.target.value.trim() !== part.words)
                  act({ type: 'word', part: part.id, words: event.target.value })
              }}
              className={`field-sizing-content w-full resize-none bg-transparent ${part.kept ? '' : 'line-through'}`}
            />
            <span className="block text-sm text-quiet">{RETURNS[part.place]}</span>
          </div>
          <button
            className="grid w-12 shrink-0 place-items-center hover:bg-tape/40"
            aria-label={part.kept ? `Leave out: ${part.words}` : `Tell it after all: ${part.words}`}
            onClick={() => act({ type: 'keep', part: part.id, kept: !part.kept })}
          >
            {part.kept ? <X size={20} aria-hidden /> : <Check size={20} aria-hidden />}
          </button>
        </li>
      ))}
    </ul>
  )
}
