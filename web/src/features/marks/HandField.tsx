import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import { typedMm } from '../../ui/units'
import { ChevronDown, X } from 'lucide-react'
import { useState, type FormEvent } from 'react'

export type Choice = { id: string; words: string }
export type Entry = { id: string; words: string; mm: number }

type Props = {
  title: string
  entries: Entry[]
  choices: Choice[]
  chosen: string | null
  onChoose: (id: string | null) => void
  onAdd: (id: string, mm: number) => Promise<void>
  onRemove: (id: string) => Promise<void>
}

/** Readings in mm taken by hand: what has been read, and a field that moves on to the next by itself. */
export function HandField({ title, entries, choices, chosen, onChoose, onAdd, onRemove }: Props) {
  const [going, setGoing] = useState<readonly Entry[]>([])
  const taken = [...entries, ...going.filter((one) => !entries.some((entry) => entry.id === one.id))]
  const free = choices.filter((choice) => !taken.some((entry) => entry.id === choice.id))
  const [typed, setTyped] = useState('')
  const [wrong, setWrong] = useState('')
  const now = free.find((choice) => choice.id === chosen) ?? free[0]

  async function attempt(change: () => Promise<void>): Promise<boolean> {
    try {
      await change()
      setWrong('')
      return true
    } catch (error) {
      setWrong((error as Error).message)
      return false
    }
  }
  function add(event: FormEvent) {
    event.preventDefault()
    const mm = typedMm(typed)
    if (!now || !typed.trim()) return
    if (mm === null) return setWrong(`A number of millimetres is wanted, “${typed}” is not one.`)
    // Emptied and moved on at once: a calliper may type the next reading before this one is kept.
    setTyped('')
    setGoing((some) => [...some, { id: now.id, words: now.words, mm }])
    onChoose(free[free.indexOf(now) + 1]?.id ?? null)
    void attempt(() => onAdd(now.id, mm)).then((kept) => {
      setGoing((some) => some.filter((one) => one.id !== now.id))
      if (kept) return
      onChoose(now.id)
      setTyped((since) => since || typed)
    })
  }
  return (
    <section aria-label={title}>
      <h2 className="mb-1 font-bold">{title}</h2>
      {taken.map((entry) => (
        <p
          key={entry.id}
          className="flex items-center justify-between"
          data-reading={entry.id}
          data-keeping={going.some((one) => one.id === entry.id)}
        >
          <span>{entry.words}</span>
          <span className="flex items-center text-lg font-bold">
            {going.some((one) => one.id === entry.id) && (
              <span className="mr-2 text-sm font-normal text-quiet">saving…</span>
            )}
            {entry.mm}
            <button
              className="ml-1 grid size-9 place-items-center"
              aria-label={`Remove ${entry.words}`}
              disabled={going.some((one) => one.id === entry.id)}
              onClick={() => attempt(() => onRemove(entry.id))}
            >
              <X size={16} aria-hidden />
            </button>
          </span>
        </p>
      ))}
      {now && (
        <form onSubmit={add} className="flex gap-2">
          <Listbox value={now.id} onChange={onChoose}>
            <ListboxButton
              aria-label={`${title}: what is read`}
              className="flex min-h-12 min-w-0 flex-1 items-center justify-between rounded-lg border border-rule bg-paper px-3 text-left text-[0.95rem]"
            >
              <span className="truncate">{now.words}</span>
              <ChevronDown size={18} className="shrink-0" aria-hidden />
            </ListboxButton>
            <ListboxOptions
              anchor="bottom"
              className="z-20 max-h-80! overflow-auto rounded-lg border border-rule bg-sheet text-ink shadow-lg"
            >
              {free.map((choice) => (
                <ListboxOption
                  key={choice.id}
                  value={choice.id}
                  className="min-h-12 cursor-pointer px-4 py-3 data-focus:bg-tape/50"
                >
                  {choice.words}
                </ListboxOption>
              ))}
            </ListboxOptions>
          </Listbox>
          <input
            inputMode="decimal"
            data-reading-field
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            aria-label={`${now.words}, mm`}
            placeholder="mm"
            className="h-12 w-20 rounded-lg border border-rule bg-paper px-2 text-center text-lg font-bold"
          />
        </form>
      )}
      {wrong && (
        <p role="alert" className="mt-2 text-warn">
          {wrong}
        </p>
      )}
    </section>
  )
}
