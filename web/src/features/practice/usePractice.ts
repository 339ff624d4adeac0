import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type Schemas } from '../../api/client'
import { keep, recall } from '../../ui/shelf'
import { useKeptPast } from '../../undo/keptPast'
import { answerOf, begin, practiceReducer, type Answer, type Task } from './practiceMachine'

export type Drill = Schemas['TaskIn']['drill']
export type Own = Schemas['OwnOut']
export type Shown = Schemas['ShownOut']

const ME = 'dapwick.practice.me'
const isNumber = (value: unknown): value is number => typeof value === 'number'

/** Who said that they sit at this tablet: what is a person's own is shown to nobody else unasked. */
export function useMe() {
  const [me, setMe] = useState(() => recall(sessionStorage, ME, isNumber))
  return {
    me,
    iAm(person: number) {
      keep(sessionStorage, ME, String(person))
      setMe(person)
    },
  }
}

export const usePeople = () => useQuery({ queryKey: ['practice', 'people'], queryFn: () => api.practisers() })

/** Somebody begins to practise, lets a trainer see it, leaves the list or comes back. */
export function usePeopleChanges() {
  const queries = useQueryClient()
  const onSuccess = () => queries.invalidateQueries({ queryKey: ['practice'] })
  const takeIn = useMutation({ mutationFn: (name: string) => api.practise(name), onSuccess })
  const change = useMutation({
    mutationFn: ({ id, ...body }: { id: number } & Schemas['PersonChangeIn']) =>
      api.changePractiser(id, body),
    onSuccess,
  })
  return { takeIn, change, wrong: takeIn.error ?? change.error }
}

export const useProgress = (person: number) =>
  useQuery({ queryKey: ['practice', 'person', person], queryFn: () => api.practiser(person) })

export const useForTrainer = () =>
  useQuery({ queryKey: ['practice', 'trainer'], queryFn: () => api.forTrainer() })

/** The person's open question of a drill, and the next one once it is answered. */
export function useTask(person: number, drill: Drill) {
  const queries = useQueryClient()
  const key = ['practice-task', person, drill]
  const task = useQuery({
    queryKey: key,
    queryFn: () => api.practiceTask(person, drill),
    staleTime: Infinity,
    gcTime: 0,
  })
  return { task, next: () => queries.resetQueries({ queryKey: key }) }
}

/** One question being answered: what is said so far, and what came of it. */
export function useAnswering(task: Task) {
  const queries = useQueryClient()
  const [state, act] = useKeptPast(
    practiceReducer,
    () => begin(task),
    () => task.id,
    `practice.${task.drill}`,
    ({ draft }) => ({ draft }),
  )
  const tell = useMutation({
    mutationFn: (answer: Answer) => api.practiceAnswer(task.id, answer),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['practice'] }),
  })
  const answer = answerOf(state)
  return {
    state,
    act,
    shown: tell.data ?? null,
    telling: tell.isPending,
    wrong: tell.error,
    tell: answer && !tell.data ? () => tell.mutate(answer) : null,
  }
}

/** The turning head, fetched when it is first shown. */
export const usePosed = () =>
  useQuery({ queryKey: ['posed'], queryFn: () => import('../../head3d/Posed'), staleTime: Infinity })
