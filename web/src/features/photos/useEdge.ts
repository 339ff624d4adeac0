import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useReducer, useRef, useState } from 'react'
import { api, type Photo } from '../../api/client'
import { beginEdge, edgeReducer, type EdgeLine } from './edgeMachine'

const BRUSH_SHARE = 0.02
const KEPT_MS = 400

/** One photo's edge: loaded when the machine has found it, kept as it is corrected. */
export function useEdge(photo: Photo) {
  const queries = useQueryClient()
  const [state, act] = useReducer(edgeReducer, BRUSH_SHARE * photo.width_px, beginEdge)
  const [trouble, setTrouble] = useState('')
  const kept = useRef<EdgeLine>([])
  const found = useQuery({
    queryKey: ['edge', photo.id, photo.has_edge],
    queryFn: () => api.edge(photo.id),
    gcTime: 0,
    staleTime: 0,
  })
  useEffect(() => {
    if (!found.data) return
    kept.current = found.data
    act({ type: 'loaded', line: found.data })
  }, [found.data])
  useEffect(() => {
    if (state.line === kept.current || state.line.length < 3) return
    const timer = window.setTimeout(() => {
      api
        .putEdge(photo.id, state.line)
        .then(() => {
          kept.current = state.line
          setTrouble('')
          void queries.invalidateQueries({ queryKey: ['dog'] })
        })
        .catch((error: Error) => setTrouble(error.message))
    }, KEPT_MS)
    return () => window.clearTimeout(timer)
  }, [state.line, photo.id, queries])

  async function brush(stroke: EdgeLine, add: boolean) {
    try {
      // A pull that is not kept yet goes first, so that the stroke falls on the line that is seen.
      if (state.line !== kept.current && state.line.length >= 3) await api.putEdge(photo.id, state.line)
      const line = await api.brushEdge(photo.id, stroke, state.radiusPx, add)
      kept.current = line
      act({ type: 'changed', line })
      setTrouble('')
      if (!photo.has_edge) void queries.invalidateQueries({ queryKey: ['dog'] })
    } catch (error) {
      setTrouble((error as Error).message)
    }
  }
  async function findAgain() {
    await api.lookAgain(photo.id).catch((error: Error) => setTrouble(error.message))
    void queries.invalidateQueries({ queryKey: ['dog'] })
  }
  async function stop() {
    await api.stopLooking(photo.id).catch((error: Error) => setTrouble(error.message))
    void queries.invalidateQueries({ queryKey: ['dog'] })
  }
  return { state, act, trouble, brush, findAgain, stop }
}
