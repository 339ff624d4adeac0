import { ArrowRight } from 'lucide-react'
import { useEffect, useRef, type ReactNode } from 'react'
import { Link, useParams } from 'react-router'
import { Tape } from '../../app/Tape'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { Settings } from '../../ui/Settings'
import { useShortcuts } from '../../ui/useShortcuts'
import { UndoButtons } from '../../undo/UndoButtons'
import { ByEye } from './ByEye'
import { FindBone } from './FindBone'
import { LongSide } from './LongSide'
import { figure, figureUnit, missing, type Task } from './practiceMachine'
import { useAnswering, useTask, type Drill, type Shown } from './usePractice'
import { WhatSuits } from './WhatSuits'
import { WholePlan } from './WholePlan'

/** One drill, question after question. */
export function DrillScreen() {
  const params = useParams()
  const person = Number(params['person'])
  const { task, next } = useTask(person, params['drill'] as Drill)
  return (
    <div className="flex h-full flex-col">
      <Tape>
        <Settings />
      </Tape>
      {task.data ? (
        <Question key={task.data.id} task={task.data} person={person} next={next} />
      ) : (
        <Notice tone={task.failureReason ? 'warn' : 'plain'}>
          {task.failureReason?.message ?? 'Making a head…'}
        </Notice>
      )}
    </div>
  )
}

export type Answering = ReturnType<typeof useAnswering>
/** top, foot: over what a drill asks, and under it. */
export type DrillProps = { answering: Answering; top: ReactNode; foot: ReactNode }

const VIEWS: Readonly<Record<Drill, (props: DrillProps) => ReactNode>> = {
  bone: FindBone,
  eye: ByEye,
  long_side: LongSide,
  suits: WhatSuits,
  plan: WholePlan,
}

function Question({ task, person, next }: { task: Task; person: number; next: () => Promise<void> }) {
  const answering = useAnswering(task)
  const { shown, tell } = answering
  const View = VIEWS[task.drill]
  useShortcuts((event) => {
    if (event.key !== 'Enter' || event.target instanceof HTMLButtonElement) return false
    if (shown) void next()
    else tell?.()
    return true
  })
  return (
    <main
      data-question={task.id}
      className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_25rem] gap-4 p-4 max-[1100px]:grid-cols-[minmax(0,1fr)_22rem] portrait:grid-cols-1 portrait:grid-rows-[minmax(0,1fr)_auto]"
    >
      <View
        answering={answering}
        top={
          <header className="flex flex-wrap items-center gap-2">
            <Link to={`/practice/${person}`} className="min-h-12 content-center pr-2 underline">
              ‹ Practice
            </Link>
            <h1 className="text-2xl font-bold tracking-tight">{task.name}</h1>
            <span className="text-quiet" data-turn>
              {task.number} of {task.of}
            </span>
          </header>
        }
        foot={
          shown ? (
            <Result answering={answering} shown={shown} person={person} next={next} />
          ) : (
            <Tell answering={answering} />
          )
        }
      />
    </main>
  )
}

function Tell({ answering: { state, act, tell, telling, wrong } }: { answering: Answering }) {
  return (
    <div className="flex flex-col gap-1">
      {wrong && <Notice tone="warn">{wrong.message}</Notice>}
      <p className="min-h-6 text-quiet" aria-live="polite">
        {telling ? 'Working it out…' : missing(state)}
      </p>
      <div className="flex gap-2">
        <UndoButtons
          undo={state.past.length ? () => act({ type: 'undo' }) : null}
          redo={state.future.length ? () => act({ type: 'redo' }) : null}
        />
        <Button
          look="firm"
          className="min-h-14 flex-1 text-xl"
          disabled={!tell || telling}
          onClick={() => tell?.()}
        >
          Tell me
        </Button>
      </div>
    </div>
  )
}

type ResultProps = { answering: Answering; shown: Shown; person: number; next: () => Promise<void> }

/** What came of it, the drill's figure now, and one press to go on. */
function Result({ answering: { state }, shown, person, next }: ResultProps) {
  const { progress } = shown
  const last = progress.points.at(-1)
  const on = useRef<HTMLButtonElement>(null)
  useEffect(() => on.current?.focus(), [])
  const over = shown.session_over
  return (
    <div className="flex flex-col gap-2" aria-live="polite">
      {last && (
        <p className="text-quiet" data-now>
          {progress.figure[0]?.toUpperCase()}
          {progress.figure.slice(1)}: <b>{figure(last.value, progress.unit)}</b> {figureUnit(progress.unit)} (
          {figure(last.low, progress.unit)} to {figure(last.high, progress.unit)})
        </p>
      )}
      {over && <p className="font-semibold">That was a session. {progress.says[0]}</p>}
      <div className="flex gap-2">
        <Button
          ref={on}
          look={over ? 'plain' : 'firm'}
          className="min-h-14 flex-1 text-xl"
          onClick={() => void next()}
        >
          {over ? 'Again' : 'Next'} <ArrowRight size={22} aria-hidden />
        </Button>
        {over && (
          <Link
            to={`/practice/${person}`}
            className="grid min-h-14 flex-1 place-items-center rounded-lg bg-cut text-xl font-semibold text-sheet"
            data-done={state.task.drill}
          >
            How it goes
          </Link>
        )}
      </div>
    </div>
  )
}
