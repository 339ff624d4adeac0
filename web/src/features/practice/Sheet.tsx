import type { ReactNode } from 'react'
import { Scroller } from '../../ui/Scroller'

type Props = { head: ReactNode; top: ReactNode; foot: ReactNode; told: boolean; children: ReactNode }

/** The drill's picture, and beside it what is asked. */
export function Sheet({ head, top, foot, told, children }: Props) {
  return (
    <>
      <section
        aria-label="The head"
        className="graph relative flex min-h-72 flex-col overflow-hidden rounded-xl border border-rule"
      >
        {head}
      </section>
      <section
        aria-label="The question"
        className="flex min-h-0 flex-col gap-2 rounded-xl border border-rule bg-sheet p-4 portrait:max-h-[55vh]"
      >
        {top}
        {/* What is told begins at its top, however far down what was asked had been read. */}
        <Scroller key={String(told)} tabIndex={0} outer="flex-1" className="flex flex-col gap-3">
          {children}
        </Scroller>
        {foot}
      </section>
    </>
  )
}

export const Lines = ({ lines }: { lines: readonly string[] }) => (
  <ul className="flex flex-col gap-1.5">
    {lines.map((line) => (
      <li key={line}>{line}</li>
    ))}
  </ul>
)
