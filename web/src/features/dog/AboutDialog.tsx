import { useState } from 'react'
import type { Dog } from '../../api/client'
import { askChange, useWished } from '../../outbox/useOutbox'
import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'
import { Select } from '../../ui/Select'
import { useAttempt } from '../../ui/useAttempt'
import { DayField } from '../../shared/DayField'
import { COATS } from '../../shared/coats'

const FIELD = 'h-12 w-full rounded-lg border border-rule bg-paper px-3 text-lg'
const COAT_WORDS = Object.fromEntries(COATS.map((coat) => [coat.id, `${coat.words}: ${coat.hint}`]))

/** Name, breed, coat and birthday. */
export function AboutDialog({ dog, onClose }: { dog: Dog; onClose: () => void }) {
  const kept = useWished(dog, 'about') ?? { name: dog.name, breed: dog.breed, coat: dog.coat, born: dog.born }
  const [about, setAbout] = useState(kept)
  const { attempt, wrong, busy } = useAttempt()
  return (
    <Panel title={`About ${dog.name}`} onClose={onClose}>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault()
          void attempt(() => askChange(dog, 'about', about)).then((done) => done && onClose())
        }}
      >
        <label>
          <span className="mb-1 block font-semibold">Name</span>
          <input
            value={about.name}
            maxLength={80}
            onChange={(event) => setAbout({ ...about, name: event.target.value })}
            className={FIELD}
          />
        </label>
        <label>
          <span className="mb-1 block font-semibold">Breed or cross</span>
          <input
            value={about.breed}
            maxLength={120}
            onChange={(event) => setAbout({ ...about, breed: event.target.value })}
            className={FIELD}
          />
        </label>
        <Select
          label="Coat"
          value={about.coat}
          choices={COAT_WORDS}
          onChange={(coat) => setAbout({ ...about, coat })}
        />
        <div>
          <span className="mb-1 block font-semibold">Born</span>
          <DayField
            years
            label="Born"
            value={about.born ?? ''}
            onChange={(day) => setAbout({ ...about, born: day || null })}
          />
        </div>
        {wrong}
        <div className="flex justify-end gap-3">
          <Button type="button" onClick={onClose}>
            Cancel
          </Button>
          <Button look="firm" type="submit" disabled={busy || !about.name.trim()}>
            Save
          </Button>
        </div>
      </form>
    </Panel>
  )
}
