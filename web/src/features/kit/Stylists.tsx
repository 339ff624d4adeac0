import { Plus, X } from 'lucide-react'
import { useState, type Dispatch } from 'react'
import { Button } from '../../ui/Button'
import { Choices } from '../../ui/Choices'
import type { Kit, KitAction, Stylist } from './kitMachine'
import { useOwnHandTold } from './useOwnHandTold'

const HANDS = { right: 'right', left: 'left' } as const
const WHEN = { first: 'first', last: 'last' } as const
const WORK = { clip_first: 'clip all in first', scissor_throughout: 'scissors all through' } as const
const OWN_HAND = { yes: 'is told what it leaves long', no: 'not told' } as const
const AWKWARD = { hand: 'by hand', left: 'left', right: 'right' } as const

/** Who cuts: hand, the side that is awkward for it and when it is set, the order of work. */
export function Stylists({ kit, act }: { kit: Kit; act: Dispatch<KitAction> }) {
  const [name, setName] = useState('')
  return (
    <section className="rounded-xl border border-rule bg-sheet p-4">
      <h2 className="mb-2 text-xl font-bold">Stylists</h2>
      {kit.stylists.length === 0 && (
        <p className="mb-3 text-quiet">
          Nobody yet: sheets are written for a right hand, the dog’s right side first.
        </p>
      )}
      {kit.stylists.map((one, at) => (
        <OneStylist
          key={at}
          one={one}
          change={(change) => act({ type: 'stylist', at, change })}
          remove={() => act({ type: 'remove_stylist', at })}
        />
      ))}
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          if (name.trim()) act({ type: 'add_stylist', name: name.trim() })
          setName('')
        }}
      >
        <input
          aria-label="New stylist’s name"
          placeholder="Name"
          maxLength={40}
          value={name}
          onChange={(event) => setName(event.target.value)}
          className="h-12 min-w-0 flex-1 rounded-lg border border-rule bg-paper px-3"
        />
        <Button type="submit" disabled={!name.trim()}>
          <Plus size={18} aria-hidden /> Add
        </Button>
      </form>
    </section>
  )
}

type OneProps = { one: Stylist; change: (part: Partial<Stylist>) => void; remove: () => void }

function OneStylist({ one, change, remove }: OneProps) {
  const { notTold, tell } = useOwnHandTold()
  return (
    <div className="mb-4 border-b border-rule pb-2" data-stylist={one.name}>
      <div className="mb-2 flex items-center justify-between">
        <h3 className="text-lg font-bold">{one.name}</h3>
        <button
          className="grid size-11 place-items-center"
          aria-label={`Remove ${one.name}`}
          onClick={remove}
        >
          <X size={18} aria-hidden />
        </button>
      </div>
      <Choices
        label="Hand"
        value={one.hand ?? 'right'}
        choices={HANDS}
        onChange={(hand) => change({ hand })}
      />
      <Choices
        label="Awkward side"
        value={one.awkward_side ?? 'hand'}
        choices={AWKWARD}
        onChange={(side) => change({ awkward_side: side === 'hand' ? null : side })}
      />
      <Choices
        label="Set it"
        value={one.awkward ?? 'first'}
        choices={WHEN}
        onChange={(awkward) => change({ awkward })}
      />
      <Choices
        label="Work"
        value={one.work ?? 'clip_first'}
        choices={WORK}
        onChange={(work) => change({ work })}
      />
      <Choices
        label="Own hand"
        value={notTold.includes(one.name) ? 'no' : 'yes'}
        choices={OWN_HAND}
        onChange={(told) => tell(one.name, told === 'yes')}
      />
    </div>
  )
}
