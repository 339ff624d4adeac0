import { Check, History } from 'lucide-react'
import { useEffect, useRef, type ReactNode } from 'react'
import { Link, NavLink, useLocation } from 'react-router'
import type { Dog } from '../api/client'
import { useSalon } from './useSalon'

export const STAGES = [
  { id: 'wishes', words: 'Wishes' },
  { id: 'photos', words: 'Photos' },
  { id: 'marks', words: 'Marks' },
  { id: 'outline', words: 'Outline' },
  { id: 'cut', words: 'Cut' },
  { id: 'check', words: 'Check' },
  { id: 'next', words: 'Next time' },
] as const

const TICK_PX = 10
const TICKS = `repeating-linear-gradient(90deg,#17352f 0 1px,transparent 1px ${TICK_PX}px)`
const TENTHS = `repeating-linear-gradient(90deg,#17352f 0 1.5px,transparent 1.5px ${TICK_PX * 5}px)`

/** The strip of measuring tape along the top: the way back to Today, and the visit's stages. */
export function Tape({ dog, children }: { dog?: Dog; children?: ReactNode }) {
  const salon = useSalon()
  const stages = useRef<HTMLElement>(null)
  const { pathname } = useLocation()
  // On a phone the tape is longer than the screen; where one stands is in sight.
  useEffect(() => {
    stages.current?.querySelector('[aria-current]')?.scrollIntoView({ inline: 'center', block: 'nearest' })
  }, [pathname, dog?.id])
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
        className="flex min-w-9 shrink-0 items-center justify-center gap-3 px-5 pt-2 hover:bg-tape-deep/40 max-[1100px]:px-3 portrait:px-2"
        aria-label={dog ? 'Back to Today' : 'Today'}
      >
        {dog ? (
          <span className="text-sm">
            ‹<span className="portrait:sr-only"> Today</span>
          </span>
        ) : (
          <>
            <span className="text-2xl font-bold tracking-tight">Dapwick</span>
            <span className="hidden text-sm sm:inline">{salon.data?.name && `at ${salon.data.name}`}</span>
          </>
        )}
      </Link>
      {dog && (
        <NavLink
          end
          to={`/dogs/${dog.id}`}
          className={({ isActive }) =>
            `flex min-w-0 items-center truncate px-4 phone:max-w-24 phone:shrink-0 pt-2 text-2xl font-bold tracking-tight max-[1100px]:px-1 max-[1100px]:text-xl portrait:text-lg hover:bg-tape-deep/40 ${isActive ? 'underline decoration-brass decoration-4 underline-offset-4' : ''}`
          }
        >
          {dog.name}
        </NavLink>
      )}
      {dog && (
        <nav
          ref={stages}
          aria-label="Stages of the visit"
          className="mx-auto flex shrink-0 items-stretch gap-1 max-[1100px]:gap-0 phone:min-w-0 phone:shrink phone:overflow-x-auto"
        >
          {STAGES.map((stage) => (
            <Stage key={stage.id} dog={dog} {...stage} />
          ))}
        </nav>
      )}
      {!dog && (
        <nav aria-label="Places" className="flex items-stretch gap-1">
          <Place to="/" words="Today" />
          <Place to="/practice" words="Practice" />
        </nav>
      )}
      <div className="ml-auto flex shrink-0 items-center gap-2 px-4 pt-2 max-[1100px]:gap-0 max-[1100px]:px-1">
        {children}
      </div>
    </header>
  )
}

/** A place of the salon, besides a dog's visit. */
function Place({ to, words }: { to: string; words: string }) {
  return (
    <NavLink
      to={to}
      end={to === '/'}
      className={({ isActive }) =>
        `flex items-center px-4 pt-2 text-lg font-medium max-[1100px]:px-2 ${isActive ? 'underline decoration-brass decoration-4 underline-offset-4' : 'hover:bg-tape-deep/40'}`
      }
    >
      {words}
    </NavLink>
  )
}

function Stage({ dog, id, words }: { dog: Dog; id: string; words: string }) {
  const state = dog.stages[id]
  const changed = dog.stale[id]?.join(', ')
  return (
    <NavLink
      to={`/dogs/${dog.id}/${id}`}
      className={({ isActive }) =>
        `relative flex items-center justify-center gap-1.5 px-3 whitespace-nowrap text-lg max-[1100px]:gap-1 max-[1100px]:px-1.5 max-[1100px]:text-base portrait:px-1 portrait:text-[0.95rem] ${
          isActive
            ? 'my-1 rounded-md border-4 border-brass bg-[#fffaf0] pt-0 font-bold shadow'
            : 'pt-2 font-medium hover:bg-tape-deep/40'
        }`
      }
    >
      {words}
      {state === 'done' ? (
        <Check size={18} strokeWidth={3} aria-label="done" />
      ) : state === 'stale' ? (
        <History size={18} strokeWidth={2.5} aria-label={`stale: ${changed ?? ''} changed since`} />
      ) : (
        <span className="size-2.5 rounded-full border-2 border-[#17352f]" role="img" aria-label="needs you" />
      )}
    </NavLink>
  )
}
