import { Check } from 'lucide-react'
import type { ReactNode } from 'react'
import { Link, NavLink } from 'react-router'
import type { Dog } from '../api/client'

export const STAGES = [
  { id: 'photos', words: 'Photos' },
  { id: 'marks', words: 'Marks' },
  { id: 'outline', words: 'Outline' },
  { id: 'cut', words: 'Cut' },
] as const

const TICK_PX = 10
const TICKS = `repeating-linear-gradient(90deg,#17352f 0 1px,transparent 1px ${TICK_PX}px)`
const TENTHS = `repeating-linear-gradient(90deg,#17352f 0 1.5px,transparent 1.5px ${TICK_PX * 5}px)`

/** The strip of measuring tape along the top: the way back to Today, and the visit's stages. */
export function Tape({ dog, children }: { dog?: Dog; children?: ReactNode }) {
  return (
    <header className="relative z-10 flex h-16 shrink-0 items-stretch bg-tape text-[#17352f] shadow-sm">
      <div
        aria-hidden
        className="absolute inset-x-0 top-0 h-1.5 opacity-70"
        style={{ backgroundImage: TICKS }}
      />
      <div
        aria-hidden
        className="absolute inset-x-0 top-0 h-3 opacity-80"
        style={{ backgroundImage: TENTHS }}
      />
      <Link
        to="/"
        className="flex items-center gap-3 px-5 pt-2 hover:bg-tape-deep/40"
        aria-label={dog ? 'Back to Today' : 'Today'}
      >
        {dog ? (
          <span className="text-sm">‹ Today</span>
        ) : (
          <>
            <span className="text-2xl font-bold tracking-tight">Dapwick</span>
            <span className="hidden text-sm sm:inline">Today at the Net Loft</span>
          </>
        )}
      </Link>
      {dog && (
        <NavLink
          end
          to={`/dogs/${dog.id}`}
          className={({ isActive }) =>
            `flex items-center px-4 pt-2 text-2xl font-bold tracking-tight hover:bg-tape-deep/40 ${isActive ? 'underline decoration-brass decoration-4 underline-offset-4' : ''}`
          }
        >
          {dog.name}
        </NavLink>
      )}
      {dog && (
        <nav aria-label="Stages of the visit" className="mx-auto flex items-stretch gap-2">
          {STAGES.map((stage) => (
            <Stage key={stage.id} dog={dog} {...stage} />
          ))}
        </nav>
      )}
      <div className="ml-auto flex items-center gap-2 px-4 pt-2">{children}</div>
    </header>
  )
}

function Stage({ dog, id, words }: { dog: Dog; id: string; words: string }) {
  const done = dog.stages[id] === 'done'
  return (
    <NavLink
      to={`/dogs/${dog.id}/${id}`}
      className={({ isActive }) =>
        `relative flex min-w-24 items-center justify-center gap-2 px-4 text-lg ${
          isActive
            ? 'my-1 rounded-md border-4 border-brass bg-[#fffaf0] pt-0 font-bold shadow'
            : 'pt-2 font-medium hover:bg-tape-deep/40'
        }`
      }
    >
      {words}
      {done ? (
        <Check size={18} strokeWidth={3} aria-label="done" />
      ) : (
        <span className="size-2.5 rounded-full border-2 border-[#17352f]" role="img" aria-label="needs you" />
      )}
    </NavLink>
  )
}
