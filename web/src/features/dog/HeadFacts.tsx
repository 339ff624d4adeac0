import { useState } from 'react'
import type { Dog, Measured } from '../../api/client'
import { change, useWished } from '../../outbox/useOutbox'
import { Choices } from '../../ui/Choices'
import { CARRIAGES, MUZZLES } from '../../shared/headKinds'
import { MeasureTable } from '../../shared/MeasureTable'
import { BandsDialog } from './BandsDialog'

/** The head in words and numbers: proportions, uneven places, every measure. */
export function HeadFacts({ dog, measured }: { dog: Dog; measured: Measured | undefined }) {
  const [bands, setBands] = useState(false)
  const uneven = measured?.uneven ?? []
  return (
    <div className="flex flex-col gap-4">
      <section>
        <ul className="text-lg leading-snug">
          {measured?.proportions.map((p) => (
            <li key={p.measure} className={p.sure ? 'font-semibold' : ''}>
              {p.words}
              {!p.sure && <span className="text-sm text-quiet"> (not sure yet)</span>}
            </li>
          ))}
        </ul>
        <button className="mt-1 min-h-9 text-sm underline" onClick={() => setBands(true)}>
          Where do these words change?
        </button>
        {uneven.length > 0 && (
          <ol className="mt-2 border-l-4 border-off pl-3" aria-label="Uneven places">
            {uneven.map((u, i) => (
              <li key={u.pair}>
                <b>{i + 1}</b> {u.words}, ±{Math.round(1.96 * u.sigma)}
              </li>
            ))}
          </ol>
        )}
        {measured?.solved && !uneven.length && (
          <p className="mt-2 text-quiet">Left and right differ by no more than the measuring error.</p>
        )}
      </section>
      <HeadKind dog={dog} />
      <section className="border-t border-rule pt-3">
        <MeasureTable measured={measured} />
        {measured?.solved && (
          <a
            className="mt-2 inline-flex min-h-12 items-center underline"
            href={`/api/dogs/${dog.id}/measures.csv`}
          >
            All measures as a table (CSV)
          </a>
        )}
      </section>
      <BandsDialog open={bands} onClose={() => setBands(false)} />
    </div>
  )
}

function HeadKind({ dog }: { dog: Dog }) {
  const kind = useWished(dog, 'kind') ?? { muzzle: dog.muzzle, ears: dog.ears }
  return (
    <section className="border-t border-rule pt-3">
      <h3 className="font-bold">What kind of head?</h3>
      <p className="mb-2 text-sm text-quiet">Helps to expect marks before they are placed.</p>
      <Choices
        label="Muzzle"
        value={kind.muzzle}
        choices={MUZZLES}
        onChange={(muzzle) => change(dog, 'kind', { ...kind, muzzle })}
      />
      <Choices
        label="Ears"
        value={kind.ears}
        choices={CARRIAGES}
        onChange={(ears) => change(dog, 'kind', { ...kind, ears })}
      />
    </section>
  )
}
