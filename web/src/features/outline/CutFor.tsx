import type { Dog } from '../../api/client'
import type { OutlineAction, Setting } from './outlineMachine'
import { useLasting } from './useLasting'

type Props = { dog: Dog; setting: Setting; act: (action: OutlineAction) => void }

/** How many weeks the outline lasts, and what has to be shorter for it to last longer. */
export function CutFor({ dog, setting, act }: Props) {
  const lasting = useLasting(dog, setting)
  if (!lasting.data)
    return <p className="text-quiet">{lasting.failureReason?.message ?? 'How long it lasts…'}</p>
  return (
    <section aria-label="Cut for some weeks" className="mt-3">
      <h3 className="mb-1 font-bold">Cut for…</h3>
      <ul className="flex flex-col gap-1.5">
        {lasting.data.map((one) => {
          const lasts = one.weeks >= one.cut_for
          return (
            <li key={one.cut_for}>
              <button
                className="flex min-h-12 w-full items-center gap-3 rounded-lg border border-rule bg-paper px-3 text-left disabled:opacity-70"
                disabled={!lasts || !one.words}
                onClick={() => act({ type: 'set_all', params: one.params })}
                data-cut-for={one.cut_for}
                data-lasts={lasts}
              >
                <b className="w-20 shrink-0 text-lg">{one.cut_for} weeks</b>
                <span className={lasts ? '' : 'text-missing'}>
                  {lasts ? one.words || 'as it is set' : `not this shape: ${one.weeks} at most`}
                </span>
              </button>
            </li>
          )
        })}
      </ul>
      {lasting.data[0]?.first && <p className="mt-1 text-quiet">First {lasting.data[0].first}.</p>}
    </section>
  )
}
