import { Printer } from 'lucide-react'
import { Link } from 'react-router'
import type { Dog, Schemas } from '../../api/client'
import { change, useWished } from '../../outbox/useOutbox'
import { Choices } from '../../ui/Choices'
import { Traits } from '../../shared/Traits'
import { inUnit, useUnit } from '../../ui/units'
import { useKit } from '../../shared/queries'

type Props = { dog: Dog; sheet: Schemas['SheetOut'] | null; stylist: string; fixed: boolean }

/** What the sheet is made for: who cuts, what the dog minds and how it is; what to lay out; paper. */
export function BeforePanel({ dog, sheet, stylist, fixed }: Props) {
  const kit = useKit()
  const [unit] = useUnit()
  const traits = useWished(dog, 'traits')?.traits ?? dog.traits
  const chosen = useWished(dog, 'stylist')?.name ?? stylist
  const names = Object.fromEntries(
    (kit.data?.value.stylists ?? []).map((one) => [one.name, `${one.name}, ${one.hand}-handed`]),
  )
  return (
    <div className="flex flex-col gap-4">
      <section>
        {Object.keys(names).length > 0 ? (
          <Choices
            label="Who cuts"
            value={chosen}
            choices={names}
            onChange={(name) => change(dog, 'stylist', { name })}
          />
        ) : (
          <p>
            Cut right-handed by anybody.{' '}
            <Link className="underline" to="/kit">
              Enter stylists and kit
            </Link>
          </p>
        )}
      </section>
      {sheet && (
        <>
          <section>
            <h3 className="text-sm text-quiet">Lay out</h3>
            <p className="text-lg leading-snug">{sheet.tools.map((tool) => inUnit(tool, unit)).join(', ')}</p>
          </section>
          {sheet.left_alone.length > 0 && (
            <section>
              <h3 className="text-sm text-quiet">Leave alone</h3>
              <p>{sheet.left_alone.map((told) => inUnit(told, unit)).join('; ')}</p>
            </section>
          )}
          <section className="flex flex-wrap items-center gap-x-4 gap-y-1">
            <Printer size={18} aria-hidden />
            <Papers words="Cut sheet" path={`/api/dogs/${dog.id}/cut-sheet.pdf`} />
            <Papers words="Outline at true size" path={`/api/dogs/${dog.id}/outline.pdf`} />
            <span>
              SVG:{' '}
              <a
                className="underline"
                href={`/api/dogs/${dog.id}/outline-front.svg`}
                target="_blank"
                rel="noreferrer"
              >
                front
              </a>
              ,{' '}
              <a
                className="underline"
                href={`/api/dogs/${dog.id}/outline-left.svg`}
                target="_blank"
                rel="noreferrer"
              >
                side
              </a>
            </span>
          </section>
        </>
      )}
      <Traits chosen={traits} onChange={(now) => change(dog, 'traits', { traits: now })} />
      {fixed && (
        <p className="text-sm text-quiet">
          The sheet in use stays as it began; changes count when it is rebuilt.
        </p>
      )}
    </div>
  )
}

function Papers({ words, path }: { words: string; path: string }) {
  return (
    <span>
      {words}:{' '}
      <a className="underline" href={`${path}?paper=a4`} target="_blank" rel="noreferrer">
        A4
      </a>
      ,{' '}
      <a className="underline" href={`${path}?paper=letter`} target="_blank" rel="noreferrer">
        Letter
      </a>
    </span>
  )
}
