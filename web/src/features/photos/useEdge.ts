import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useReducer, useRef, useState } from 'react'
import { api, type Photo, type Trouble } from '../../api/client'
import { inTurn } from '../../ui/inTurn'
import { keepPast, withPast } from '../../undo/keptPast'
import { edgeReducer, held, noEdge, type ChalkStroke, type EdgeDrawn, type EdgeLine } from './edgeMachine'

const KEPT_MS = 400

const pastName = (photoId: number) => `edge.${photoId}`

/** Undo and redo of an edge as they were before a reload. */
function recalledPast(photoId: number, line: EdgeLine) {
  const none: { past: EdgeDrawn[]; future: EdgeDrawn[] } = { past: [], future: [] }
  return withPast(none, line, pastName(photoId), sessionStorage)
}

/** One photo's edge: loaded when the machine has found it, kept as it is corrected. */
export function useEdge(photo: Photo) {
  const queries = useQueryClient()
  const [state, act] = useReducer(edgeReducer, noEdge)
  const { line, strokes } = state.drawn
  const base = useRef<string | null>(null)
  const [trouble, setTrouble] = useState('')
  const kept = useRef<EdgeLine>([])
  const found = useQuery({
    queryKey: ['edge', photo.id, photo.has_edge],
    queryFn: () => api.edge(photo.id),
    gcTime: 0,
    staleTime: 0,
  })
  // Found again: what was drawn before stays one undo away.
  const foundAgain = useRef(false)
  useEffect(() => {
    if (!found.data) return
    const { value, version } = found.data
    if (foundAgain.current && !value.line.length) return
    kept.current = value.line
    base.current = version
    if (foundAgain.current) act({ type: 'pulled', line: value.line })
    else act({ type: 'loaded', line: value.line, ...recalledPast(photo.id, value.line) })
    foundAgain.current = false
  }, [found.data, photo.id])
  useEffect(() => {
    if (line.length) keepPast(state, line, pastName(photo.id), sessionStorage)
  }, [state, line, photo.id])
  // Changes go out one after the other, so that the server ends with the line that is seen.
  const [oneByOne] = useState(() => inTurn(1))
  const change = useCallback(
    (work: () => Promise<void>) =>
      oneByOne(async () => {
        try {
          await work()
          setTrouble('')
          await queries.invalidateQueries({ queryKey: ['dog'] })
        } catch (error) {
          const trouble = error as Trouble
          setTrouble(trouble.message)
          if (!trouble.overtaken) return
          // Another tablet drew it meanwhile: theirs is shown, undo leads back to this one's.
          const theirs = (trouble.overtaken.now ?? []) as EdgeLine
          base.current = trouble.overtaken.version
          kept.current = theirs
          setTrouble('Another tablet changed this edge meanwhile: theirs is shown. Undo brings yours back.')
          act({ type: 'pulled', line: theirs })
        }
      }),
    [oneByOne, queries],
  )
  const keep = useCallback(
    async (line: EdgeLine) => {
      const { version } = await api.putEdge(photo.id, line, base.current)
      base.current = version
      kept.current = line
    },
    [photo.id],
  )
  const seen = useRef(line)
  const unkept = useCallback(() => seen.current !== kept.current && seen.current.length >= 3, [])
  useEffect(() => {
    seen.current = line
    const timer = window.setTimeout(() => {
      if (unkept()) void change(() => keep(seen.current))
    }, KEPT_MS)
    return () => window.clearTimeout(timer)
  }, [line, keep, change, unkept])
  // Leaving keeps what has not rested long enough yet.
  useEffect(
    () => () => {
      if (unkept()) void change(() => keep(seen.current))
    },
    [keep, change, unkept],
  )

  const follow = (stroke: ChalkStroke) =>
    change(async () => {
      // A pull that is not kept yet goes first, so that the stroke falls on the line that is seen.
      if (unkept()) await keep(seen.current)
      const { value, version } = await api.followStrokes(photo.id, held(strokes, stroke))
      base.current = version
      kept.current = value.line
      act({ type: 'followed', line: value.line, stroke })
    })
  async function findAgain() {
    foundAgain.current = line.length > 0
    await api.lookAgain(photo.id).catch((error: Error) => setTrouble(error.message))
    void queries.invalidateQueries({ queryKey: ['dog'] })
  }
  async function stop() {
    await api.stopLooking(photo.id).catch((error: Error) => setTrouble(error.message))
    void queries.invalidateQueries({ queryKey: ['dog'] })
  }
  return { state, act, trouble, follow, findAgain, stop }
}
