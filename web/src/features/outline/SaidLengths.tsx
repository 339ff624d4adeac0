import { X } from 'lucide-react'
import { useState } from 'react'
import type { Wishes } from '../../api/client'
import { useCutGuide, useKit } from '../../shared/queries'
import { zoneWords } from '../../shared/words'
import { Choices } from '../../ui/Choices'

const ENDS = { ring: 'the ring', occiput: 'the occiput', shoulder: 'the shoulders' } as const
const FIELD = 'min-h-11 rounded-lg border border-rule bg-sheet px-2'

type Props = { wishes: Wishes; change: (part: Partial<Wishes>) => void }

/** Lengths that were said for a place, and the body that the head is joined to. */
export function SaidLengths({ wishes, change }: Props) {
  const lengths = wishes.lengths ?? {}
  const without = (zone: string) =>
    change({ lengths: Object.fromEntries(Object.entries(lengths).filter(([key]) => key !== zone)) })
  return (
    <section aria-label="Lengths said" className="mt-3 flex flex-col gap-2">
      <h3 className="border-b border-rule text-sm font-bold text-quiet">Lengths said, mm</h3>
      {Object.entries(lengths).map(([zone, mm]) => (
        <p key={zone} className="flex items-center justify-between">
          <span>
            <b className="first-letter:uppercase">{zoneWords(zone)}</b> {mm}
          </span>
          <button
            aria-label={`Take back ${zoneWords(zone)}`}
            className="grid size-11 place-items-center"
            onClick={() => without(zone)}
          >
            <X size={18} aria-hidden />
          </button>
        </p>
      ))}
      <Say onSay={(zone, mm) => change({ lengths: { ...lengths, [zone]: mm } })} />
      <label className="flex items-center justify-between gap-2">
        <span>Body clipped to</span>
        <input
          key={wishes.body_mm ?? ''}
          type="number"
          min={0.25}
          max={120}
          step="any"
          defaultValue={wishes.body_mm ?? ''}
          placeholder="mm"
          className={`${FIELD} w-24`}
          onBlur={(event) => change({ body_mm: event.target.value ? Number(event.target.value) : null })}
        />
      </label>
      {wishes.body_mm != null && (
        <>
          <Choices
            label="Up to"
            value={wishes.body_ends ?? 'ring'}
            choices={ENDS}
            onChange={(body_ends) => change({ body_ends })}
          />
          <AsBody said={wishes.as_body ?? []} onSay={(as_body) => change({ as_body })} />
        </>
      )}
    </section>
  )
}

type Place = NonNullable<Wishes['as_body']>[number]
const AS_BODY: readonly (readonly [Place, string])[] = [
  ['throat', 'Throat'],
  ['ear_edges', 'Ear edges'],
]

/** What else is as short as the body. */
function AsBody({ said, onSay }: { said: readonly Place[]; onSay: (said: Place[]) => void }) {
  return (
    <div role="group" aria-label="As short as the body" className="flex flex-wrap items-center gap-1.5">
      <span className="w-full text-sm text-quiet">As short as the body</span>
      {AS_BODY.map(([place, words]) => (
        <button
          key={place}
          aria-pressed={said.includes(place)}
          className="min-h-11 rounded-full border border-rule bg-sheet px-4 aria-pressed:border-ink aria-pressed:bg-tape aria-pressed:font-semibold aria-pressed:text-[#17352f]"
          onClick={() => onSay(said.includes(place) ? said.filter((one) => one !== place) : [...said, place])}
        >
          {words}
        </button>
      ))}
    </div>
  )
}

function Say({ onSay }: { onSay: (zone: string, mm: number) => void }) {
  const places = useCutGuide().data?.sayable ?? []
  const [zone, setZone] = useState('crown')
  const [mm, setMm] = useState('')
  const guards = (useKit().data?.value.tools ?? []).filter((tool) => tool.kind === 'guard')
  return (
    <form
      className="flex flex-wrap gap-1.5"
      onSubmit={(event) => {
        event.preventDefault()
        if (mm) onSay(zone, Number(mm))
        setMm('')
      }}
    >
      <select
        aria-label="Place"
        className={`${FIELD} min-w-0 flex-1`}
        value={zone}
        onChange={(event) => setZone(event.target.value)}
      >
        {places.map((place) => (
          <option key={place.code} value={place.code}>
            {place.words}
          </option>
        ))}
      </select>
      <input
        aria-label="Length, mm"
        type="number"
        min={3}
        max={120}
        step="any"
        placeholder="mm"
        className={`${FIELD} w-20`}
        value={mm}
        onChange={(event) => setMm(event.target.value)}
      />
      <button className="min-h-11 rounded-lg border border-ink bg-sheet px-3 font-semibold">Say</button>
      <select
        aria-label="By one of your guards"
        className={`${FIELD} w-full`}
        value={guards.find((guard) => String(guard.leaves_mm) === mm)?.id ?? ''}
        onChange={(event) => setMm(String(guards.find((g) => g.id === event.target.value)?.leaves_mm ?? ''))}
      >
        <option value="">or by one of your guards</option>
        {guards.map((guard) => (
          <option key={guard.id} value={guard.id}>
            {guard.name}
          </option>
        ))}
      </select>
    </form>
  )
}
