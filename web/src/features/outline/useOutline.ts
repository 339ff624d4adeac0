import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api, Trouble, type Dog, type Wishes } from '../../api/client'
import { askChange, change, partOf, useKept, usePart } from '../../outbox/useOutbox'
import { fetchAnew } from '../../shared/answers'
import { useKeptPast } from '../../undo/keptPast'
import { begin, outlineReducer, said, type OutlineState } from './outlineMachine'

const AGAIN_MS = 2000

/** The Outline stage: its machine, drawn anew by the server as it changes, kept on request. */
export function useOutline(dog: Dog) {
  const saved = dog.saved_outline
  // What was tried and not kept yet comes back too, as long as nobody has kept another outline since.
  const [state, act] = useKeptPast(
    outlineReducer,
    () => begin(saved?.family ?? 'round', saved?.params ?? {}, saved?.schools ?? {}, Boolean(saved)),
    () => saved?.saved ?? '',
    `outline.${dog.id}.${dog.visits.at(-1)?.id ?? 0}`,
    ({ setting, kept }) => ({ setting, kept }),
  )
  const [trouble, setTrouble] = useState<Trouble | null>(null)
  const queries = useQueryClient()
  useDrawn(dog.id, state, act, setTrouble)

  async function attempt(work: () => Promise<void>) {
    try {
      await work()
      setTrouble(null)
    } catch (error) {
      setTrouble(error as Trouble)
    }
  }
  const keep = () =>
    attempt(async () => {
      await askChange(dog, 'outline', said(state.setting))
      act({ type: 'kept' })
    })
  /** Head, coat or wishes are other ones: everything that rests on them is drawn anew. */
  async function groundChanged() {
    act({ type: 'ground_changed' })
    await fetchAnew(queries, ['thumb', dog.id])
    await fetchAnew(queries, ['mesh', dog.id])
  }
  // An edge traced, or a scale card seen, since the last drawing makes it stale.
  const looked = dog.photos.filter((p) => p.looked).length
  const drawnAt = useRef(looked)
  useEffect(() => {
    if (drawnAt.current === looked) return
    drawnAt.current = looked
    act({ type: 'ground_changed' })
    void fetchAnew(queries, ['thumb', dog.id])
    void fetchAnew(queries, ['mesh', dog.id])
  }, [looked, queries, dog.id, act])
  const traceAgain = () =>
    attempt(async () => {
      await Promise.all(dog.photos.map((photo) => api.lookAgain(photo.id)))
      await groundChanged()
    })
  const wish = (wishes: Wishes) => change(dog, 'wishes', { ...wishes, words: null })
  useKept(({ part }) => {
    if (part === partOf(dog.id, 'wishes')) void groundChanged()
  })
  // A wish that the server does not have yet is not in the drawing either.
  const wished = usePart(partOf(dog.id, 'wishes')) === 'kept'
  return {
    state,
    act,
    settled: looked === dog.photos.length && wished && state.shown === state.asked,
    trouble,
    keep,
    traceAgain,
    wish,
  }
}

type Act = (action: Parameters<typeof outlineReducer>[1]) => void

/** One request at a time; when it is back, the newest setting goes next and those between are never sent. */
function useDrawn(dogId: number, state: OutlineState, act: Act, setTrouble: (t: Trouble | null) => void) {
  const newest = useRef(state)
  const busy = useRef(false)
  useEffect(() => {
    newest.current = state
  })
  useEffect(() => {
    async function draw() {
      if (busy.current) return
      busy.current = true
      let sent = 0
      try {
        while (sent !== newest.current.asked) {
          const now = newest.current
          // A quick drawing first, so that the new shape shows at once; the whole of it when at rest.
          const quick = now.drawing !== null && now.drawing.family === now.setting.family
          if (now.moving && quick)
            act({ type: 'moved', request: now.asked, drawing: await api.moving(dogId, said(now.setting)) })
          else
            act({
              type: 'drawn',
              request: now.asked,
              drawing: await api.preview(dogId, { ...said(now.setting), weeks_ahead: 0 }),
            })
          sent = now.asked
          setTrouble(null)
        }
      } catch (error) {
        setTrouble(error as Trouble)
        if (error instanceof Trouble && error.away) again = window.setTimeout(() => void draw(), AGAIN_MS)
      } finally {
        busy.current = false
      }
    }
    let again: number | undefined
    void draw()
    return () => window.clearTimeout(again)
  }, [dogId, state.asked, act, setTrouble])
}
