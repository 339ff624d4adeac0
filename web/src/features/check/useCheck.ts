import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { api, type CutComb, type Dog, type View } from '../../api/client'
import { PRESS_AGAIN } from '../../app/askedAgain'
import { askChange, change, partOf, useKept, useWished } from '../../outbox/useOutbox'
import { fetchAnew } from '../../shared/answers'
import { useKeptPast } from '../../undo/keptPast'
import { beginCheck, checkReducer, doneIn, type Check, type CheckAction } from './checkMachine'

const LOOKING_MS = 350

/** The finished head against its plan, asked for again while photos are being looked at. */
export function useCheck(dog: Dog) {
  const looked = dog.photos.filter((p) => p.state === 'finished').map((p) => `${p.id}:${Boolean(p.looked)}`)
  const { data, isPlaceholderData, failureReason } = useQuery({
    queryKey: ['check', dog.id, looked.join(' '), dog.versions['outline'] ?? ''],
    queryFn: () => api.check(dog.id),
    placeholderData: (before) => before,
    refetchInterval: (query) => (query.state.data?.waiting ? LOOKING_MS : false),
  })
  // What is there meanwhile was told of the photos before.
  const waiting = Math.max(data?.waiting ?? 0, isPlaceholderData ? 1 : 0)
  return { data: data && { ...data, waiting }, failureReason }
}

/** What was done about each place: at once on the screen, on the server as soon as it can be. */
export function useTouchUps(dog: Dog, check: Check) {
  const wished = useWished(dog, 'touched-up')?.done
  const [state, act] = useKeptPast(
    checkReducer,
    () => beginCheck({ ...(wished ?? doneIn(check)) }),
    (s) => s.done,
    `check.${dog.id}.${dog.visits.at(-1)?.id ?? 0}`,
  )
  const put = useRef(state.done)
  useEffect(() => {
    if (put.current === state.done) return
    put.current = state.done
    change(dog, 'touched-up', { done: { ...state.done } })
  }, [dog, state.done])
  const queries = useQueryClient()
  useKept(({ part }) => {
    if (part === partOf(dog.id, 'touched-up')) void fetchAnew(queries, ['check', dog.id])
  })
  return [state, act] as const satisfies readonly [typeof state, (action: CheckAction) => void]
}

/** What a comb found on the finished head: at once in the list, the check once the server has it. */
export function useCombs(dog: Dog, check: Check) {
  const combed = useWished(dog, 'combed-after') ?? check.combed
  const queries = useQueryClient()
  useKept(({ part }) => {
    if (part === partOf(dog.id, 'combed-after')) void fetchAnew(queries, ['check', dog.id])
  })
  const others = (one: CutComb) =>
    combed.filter((p) => p.zone !== one.zone || p.side !== one.side || p.spot !== one.spot)
  return {
    combed,
    comb: (one: CutComb) => change(dog, 'combed-after', [...others(one), one]),
    forget: (one: CutComb) => change(dog, 'combed-after', others(one)),
  }
}

/** A short sheet for a head that is nearly there: corners, lip, ear joins, the last comb-up; no length is set. */
export function useRefine(dog: Dog) {
  const queries = useQueryClient()
  const go = useNavigate()
  return useMutation({
    ...PRESS_AGAIN,
    mutationFn: async () => {
      const kept = dog.saved_outline
      if (!kept) return
      const { family, params, schools } = kept
      await askChange(dog, 'outline', { family, params, schools: { ...schools, extent: 'refine' } })
      await api.startCut(dog.id, true)
    },
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['dog', dog.id] })
      await fetchAnew(queries, ['cut', dog.id])
      void go(`/dogs/${dog.id}/cut`)
    },
  })
}

type Slots = Partial<Record<View, string>>

/** Finished photos: each into its slot, with what was wrong. */
export function useFinished(dog: Dog) {
  const queries = useQueryClient()
  const [sending, setSending] = useState<Slots>({})
  const [wrong, setWrong] = useState<Slots>({})
  async function run(view: View, words: string, work: () => Promise<unknown>) {
    setSending((all) => ({ ...all, [view]: words }))
    let told = ''
    try {
      await work()
    } catch (error) {
      told = (error as Error).message
    }
    setSending((all) => ({ ...all, [view]: '' }))
    setWrong((all) => ({ ...all, [view]: told }))
    await queries.invalidateQueries({ queryKey: ['dog', dog.id] })
  }
  return {
    sending,
    wrong,
    add: (file: File, view: View) => run(view, file.name, () => api.addPhoto(dog.id, file, view, 'finished')),
    remove: (id: number, view: View) => run(view, '', () => api.removePhoto(id)),
  }
}
