import { useState } from 'react'
import type { Dog } from '../../api/client'
import { change, useWished } from '../../outbox/useOutbox'
import { typedMm } from '../../ui/units'
import type { Step } from './cutMachine'

type Ask = Step['comb_first'][number]

/** Hair that is expected and not sure: a comb is pushed to the skin and read before anything is cut there. */
export function CombFirst({ dog, step }: { dog: Dog; step: Step }) {
  if (!step.comb_first.length) return null
  return (
    <section
      aria-label="Comb first"
      data-comb-first
      className="flex flex-col gap-1 rounded-xl border-4 border-tape px-3 py-1"
    >
      <h3 className="text-xl font-bold">Comb first</h3>
      {step.comb_first.map((ask) => (
        <Reading key={`${ask.zone}:${ask.side}`} dog={dog} ask={ask} />
      ))}
    </section>
  )
}

function Reading({ dog, ask }: { dog: Dog; ask: Ask }) {
  const [text, setText] = useState('')
  const probes = useWished(dog, 'coat-probes') ?? dog.coat_probes
  const mine = probes.find((probe) => probe.zone === ask.zone && probe.side === ask.side)
  const mm = typedMm(text)
  function keep() {
    if (mm === null) return
    const others = probes.filter((probe) => probe !== mine)
    change(dog, 'coat-probes', [...others, { zone: ask.zone, side: ask.side, depth_mm: mm }])
    setText('')
  }
  return (
    <form
      className="flex items-center gap-3 text-lg leading-tight"
      onSubmit={(event) => {
        event.preventDefault()
        keep()
      }}
    >
      <label className="flex min-w-0 flex-1 items-center gap-3">
        <span className="flex-1">
          <b>{ask.words}</b>: {Math.round(ask.asks_mm)} mm asked, {Math.round(ask.sure_mm)} surely there
        </span>
        <input
          inputMode="decimal"
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder={mine ? `${mine.depth_mm} mm` : 'depth, mm'}
          aria-label={`Comb depth, ${ask.words}, mm`}
          className="min-h-12 w-32 rounded-lg border-2 border-rule px-3 text-xl"
        />
      </label>
      <button
        type="submit"
        disabled={mm === null}
        className="min-h-12 rounded-lg border-2 border-rule px-4 font-semibold disabled:opacity-30"
      >
        Save
      </button>
    </form>
  )
}
