import { NotebookPen } from 'lucide-react'
import type { Dog, Schemas } from '../api/client'

type Part = Schemas['NotePart']

/** What the last visit noted for this place; nothing where it noted nothing. */
export function FromLast({ parts, className = '' }: { parts: readonly Part[]; className?: string }) {
  if (!parts.length) return null
  return (
    <ul aria-label="Noted last time" className={`border-l-4 border-tape pl-3 ${className}`}>
      {parts.map((part) => (
        <li key={part.id} data-from-last={part.id} className="flex gap-2">
          <NotebookPen size={18} className="mt-1 shrink-0 text-quiet" aria-hidden /> {part.words}
        </li>
      ))}
    </ul>
  )
}

export const partsFor = (dog: Dog, place: Part['place']) =>
  dog.from_last.filter((part) => part.place === place)
