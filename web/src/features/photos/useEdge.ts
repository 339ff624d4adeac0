import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useReducer, useRef, useState } from 'react'
import { api, type Edge, type Photo, type Trouble } from '../../api/client'
import { inTurn } from '../../ui/inTurn'
import { keepPast, withPast } from '../../undo/keptPast'
import {
  edgeReducer,
  held,
  noEdge,
  type ChalkStroke,
  type EdgeDrawn,
  type EdgeLine,
  type NeckLine,
} from './edgeMachine'

const KEPT_MS = 400

type Shape = Pick<EdgeDrawn, 'line' | 'neck'>

const pastName = (photoId: number) => `edge.${photoId}`

/** The last change of each photo's edge on its way out: a desk that is opened again waits for it. */
const going = new Map<number, Promise<unknown>>()

const shapeOf = (edge: Edge): Shape => ({ line: edge.line, neck: (edge.neck ?? null) as NeckLine | null })

/** Undo and redo of an edge as they were before a reload. */
function recalledPast(photoId: number, shape: Shape) {
  const none: { past: EdgeDrawn[]; future: EdgeDrawn[] } = { past: [], future: [] }
  return withPast(none, named(shape), pastName(photoId), sessionStorage)
}

/** What the server makes of a shape that is sent to it: tenths of a pixel. */
const named = ({ line, neck }: Shape) => [tenths(line), neck && tenths(neck)]
const tenths = (points: EdgeLine) => points.map(([x, y]) => [Math.round(10 * x), Math.round(10 * y)])

/** One photo's edge: loaded when the machine has found it, kept as it is corrected. */
export function useEdge(photo: Photo) {
  const queries = useQueryClient()
  const [state, act] = useReducer(edgeReducer, noEdge)
  const { drawn } = state
  const { line, neck, strokes } = drawn
  const base = useRef<string | null>(null)
  const [trouble, setTrouble] = useState('')
  const [looking, setLooking] = useState(false)
  const kept = useRef<Shape>(noEdge.drawn)
  const found = useQuery({
    queryKey: ['edge', photo.id, photo.has_edge],
    queryFn: async () => {
      await going.get(photo.id)
      return api.edge(photo.id)
    },
    gcTime: 0,
    staleTime: 0,
  })
  useEffect(() => {
    if (!found.data) return
    const shape = shapeOf(found.data.value)
    kept.current = shape
    base.current = found.data.version
    act({ type: 'loaded', ...shape, ...recalledPast(photo.id, shape) })
  }, [found.data, photo.id])
  useEffect(() => {
    if (line.length) keepPast(state, named({ line, neck }), pastName(photo.id), sessionStorage)
  }, [state, line, neck, photo.id])
  // Changes go out one after the other, so that the server ends with the line that is seen.
  const [oneByOne] = useState(() => inTurn(1))
  const change = useCallback(
    (work: () => Promise<void>) => {
      const done = oneByOne(async () => {
        try {
          await work()
          setTrouble('')
          await queries.invalidateQueries({ queryKey: ['dog'] })
        } catch (error) {
          const trouble = error as Trouble
          setTrouble(trouble.message)
          if (!trouble.overtaken) return
          // Another tablet drew it meanwhile: theirs is shown, undo leads back to this one's.
          const theirs = shapeOf((trouble.overtaken.now ?? { line: [] }) as Edge)
          base.current = trouble.overtaken.version
          kept.current = theirs
          setTrouble('Another tablet changed this edge meanwhile: theirs is shown. Undo brings yours back.')
          act({ type: 'overtaken', ...theirs })
        }
      })
      going.set(photo.id, done)
      return done
    },
    [oneByOne, queries, photo.id],
  )
  const keep = useCallback(
    async (shape: Shape) => {
      const { version } = await api.putEdge(photo.id, shape.line, shape.neck, base.current)
      base.current = version
      kept.current = shape
    },
    [photo.id],
  )
  const seen = useRef<Shape>(drawn)
  const unkept = useCallback(() => !same(seen.current, kept.current) && seen.current.line.length >= 3, [])
  useEffect(() => {
    seen.current = drawn
    const timer = window.setTimeout(() => {
      if (unkept()) void change(() => keep(seen.current))
    }, KEPT_MS)
    return () => window.clearTimeout(timer)
  }, [drawn, keep, change, unkept])
  // Leaving keeps what has not rested long enough yet.
  useEffect(
    () => () => {
      if (unkept()) void change(() => keep(seen.current))
    },
    [keep, change, unkept],
  )

  /** Has the server draw on from the line that is seen: a pull that is not kept yet goes first. */
  const redrawn = (
    ask: () => ReturnType<typeof api.followTrail>,
    act_: (line: EdgeLine) => Parameters<typeof act>[0],
  ) =>
    change(async () => {
      if (unkept()) await keep(seen.current)
      const { value, version } = await ask()
      base.current = version
      kept.current = { line: value.line, neck: seen.current.neck }
      act(act_(value.line))
    })
  const follow = (stroke: ChalkStroke) =>
    redrawn(
      () => api.followStrokes(photo.id, held(strokes, stroke)),
      (line) => ({ type: 'followed', line, stroke }),
    )
  const trace = (points: EdgeLine) =>
    redrawn(
      () => api.followTrail(photo.id, points),
      (line) => ({ type: 'pulled', line }),
    )
  /** The machine's line, laid beside what is drawn; a photo that was never looked at to its end is looked at now. */
  async function findAgain() {
    setLooking(true)
    try {
      if (!photo.looked) await api.lookAgain(photo.id)
      else act({ type: 'offered', line: (await api.findEdge(photo.id)).line })
      setTrouble('')
    } catch (error) {
      setTrouble((error as Error).message)
    }
    setLooking(false)
    void queries.invalidateQueries({ queryKey: ['dog'] })
  }
  async function stop() {
    await api.stopLooking(photo.id).catch((error: Error) => setTrouble(error.message))
    void queries.invalidateQueries({ queryKey: ['dog'] })
  }
  return { state, act, trouble, looking, follow, trace, findAgain, stop }
}

const same = (a: Shape, b: Shape) => a.line === b.line && a.neck === b.neck
