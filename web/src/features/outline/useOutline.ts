import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useReducer, useRef, useState } from 'react'
import { api, Trouble, type Dog } from '../../api/client'
import { begin, outlineReducer, type OutlineState } from './outlineMachine'

const AGAIN_MS = 2000

/** The Outline stage: its machine, drawn anew by the server as it changes, kept on request. */
export function useOutline(dog: Dog) {
  const saved = dog.saved_outline
  const [state, act] = useReducer(outlineReducer, saved, (s) =>
    begin(s?.family ?? 'round', s?.params ?? {}, s?.schools ?? {}, Boolean(s)),
  )
  const [trouble, setTrouble] = useState<Trouble | null>(null)
  const queries = useQueryClient()
  useDrawn(dog.id, state, act, setTrouble)

  async function keep() {
    try {
      await api.saveOutline(dog.id, {
        family: state.family,
        params: { ...state.params },
        schools: { ...state.schools },
        moving: false,
      })
      act({ type: 'kept' })
      setTrouble(null)
      await queries.invalidateQueries({ queryKey: ['dog', dog.id] })
    } catch (error) {
      setTrouble(error as Trouble)
    }
  }
  async function traceAgain() {
    await Promise.all(dog.photos.map((photo) => api.lookAgain(photo.id)))
    act({ type: 'ground_changed' })
  }
  return { state, act, trouble, keep, traceAgain }
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
          const { family, params, asked, drawing: before } = newest.current
          const drawing = await api.preview(dogId, {
            family,
            params: { ...params },
            schools: {},
            moving: before !== null,
          })
          sent = asked
          act({ type: 'drawn', request: asked, drawing })
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
