import { useMemo } from 'react'
import { useShortcuts } from '../../ui/useShortcuts'
import type { DrillProps } from './DrillScreen'
import { PracticeHead } from './PracticeHead'
import type { Side, Task } from './practiceMachine'
import { Sheet } from './Sheet'

/** A finished head: which place was left long, and by how much? */
export function LongSide({ answering: { state, act, shown }, top, foot }: DrillProps) {
  const { task, draft } = state
  const placeOf = useMemo(() => Uint8Array.from(atob(task.place_of), (c) => c.charCodeAt(0)), [task.place_of])
  // As he faces you: his right at your left.
  const shownPlaces = [...task.places].sort(
    (a, b) => zoneAt(task, a.zone) - zoneAt(task, b.zone) || (a.side === 'right' ? -1 : 1),
  )
  const said = (zone: string, side: Side) => act({ type: 'place', zone, side })
  useShortcuts((event) => {
    const at = shownPlaces['1234567890'.indexOf(event.key)]
    if (!at || shown) return false
    said(at.zone, at.side)
    return true
  })
  return (
    <Sheet
      top={top}
      foot={foot}
      told={shown !== null}
      head={
        <PracticeHead
          task={{ ...task, view: 'front' }}
          depths="cut"
          state={1}
          room={0.64}
          turns
          truth={Object.entries(shown?.marks_mm ?? {}).map(([id, at]) => ({ id, at }))}
          label="A finished head; arrow keys turn it"
          onVertex={(vertex) => {
            const place = task.places[(placeOf[vertex] ?? 0) - 1]
            if (place && !shown) said(place.zone, place.side)
          }}
        />
      }
    >
      <div className="flex flex-col gap-3">
        <p className="text-2xl font-bold">Which place is long?</p>
        <p className="text-quiet">Turn him. His right is on your left, as he faces you.</p>
        <div role="radiogroup" aria-label="Which place is long?" className="grid grid-cols-2 gap-2">
          {shownPlaces.map(({ zone, side, words }, i) => (
            <button
              key={words}
              role="radio"
              aria-checked={draft.place?.zone === zone && draft.place.side === side}
              data-place={`${zone}/${side}`}
              disabled={shown !== null}
              onClick={() => said(zone, side)}
              className="flex min-h-12 items-center justify-between rounded-lg border border-rule bg-paper px-3 font-semibold aria-checked:border-cut aria-checked:bg-cut aria-checked:text-sheet"
            >
              {words}
              <kbd className="text-sm font-normal opacity-70 max-[1100px]:hidden">{(i + 1) % 10}</kbd>
            </button>
          ))}
        </div>
        {shown?.told.drill === 'long_side' ? (
          <p className="text-xl font-semibold" data-told data-found={shown.told.found}>
            {shown.told.words}
          </p>
        ) : (
          <label className="flex flex-col gap-1">
            <span>
              By about <b className="text-2xl">{draft.mm}</b> mm
            </span>
            <input
              type="range"
              min={1}
              max={12}
              step={1}
              value={draft.mm}
              onChange={(event) => act({ type: 'amount', mm: event.target.valueAsNumber })}
              className="tape-slider h-12"
            />
          </label>
        )}
      </div>
    </Sheet>
  )
}

const zoneAt = (task: Task, zone: string) => task.places.findIndex((place) => place.zone === zone)
