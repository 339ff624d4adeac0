import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type Dog, type Photo, type Place, type State, type View } from '../../api/client'
import { useKeptPast } from '../../undo/keptPast'
import { inverse, nothingDone, photosPastReducer, type Did } from './photosPast'

export type Progress =
  { kind: 'idle' } | { kind: 'sending'; name: string } | { kind: 'refused'; reason: string }

const slot = (view: View, state: State) => `${view}/${state}`

/** Photos of the open visit: adding, removing, bringing back, and how each slot is doing. */
export function usePhotos(dog: Dog) {
  const queries = useQueryClient()
  const [slots, setSlots] = useState<Record<string, Progress>>({})
  const [past, act] = useKeptPast(
    photosPastReducer,
    () => nothingDone,
    () => '',
    `photos.${dog.id}.${dog.visits.at(-1)?.id ?? 0}`,
  )
  const [wrong, setWrong] = useState('')
  const refresh = () => queries.invalidateQueries({ queryKey: ['dog', dog.id] })
  const put = (key: string, progress: Progress) => setSlots((all) => ({ ...all, [key]: progress }))

  async function add(file: File, view: View, state: State) {
    const key = slot(view, state)
    put(key, { kind: 'sending', name: file.name })
    try {
      const added = await api.addPhoto(dog.id, file, view, state)
      act({ type: 'did', did: { kind: 'added', photo: added.id } })
      await refresh()
      put(key, { kind: 'idle' })
    } catch (error) {
      put(key, { kind: 'refused', reason: (error as Error).message })
    }
  }

  async function remove(photo: Photo) {
    try {
      await api.removePhoto(photo.id)
      act({ type: 'did', did: { kind: 'removed', photo: photo.id } })
      await refresh()
    } catch (error) {
      put(slot(photo.view, photo.state), { kind: 'refused', reason: (error as Error).message })
    }
  }

  /** All at once or none; what lay in the slots changes places with them, and one undo takes all of it back. */
  async function move(moves: readonly { photo: Photo; to: Place }[]) {
    try {
      const moved = await api.movePhotos(
        moves.map(({ photo, to }) => ({ photo_id: photo.id, to, version: photo.versions['slot'] ?? null })),
      )
      const kept = moved.map((one) => ({ photo: one.photo_id, from: one.was, to: one.now }))
      if (kept.length) act({ type: 'did', did: { kind: 'moved', moves: kept } })
      setWrong('')
    } catch (error) {
      setWrong((error as Error).message)
    }
    await refresh()
  }

  /** Wet, dry or finished of a whole burst; what is not in a slot stays beside them. */
  function turn(photos: readonly Photo[], state: State) {
    return move(
      photos.map((photo) => ({
        photo,
        to: { view: photo.view, state, spare: photo.spare, maybe: photo.maybe },
      })),
    )
  }

  async function stop(photo: Photo) {
    await api.stopLooking(photo.id).catch(() => undefined)
    await refresh()
  }

  /** Take back the last thing done, or do again what was taken back. */
  async function back(way: 'undone' | 'redone') {
    const did = way === 'undone' ? past.past.at(-1) : past.future[0]
    if (!did) return
    try {
      await again(way === 'undone' ? inverse(did) : did)
      act({ type: way })
      setWrong('')
    } catch (error) {
      setWrong((error as Error).message)
    }
    await refresh()
  }

  return {
    add,
    remove,
    move,
    turn,
    stop,
    undo: past.past.length ? () => void back('undone') : null,
    redo: past.future.length ? () => void back('redone') : null,
    wrong,
    inSlot: (view: View, state: State) => dog.photos.find((p) => p.view === view && p.state === state),
    progress: (view: View, state: State): Progress => slots[slot(view, state)] ?? { kind: 'idle' },
  }
}

function again(did: Did): Promise<unknown> {
  switch (did.kind) {
    case 'added':
      return api.restorePhoto(did.photo)
    case 'removed':
      return api.removePhoto(did.photo)
    case 'moved':
      return api.movePhotos(did.moves.map(({ photo, to }) => ({ photo_id: photo, to, version: null })))
  }
}
