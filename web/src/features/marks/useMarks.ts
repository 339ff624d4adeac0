import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { api, type Dog, type HandMeasure, type Measured, type Probe } from '../../api/client'
import { outbox } from '../../outbox/outbox'
import { asking, of, wished } from '../../outbox/outboxMachine'
import { askChange, useBox, useKept, useWished, wishedNow } from '../../outbox/useOutbox'
import { fetchAnew, putAnswer } from '../../shared/answers'
import { useKeptPast } from '../../undo/keptPast'
import { begin, marksReducer, type AllMarks, type Marks } from './marksMachine'
import { viewWords } from '../../shared/words'

export type Saving = { kind: 'saved' } | { kind: 'saving' } | { kind: 'waiting' | 'refused'; reason: string }

const QUIET_MS = 250
const AWAY_WORDS = 'The server does not answer: kept here, sent when it does.'
const marksPart = (photoId: number) => `marks/${photoId}`
type MarksBody = { marks: Marks }

/** The Marks stage: its machine, kept as it changes, the measures that follow from it. */
export function useMarks(dog: Dog) {
  const queries = useQueryClient()
  const [state, act] = useKeptPast(
    marksReducer,
    () => begin(dog.photos[0]?.id ?? 0, Object.fromEntries(dog.photos.map((p) => [p.id, marksNow(p)]))),
    (s) => s.all,
    `marks.${dog.id}.${dog.visits.at(-1)?.id ?? 0}`,
  )
  const key = ['measure', dog.id]
  const measured = useQuery({ queryKey: key, queryFn: () => api.measure(dog.id) })
  const saving = useSavedMarks(dog, state.all, act)
  useKept(({ part, answer }) => {
    const mine = part === `hand-measures/${dog.id}` || dog.photos.some((p) => part === marksPart(p.id))
    if (!mine) return
    // An answer that newer marks have overtaken is not shown.
    const more = dog.photos.some((p) => of(outbox.get(), marksPart(p.id)).length)
    if (!more) putAnswer(queries, key, answer as Measured)
    void fetchAnew(queries, ['head', dog.id])
    void fetchAnew(queries, ['dog', dog.id])
  })
  const hand = useWished(dog, 'hand-measures') ?? dog.hand_measures
  const probes = useWished(dog, 'coat-probes') ?? dog.coat_probes
  const now = () => queries.getQueryData<Dog>(['dog', dog.id]) ?? dog
  // Each on top of what the last one left: a calliper types faster than a server answers.
  const setHand = (change: (had: HandMeasure[]) => HandMeasure[]) =>
    askChange(now(), 'hand-measures', change(wishedNow(dog.id, 'hand-measures') ?? now().hand_measures))
  const setProbes = (change: (had: Probe[]) => Probe[]) =>
    askChange(now(), 'coat-probes', change(wishedNow(dog.id, 'coat-probes') ?? now().coat_probes))
  return {
    state,
    act,
    measured: measured.data,
    saving,
    dog: { ...dog, hand_measures: hand, coat_probes: probes },
    setHand,
    setProbes,
  }
}

/** A photo's marks as they are wished, which may be ahead of the server. */
const marksNow = (photo: Dog['photos'][number]): Marks =>
  (wished(outbox.get(), marksPart(photo.id)) as MarksBody | undefined)?.marks ?? photo.marks

/**
 * Puts each photo's marks into the outbox once they have rested for a moment, on top of the version they were drawn
 * from; takes over what another tablet has changed while nothing of this one is on its way.
 */
function useSavedMarks(
  dog: Dog,
  all: AllMarks,
  act: (action: { type: 'theirs'; photoId: number; marks: Marks }) => void,
): Saving {
  const box = useBox()
  const put = useRef<AllMarks>(all)
  const [rested, setRested] = useState<AllMarks>(all)
  const bases = useRef(new Map(dog.photos.map((p) => [p.id, p.versions['marks'] ?? null])))
  const seen = useRef(new Set(dog.photos.map((p) => p.versions['marks'])))
  const newest = useRef({ dog, all })
  useEffect(() => {
    newest.current = { dog, all }
  })
  useKept(({ part, version }) => {
    const photo = dog.photos.find((p) => part === marksPart(p.id))
    if (!photo || !version) return
    bases.current.set(photo.id, version)
    seen.current.add(version)
  })
  const putDue = useCallback(() => {
    for (const photo of newest.current.dog.photos) {
      const marks = newest.current.all[photo.id]
      if (!marks || marks === put.current[photo.id]) continue
      put.current = { ...put.current, [photo.id]: marks }
      const base = bases.current.get(photo.id) ?? null
      const words = `The marks on ${viewWords(photo.view)} of ${newest.current.dog.name}`
      outbox.put({
        part: marksPart(photo.id),
        words,
        path: `/api/photos/${photo.id}/marks`,
        body: { marks },
        base,
      })
    }
    setRested(put.current)
  }, [])
  useEffect(() => {
    const timer = window.setTimeout(putDue, QUIET_MS)
    return () => window.clearTimeout(timer)
  }, [all, putDue])
  // Leaving the stage keeps what has not rested long enough yet.
  useEffect(() => putDue, [putDue])
  useEffect(() => {
    for (const photo of dog.photos) {
      const version = photo.versions['marks']
      if (seen.current.has(version) || of(outbox.get(), marksPart(photo.id)).length) continue
      seen.current.add(version)
      bases.current.set(photo.id, version ?? null)
      put.current = { ...put.current, [photo.id]: photo.marks }
      act({ type: 'theirs', photoId: photo.id, marks: photo.marks })
    }
  }, [dog, act])
  const mine = box.changes.filter((c) => dog.photos.some((p) => c.part === marksPart(p.id)))
  const asked = asking(box).find((c) => mine.includes(c))
  if (asked?.state.kind === 'refused' || asked?.state.kind === 'overtaken')
    return { kind: 'refused', reason: asked.state.reason }
  const ahead = dog.photos.some((p) => all[p.id] !== undefined && all[p.id] !== rested[p.id])
  if (!mine.length) return ahead ? { kind: 'saving' } : { kind: 'saved' }
  return box.away ? { kind: 'waiting', reason: AWAY_WORDS } : { kind: 'saving' }
}
