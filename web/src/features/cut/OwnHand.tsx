import type { Dog } from '../../api/client'
import type { Step } from './cutMachine'
import { cutsPlace } from './partsAt'
import { useOwnHand } from './useOwnHand'

/** What this stylist's own hand usually leaves at the step's places, said once and kindly; nobody else sees it. */
export function OwnHand({ dog, step }: { dog: Dog; step: Step }) {
  const { hand, stop } = useOwnHand(dog)
  const notes = hand?.notes.filter((note) => cutsPlace(step, note.zone, note.side)) ?? []
  if (!hand || !notes.length) return null
  return (
    <div className="border-l-4 border-brass pl-3 text-[1.125em]" data-own-hand>
      {notes.map((note) => (
        <p key={`${note.zone}/${note.side}`}>{note.words}. Look twice here.</p>
      ))}
      <button className="min-h-11 text-[1em] underline" onClick={() => stop(hand.stylist)}>
        Do not tell me
      </button>
    </div>
  )
}
