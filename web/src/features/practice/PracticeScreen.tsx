import { Download, GraduationCap, UserMinus } from 'lucide-react'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { Tape } from '../../app/Tape'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { Settings } from '../../ui/Settings'
import { figure, figureUnit } from './practiceMachine'
import { Trend } from './Trend'
import {
  useForTrainer,
  useMe,
  usePeople,
  usePeopleChanges,
  useProgress,
  type Own as OwnProgress,
} from './usePractice'
import { Scroller } from '../../ui/Scroller'

const LINK =
  'inline-flex min-h-12 items-center gap-2 rounded-lg border border-rule bg-sheet px-4 font-semibold hover:border-ink'

/** Beside Today: who practises, what next, how it goes. */
export function PracticeScreen() {
  const person = Number(useParams()['person']) || null
  const { me, iAm } = useMe()
  return (
    <div className="flex h-full flex-col">
      <Tape>
        <Settings />
      </Tape>
      <Scroller role="main" outer="flex-1" className="p-5">
        <div className="mx-auto flex max-w-6xl flex-col gap-4">
          <header className="flex flex-wrap items-center gap-3">
            <h1 className="mr-2 text-3xl font-bold tracking-tight">Practice</h1>
            <People chosen={person} iAm={iAm} />
          </header>
          {person ? <Own key={person} person={person} me={me} iAm={iAm} /> : <Welcome />}
        </div>
      </Scroller>
    </div>
  )
}

function Welcome() {
  return (
    <div className="graph rounded-xl border border-rule p-10">
      <p className="mb-2 text-2xl font-bold">Five minutes on heads whose bone is known</p>
      <p className="max-w-2xl text-lg text-quiet">
        Find the bone under the coat, guess by eye, find the side that was left long, judge what suits him,
        plan a whole cut and see it cut. Afterwards you know by how many millimetres. No dog of the salon is
        touched. Say who you are to begin.
      </p>
    </div>
  )
}

/** Who practises: one press; a new name is written once. */
function People({ chosen, iAm }: { chosen: number | null; iAm: (person: number) => void }) {
  const people = usePeople()
  const { takeIn, wrong } = usePeopleChanges()
  const [name, setName] = useState('')
  const go = useNavigate()
  const begin = (who: string) =>
    takeIn.mutate(who, {
      onSuccess: (made) => {
        setName('')
        iAm(made.id)
        void go(`/practice/${made.id}`)
      },
    })
  return (
    <>
      <nav aria-label="Who practises" className="flex flex-wrap gap-2">
        {people.data?.people.map((one) => (
          <Link
            key={one.id}
            to={`/practice/${one.id}`}
            aria-current={one.id === chosen ? 'page' : undefined}
            className={`${LINK} aria-[current=page]:border-cut aria-[current=page]:bg-cut aria-[current=page]:text-sheet`}
          >
            {one.name}
          </Link>
        ))}
        {people.data?.stylists.map((stylist) => (
          <Button key={stylist} onClick={() => begin(stylist)} disabled={takeIn.isPending}>
            + {stylist}
          </Button>
        ))}
      </nav>
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          if (name.trim()) begin(name)
        }}
      >
        <input
          value={name}
          maxLength={40}
          onChange={(event) => setName(event.target.value)}
          placeholder="another name"
          aria-label="Another name"
          className="h-12 w-40 rounded-lg border border-rule bg-sheet px-3"
        />
        <Button type="submit" disabled={!name.trim() || takeIn.isPending}>
          Begin
        </Button>
      </form>
      {(wrong ?? people.error) && <Notice tone="warn">{(wrong ?? people.error)?.message}</Notice>}
    </>
  )
}

type OwnProps = { person: number; me: number | null; iAm: (person: number) => void }

/** How it goes is a person's own: whoever presses another name says first that it is theirs. */
function Own({ person, me, iAm }: OwnProps) {
  const people = usePeople()
  const go = useNavigate()
  const name = people.data?.people.find((one) => one.id === person)?.name
  if (me === person || (people.data && !name)) return <Progress person={person} />
  if (!name) return <Notice>Looking up who practises…</Notice>
  return (
    <div
      className="graph flex flex-col items-start gap-4 rounded-xl border border-rule p-10"
      data-asks-who={name}
    >
      <p className="text-2xl font-bold">Are you {name}?</p>
      <p className="text-lg text-quiet">
        How it goes with {name} is for {name} alone.
      </p>
      <div className="flex gap-3">
        <Button look="firm" onClick={() => iAm(person)}>
          I am {name}
        </Button>
        <Button onClick={() => void go('/practice')}>Not me</Button>
      </div>
    </div>
  )
}

function Progress({ person }: { person: number }) {
  const own = useProgress(person)
  if (!own.data)
    return own.failureReason ? (
      <Notice tone="warn">{own.failureReason.message}</Notice>
    ) : (
      <Notice>Looking up how it goes…</Notice>
    )
  const { progress } = own.data
  const next = progress.drills.find((one) => one.drill === progress.next)
  return (
    <>
      <Link
        to={`/practice/${person}/${progress.next}`}
        data-next={progress.next}
        className="flex flex-wrap items-baseline gap-x-4 rounded-xl bg-cut px-6 py-5 text-sheet hover:opacity-95"
      >
        <span className="text-lg">Next</span>
        <b className="text-3xl tracking-tight">{next?.name}</b>
        <span className="text-lg">{progress.why}</span>
      </Link>
      <Drills own={own.data} link />
      <Sharing own={own.data} />
      <Others self={person} />
    </>
  )
}

/** Every drill with its figure over the sessions and what it says of the person. */
function Drills({ own, link }: { own: OwnProgress; link: boolean }) {
  return (
    <ul className="grid grid-cols-3 gap-3 max-[1100px]:grid-cols-2 portrait:grid-cols-1">
      {own.progress.drills.map((one) => {
        const last = one.points.at(-1)
        return (
          <li
            key={one.drill}
            data-drill={one.drill}
            className="flex flex-col gap-2 rounded-xl border border-rule bg-sheet p-4"
          >
            <div className="flex items-baseline gap-2">
              <h2 className="min-w-0 flex-1 text-xl font-bold">{one.name}</h2>
              {last && (
                <span className="whitespace-nowrap">
                  <b className="text-2xl" data-figure>
                    {figure(last.value, one.unit)}
                  </b>{' '}
                  {figureUnit(one.unit)}
                </span>
              )}
            </div>
            <p className="text-sm text-quiet">
              {one.figure}
              {last && (
                <>
                  , {figure(last.low, one.unit)} to {figure(last.high, one.unit)}
                </>
              )}
            </p>
            {last ? (
              <Trend points={one.points} unit={one.unit} words={one.figure} />
            ) : (
              <p className="text-quiet">Not tried yet.</p>
            )}
            <ul className="flex flex-col gap-1">
              {one.says.map((said) => (
                <li key={said}>{said}</li>
              ))}
            </ul>
            {link && (
              <Link
                to={`/practice/${own.id}/${one.drill}`}
                className={`${LINK} mt-auto justify-center`}
                aria-label={`Practise: ${one.name}`}
              >
                Practise
              </Link>
            )}
          </li>
        )
      })}
    </ul>
  )
}

function Sharing({ own }: { own: OwnProgress }) {
  const { change, wrong } = usePeopleChanges()
  const go = useNavigate()
  return (
    <div className="flex flex-wrap items-center gap-3">
      <label className="flex min-h-12 items-center gap-3">
        <input
          type="checkbox"
          className="size-6"
          checked={(change.isPending ? change.variables.shown : null) ?? own.shown}
          onChange={(event) => change.mutate({ id: own.id, shown: event.target.checked })}
        />
        A trainer may see how it goes
      </label>
      <a href={`/api/practice/people/${own.id}/results.csv`} download className={LINK}>
        <Download size={18} aria-hidden /> As a table
      </a>
      <Button
        onClick={() =>
          change.mutate({ id: own.id, removed: true }, { onSuccess: () => void go('/practice') })
        }
      >
        <UserMinus size={18} aria-hidden /> Off the list
      </Button>
      <span className="text-sm text-quiet">What was done is kept; the same name brings it back.</span>
      {wrong && <Notice tone="warn">{wrong.message}</Notice>}
    </div>
  )
}

/** Those who let a trainer see it. */
function Others({ self }: { self: number }) {
  const [open, setOpen] = useState(false)
  const shown = useForTrainer()
  const others = shown.data?.filter((one) => one.id !== self) ?? []
  if (!others.length) return null
  return (
    <section aria-label="For the trainer" className="flex flex-col gap-3">
      <Button className="self-start" aria-expanded={open} onClick={() => setOpen(!open)}>
        <GraduationCap size={20} aria-hidden /> Who lets a trainer see it: {others.length}
      </Button>
      {open &&
        others.map((one) => (
          <div key={one.id} className="flex flex-col gap-2" data-shown={one.name}>
            <h2 className="text-xl font-bold">{one.name}</h2>
            <Drills own={one} link={false} />
          </div>
        ))}
    </section>
  )
}
