import { ChevronDown, ChevronRight } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import type { Dog, Measured, Schemas } from '../../api/client'
import { inUnit, useUnit } from '../../ui/units'
import { useNext } from './useMarkGuide'

type Help = Schemas['NextOut']
type Props = { dog: Dog; measured?: Measured; onHelp: (help: Help) => void }

const AT_FIRST = 1
const AT_MOST = 6
const KINDS: Record<Help['kind'], string> = {
  mark: 'mark',
  hand: 'calliper',
  photo: 'photo',
  wet_photo: 'wet photo',
  comb: 'comb',
}

/** What single addition would narrow the planned lengths most, as computed for this head now. */
export function HelpNow({ dog, measured, onHelp }: Props) {
  const [all, setAll] = useState(false)
  const asked = useNext(dog, measured)
  const helps = asked.data?.slice(0, all ? AT_MOST : AT_FIRST) ?? []
  if (!measured?.solved || !helps.length) return null
  return (
    <section
      aria-label="What would help most now"
      className="shrink-0 rounded-xl border border-rule bg-sheet p-3"
    >
      <div className="flex items-center justify-between">
        <h2 className="font-bold">What would help most now</h2>
        <button
          className="grid size-9 place-items-center"
          aria-expanded={all}
          aria-label="More"
          onClick={() => setAll(!all)}
        >
          <ChevronDown size={20} className={all ? 'rotate-180' : ''} aria-hidden />
        </button>
      </div>
      <ol>
        {helps.map((help) => (
          <li key={`${help.kind}${help.what}`} data-help={help.kind}>
            <HelpLine dog={dog} help={help} onHelp={onHelp} />
          </li>
        ))}
      </ol>
    </section>
  )
}

const LINE = 'flex w-full min-h-12 items-center gap-2 rounded-lg text-left text-[0.95rem] hover:bg-grid'

function HelpLine({ dog, help, onHelp }: { dog: Dog; help: Help; onHelp: Props['onHelp'] }) {
  const [unit] = useUnit()
  const inside = (
    <>
      <span className="flex-1">{inUnit(help.sentence, unit)}</span>
      <span className="sr-only">{KINDS[help.kind]}</span>
      <ChevronRight size={18} className="shrink-0 text-quiet" aria-hidden />
    </>
  )
  const state = help.kind === 'wet_photo' ? 'wet' : 'dry'
  const here = dog.photos.some((p) => p.view === help.what && p.state === state)
  if ((help.kind === 'photo' || help.kind === 'wet_photo') && !here)
    return (
      <Link to={`/dogs/${dog.id}/photos`} className={LINE}>
        {inside}
      </Link>
    )
  return (
    <button className={LINE} onClick={() => onHelp(help)}>
      {inside}
    </button>
  )
}
