import type { ReactNode } from 'react'

export function Card({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="rounded-xl border border-rule bg-sheet p-5" aria-label={title}>
      <h2 className="mb-2 text-xl font-bold">{title}</h2>
      {children}
    </section>
  )
}
