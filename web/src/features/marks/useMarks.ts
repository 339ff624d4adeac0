import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useReducer, useRef, useState } from 'react'
import { api, Trouble, type Dog, type HandMeasure, type Measured, type Probe } from '../../api/client'
import { begin, marksReducer, type AllMarks } from './marksMachine'

export type Saving =
  | { kind: 'saved' }
  | { kind: 'saving' }
  | { kind: 'waiting'; reason: string }
  | { kind: 'refused'; reason: string }

const QUIET_MS = 250
const AGAIN_MS = 2000

/** The Marks stage: its machine, saved as it changes, the measures that follow from it. */
export function useMarks(dog: Dog) {
  const queries = useQueryClient()
  const [state, act] = useReducer(marksReducer, dog, (d) =>
    begin(d.photos[0]?.id ?? 0, Object.fromEntries(d.photos.map((p) => [p.id, p.marks]))),
  )
  const key = ['measure', dog.id]
  const measured = useQuery({ queryKey: key, queryFn: () => api.measure(dog.id) })
  const took = (answer: Measured) => {
    queries.setQueryData(key, answer)
    void queries.invalidateQueries({ queryKey: ['head', dog.id] })
    void queries.invalidateQueries({ queryKey: ['dog', dog.id] })
  }
  const saving = useSavedMarks(state.all, took)
  // One after the other, each on top of what the last one left: a calliper types faster than a server answers.
  const line = useRef<Promise<unknown>>(Promise.resolve())
  const now = () => queries.getQueryData<Dog>(['dog', dog.id]) ?? dog
  function inTurn(work: () => Promise<void>): Promise<void> {
    const turn = line.current.then(work)
    line.current = turn.catch(() => undefined)
    return turn
  }
  // A dog fetched before a change was kept must not come back over it.
  const unfetched = () => queries.cancelQueries({ queryKey: ['dog', dog.id] })
  const setHand = (change: (had: HandMeasure[]) => HandMeasure[]) =>
    inTurn(async () => {
      await unfetched()
      const hand_measures = change(now().hand_measures)
      const answer = await api.putHandMeasures(dog.id, hand_measures)
      await unfetched()
      queries.setQueryData(['dog', dog.id], { ...now(), hand_measures })
      took(answer)
    })
  const setProbes = (change: (had: Probe[]) => Probe[]) =>
    inTurn(async () => {
      await unfetched()
      const kept = await api.putProbes(dog.id, change(now().coat_probes))
      await unfetched()
      queries.setQueryData(['dog', dog.id], kept)
    })
  return { state, act, measured: measured.data, saving, setHand, setProbes }
}

/**
 * Sends each photo's marks once they have rested for a moment. A server that is away is tried again
 * until it has them; an answer that was overtaken by newer marks is not shown.
 */
function useSavedMarks(all: AllMarks, took: (answer: Measured) => void): Saving {
  const sent = useRef<AllMarks>(all)
  const tell = useRef(took)
  const [saving, setSaving] = useState<Saving>({ kind: 'saved' })
  const [round, setRound] = useState(0)
  useEffect(() => {
    tell.current = took
  })
  useEffect(() => {
    const ids = Object.keys(all).map(Number)
    const due = ids.filter((id) => all[id] !== sent.current[id])
    if (!due.length) return
    let overtaken = false
    let again: number | undefined
    const timer = window.setTimeout(async () => {
      setSaving((now) => (now.kind === 'waiting' ? now : { kind: 'saving' }))
      try {
        for (const id of due) {
          const marks = all[id] ?? {}
          const answer = await api.putMarks(id, marks)
          sent.current = { ...sent.current, [id]: marks }
          if (!overtaken) tell.current(answer)
        }
        if (!overtaken) setSaving({ kind: 'saved' })
      } catch (error) {
        if (overtaken) return
        const away = error instanceof Trouble && error.away
        setSaving({ kind: away ? 'waiting' : 'refused', reason: (error as Error).message })
        if (away) again = window.setTimeout(() => setRound((n) => n + 1), AGAIN_MS)
      }
    }, QUIET_MS)
    return () => {
      overtaken = true
      window.clearTimeout(timer)
      window.clearTimeout(again)
    }
  }, [all, round])
  return saving
}
