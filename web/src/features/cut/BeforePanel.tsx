import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Printer } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, type Dog, type Schemas } from '../../api/client'
import { Choices } from '../../ui/Choices'

type Props = { dog: Dog; sheet: Schemas['SheetOut'] | null; stylist: string; fixed: boolean }

const ABOUT: Readonly<Record<string, string>> = {
  minds: 'It minds',
  dog: 'It is',
  skin: 'Skin and first time',
  coat: 'Coat',
}

/** What the sheet is made for: who cuts, what the dog minds and how it is; what to lay out; paper. */
export function BeforePanel({ dog, sheet, stylist, fixed }: Props) {
  const queries = useQueryClient()
  const kit = useQuery({ queryKey: ['kit'], queryFn: api.kit })
  const guide = useQuery({ queryKey: ['cut-guide'], queryFn: api.cutGuide, staleTime: Infinity })
  const [wrong, setWrong] = useState('')
  async function change(work: () => Promise<Dog>) {
    try {
      queries.setQueryData(['dog', dog.id], await work())
      await queries.invalidateQueries({ queryKey: ['cut', dog.id] })
      setWrong('')
    } catch (error) {
      setWrong((error as Error).message)
    }
  }
  const toggled = (code: string) =>
    dog.traits.includes(code) ? dog.traits.filter((one) => one !== code) : [...dog.traits, code]
  const names = Object.fromEntries(
    (kit.data?.stylists ?? []).map((one) => [one.name, `${one.name}, ${one.hand}-handed`]),
  )
  return (
    <div className="flex flex-col gap-4">
      {wrong && (
        <p role="alert" className="text-warn">
          {wrong}
        </p>
      )}
      <section>
        {Object.keys(names).length > 0 ? (
          <Choices
            label="Who cuts"
            value={stylist}
            choices={names}
            onChange={(name) => void change(() => api.putStylist(dog.id, name))}
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
            <p className="text-lg leading-snug">{sheet.tools.join(', ')}</p>
          </section>
          {sheet.left_alone.length > 0 && (
            <section>
              <h3 className="text-sm text-quiet">Leave alone</h3>
              <p>{sheet.left_alone.join('; ')}</p>
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
      {(['minds', 'dog', 'skin', 'coat'] as const).map((about) => (
        <section key={about}>
          <h3 className="mb-1 text-sm text-quiet">{ABOUT[about]}</h3>
          <div className="flex flex-wrap gap-1.5" role="group" aria-label={ABOUT[about]}>
            {guide.data?.traits
              .filter((trait) => trait.about === about)
              .map((trait) => (
                <button
                  key={trait.code}
                  aria-pressed={dog.traits.includes(trait.code)}
                  onClick={() => void change(() => api.putTraits(dog.id, toggled(trait.code)))}
                  className="min-h-11 rounded-lg border border-rule bg-paper px-3 aria-pressed:border-cut aria-pressed:bg-cut aria-pressed:font-semibold aria-pressed:text-sheet"
                >
                  {trait.words.replace(/^minds /, '')}
                </button>
              ))}
          </div>
        </section>
      ))}
      {fixed && (
        <p className="text-sm text-quiet">
          The sheet in use stays as it began; changes count when it is made anew.
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
