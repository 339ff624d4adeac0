import { useQueries, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { api, type Dog, type Outline, type Thumb } from '../../api/client'
import { useChoices } from '../../shared/queries'
import { inTurn } from '../../ui/inTurn'
import { said, type Setting } from './outlineMachine'
import { inPlaces } from './places'

/** Fitting keeps a core busy: two at a time leave the drawing its own. */
const turn = inTurn(2)

/** Every outline for this dog, each in its place: best first as they were when all were fitted last. */
export function useThumbs(dog: Dog) {
  const choices = useChoices()
  const thumbs = useQueries({
    queries: (choices.data ?? []).map(({ key }) => ({
      queryKey: ['thumb', dog.id, key],
      queryFn: ({ signal }: { signal: AbortSignal }) => turn(() => api.thumb(dog.id, key, signal), signal),
      staleTime: Infinity,
    })),
  })
  const found = thumbs.flatMap((t) => t.data ?? [])
  const all = found.length > 0 && thumbs.every((t) => t.data && !t.isFetching)
  const best = all ? bestFirst(found) : ''
  const [ranked, setRanked] = useState('')
  if (best && best !== ranked) setRanked(best)
  return { places: inPlaces(choices.data ?? [], found, ranked), fitted: found.length, all }
}

const bestFirst = (thumbs: readonly Thumb[]) =>
  [...thumbs]
    .sort((a, b) => a.rank - b.rank)
    .map((t) => t.family)
    .join()

/** Another family on this head, as it is fitted. */
export const useSecond = (dog: Dog, family: string) =>
  useQuery({
    queryKey: ['compare', dog.id, family, dog.wishes],
    enabled: Boolean(family),
    queryFn: () => api.preview(dog.id, { family, params: {}, schools: {}, weeks_ahead: 0 }),
  })

/** The outline nearest to one that this coat cannot carry today, which it can. */
export const useInstead = (dog: Dog, drawing: Outline) =>
  useQuery({
    queryKey: ['thumb', dog.id, drawing.family, 'instead'],
    queryFn: () => api.instead(dog.id, { family: drawing.family, params: {}, schools: {} }),
    staleTime: Infinity,
  })

/** A setting as it will be some weeks after the cut. */
export const useAhead = (dog: Dog, { family, params, schools }: Setting, weeks: number, wanted = true) =>
  useQuery({
    enabled: wanted,
    queryKey: ['ahead', dog.id, family, params, schools, weeks],
    queryFn: () => api.preview(dog.id, { ...said({ family, params, schools }), weeks_ahead: weeks }),
    placeholderData: (before) => before,
  })

/** The finished head as a file for other programs. */
export const finishedSurface = (dog: Dog, setting: Setting, ending: 'glb' | 'stl') =>
  api.surface(dog.id, { ...said(setting), ending })

const WAITS_AT_MOST_MS = 5000
const SEEN_MS = 100

/** Whether every outline is fitted, or enough was waited for one that is not: what is heavy to draw comes after them. */
function useAfterThumbs(dog: Dog): boolean {
  const { all } = useThumbs(dog)
  const [after, setAfter] = useState(false)
  useEffect(() => {
    // A moment more: the last of them is to be seen first.
    const timer = window.setTimeout(() => setAfter(true), all ? SEEN_MS : WAITS_AT_MOST_MS)
    return () => window.clearTimeout(timer)
  }, [all])
  return after
}

/** The head as a mesh, and the part of the product that turns it: asked again by itself when the server was away. */
export function useTurntable(dog: Dog) {
  const after = useAfterThumbs(dog)
  const mesh = useQuery({ queryKey: ['mesh', dog.id], queryFn: () => api.mesh(dog.id), enabled: after })
  const part = useQuery({
    queryKey: ['turntable'],
    queryFn: () => import('../../head3d/Turntable'),
    staleTime: Infinity,
    retry: true,
  })
  return after && mesh.data && part.data ? { mesh: mesh.data, Turntable: part.data.default } : null
}
