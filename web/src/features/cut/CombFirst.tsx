import type { Dog } from '../../api/client'
import { CombReading } from '../../shared/CombReading'
import type { Step } from './cutMachine'

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
        <CombReading
          key={`${ask.zone}:${ask.side}`}
          dog={dog}
          zone={ask.zone}
          side={ask.side}
          words={ask.words}
          hint={`: ${Math.round(ask.asks_mm)} mm asked, ${Math.round(ask.sure_mm)} surely there`}
        />
      ))}
    </section>
  )
}
