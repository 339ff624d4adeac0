import { CircleAlert, Info } from 'lucide-react'
import type { ReactNode } from 'react'

/** A sentence to the user: what is the matter and what to do. */
export function Notice({ tone = 'plain', children }: { tone?: 'plain' | 'warn'; children: ReactNode }) {
  const warn = tone === 'warn'
  const Icon = warn ? CircleAlert : Info
  return (
    <div
      role={warn ? 'alert' : 'status'}
      className={`m-3 flex items-start self-start gap-3 rounded-lg border-l-4 bg-sheet px-4 py-3 text-[0.95rem] ${
        warn ? 'border-warn text-warn' : 'border-rule text-quiet'
      }`}
    >
      <Icon size={20} className="mt-0.5 shrink-0" aria-hidden />
      <div>{children}</div>
    </div>
  )
}
