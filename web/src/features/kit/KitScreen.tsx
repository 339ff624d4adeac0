import { RotateCcw } from 'lucide-react'
import { Link } from 'react-router'
import { Tape } from '../../app/Tape'
import type { Versioned } from '../../api/client'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { Settings } from '../../ui/Settings'
import { UndoButtons } from '../../undo/UndoButtons'
import type { Kit } from './kitMachine'
import { LengthField } from './NumberField'
import { Stylists } from './Stylists'
import { ToolTable } from './ToolTable'
import { useKit } from './useKit'
import { useKitNow, useUsualKit } from './useKitNow'
import { Scroller } from '../../ui/Scroller'

/** What is owned, with its lengths, and who cuts. */
export function KitScreen() {
  const kit = useKitNow()
  return (
    <div className="flex h-full flex-col">
      <Tape>
        <Settings />
      </Tape>
      {kit.failureReason && !kit.data && <Notice tone="warn">{kit.failureReason.message}</Notice>}
      {kit.isPending && !kit.failureReason && <Notice>Loading the kit…</Notice>}
      {kit.data && <Editing key={kit.data.version} first={kit.data} />}
    </div>
  )
}

function Editing({ first }: { first: Versioned<Kit> }) {
  const { state, act, keeping } = useKit(first)
  const usual = useUsualKit()
  const { kit } = state
  const skin = (part: Partial<Kit['skin']>) =>
    act({ type: 'set', change: { skin: { ...kit.skin, ...part } } })
  return (
    <Scroller role="main" outer="flex-1" className="p-5">
      <div className="mx-auto mb-4 flex max-w-6xl flex-wrap items-center gap-3">
        <Link to="/" className="underline">
          Today
        </Link>
        <h1 className="text-3xl font-bold tracking-tight">Kit</h1>
        <span
          role="status"
          data-keeping={keeping.kind}
          className={keeping.kind === 'kept' ? 'text-quiet' : 'font-semibold text-warn'}
        >
          {keeping.kind === 'kept' ? 'Saved' : keeping.reason}
        </span>
        <span className="ml-auto flex gap-2">
          <UndoButtons
            undo={state.past.length ? () => act({ type: 'undo' }) : null}
            redo={state.future.length ? () => act({ type: 'redo' }) : null}
          />
          <Button
            disabled={!usual.data}
            onClick={() =>
              usual.data &&
              act({
                type: 'set',
                change: {
                  tools: usual.data.tools,
                  skin: usual.data.skin,
                  against_share: usual.data.against_share,
                },
              })
            }
          >
            <RotateCcw size={18} aria-hidden /> The usual kit
          </Button>
        </span>
      </div>
      <div className="mx-auto grid max-w-6xl grid-cols-3 gap-4 max-lg:grid-cols-2 portrait:grid-cols-1">
        <ToolTable kit={kit} kind="blade" title="Blades" act={act} />
        <div className="flex flex-col gap-4">
          <ToolTable kit={kit} kind="guard" title="Guard combs" act={act} />
        </div>
        <div className="flex flex-col gap-4">
          <Stylists kit={kit} act={act} />
          <section className="rounded-xl border border-rule bg-sheet p-4">
            <h2 className="mb-1 text-xl font-bold">On the skin</h2>
            <p className="mb-3 text-sm text-quiet">
              Lengths are what is left with the growth. Makers differ: measure your own. Where skin or a
              growth worries you, ask a vet before you clip.
            </p>
            <Line words="Left against the growth">
              <ShareField
                share={kit.against_share}
                onChange={(against_share) => act({ type: 'set', change: { against_share } })}
              />
            </Line>
            <Line words="First time, no closer than">
              <LengthField
                label="First time"
                mm={kit.skin.first_mm}
                onChange={(first_mm) => skin({ first_mm })}
              />
            </Line>
            {kit.skin.then_mm.map((mm, i) => (
              <Line key={i} words={`${i + 1} quiet ${i ? 'visits' : 'visit'} later`}>
                <LengthField
                  label={`After ${i + 1} quiet visits`}
                  mm={mm}
                  onChange={(next) =>
                    skin({ then_mm: kit.skin.then_mm.map((old, j) => (j === i ? next : old)) })
                  }
                />
              </Line>
            ))}
            <Line words="White or thin coat">
              <LengthField
                label="White or thin coat"
                mm={kit.skin.white_mm}
                onChange={(white_mm) => skin({ white_mm })}
              />
            </Line>
            <Line words="Skin that has been sore">
              <LengthField
                label="Sore skin"
                mm={kit.skin.sore_mm}
                onChange={(sore_mm) => skin({ sore_mm })}
              />
            </Line>
          </section>
          <ToolTable kit={kit} kind="shears" title="Shears" act={act} />
        </div>
      </div>
    </Scroller>
  )
}

function Line({ words, children }: { words: string; children: React.ReactNode }) {
  return (
    <div className="flex items-center justify-between border-b border-rule py-1">
      <span>{words}</span>
      {children}
    </div>
  )
}

function ShareField({ share, onChange }: { share: number; onChange: (share: number) => void }) {
  return (
    <span className="inline-flex items-center gap-1.5">
      <input
        type="number"
        min={20}
        max={100}
        step={5}
        aria-label="Left against the growth, percent"
        value={Math.round(share * 100)}
        onChange={(event) => onChange(Number(event.target.value) / 100)}
        className="h-11 w-20 rounded-lg border border-rule bg-paper px-2 text-right font-bold"
      />
      <span className="text-sm text-quiet">%</span>
    </span>
  )
}
