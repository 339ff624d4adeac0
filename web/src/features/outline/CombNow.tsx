import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import type { Dog, Outline } from '../../api/client'
import { CombReading } from '../../shared/CombReading'
import { zoneWords } from '../../shared/words'
import { verdictWords } from './words'

/** When it can be cut. Where that rests on a coat nothing has read, one press asks for the comb there. */
export function CombNow({ dog, drawing }: { dog: Dog; drawing: Outline }) {
  const asked = drawing.comb_first
  const said = verdictWords(drawing)
  if (!asked.length) return <span>{said}</span>
  return (
    <Popover className="relative">
      <PopoverButton className="min-h-12 rounded-lg border-2 border-missing px-3 font-bold text-missing">
        {said}
        {drawing.verdict !== 'today' && <span className="block text-xs">or comb first</span>}
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'bottom end', gap: 4 }}
        focus
        className="z-20 flex w-[26rem] max-w-[92vw] flex-col gap-2 rounded-xl border-2 border-ink bg-sheet p-3"
      >
        <p className="text-sm">No photo shows the coat here. Push the comb to the skin and read it.</p>
        {asked.map((zone) => (
          <CombReading key={zone} dog={dog} zone={zone} side={null} words={zoneWords(zone)} />
        ))}
      </PopoverPanel>
    </Popover>
  )
}
