import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, type Dog, type Photo, type State, type View } from '../../api/client'

export type Progress =
  { kind: 'idle' } | { kind: 'sending'; name: string } | { kind: 'refused'; reason: string }

const slot = (view: View, state: State) => `${view}/${state}`

/** Photos of the open visit: adding, removing, bringing back, and how each slot is doing. */
export function usePhotos(dog: Dog) {
  const queries = useQueryClient()
  const [slots, setSlots] = useState<Record<string, Progress>>({})
  const [lastRemoved, setLastRemoved] = useState<number | null>(null)
  const refresh = () => queries.invalidateQueries({ queryKey: ['dog', dog.id] })
  const put = (key: string, progress: Progress) => setSlots((all) => ({ ...all, [key]: progress }))

  async function add(file: File, view: View, state: State) {
    const key = slot(view, state)
    put(key, { kind: 'sending', name: file.name })
    try {
      await api.addPhoto(dog.id, file, view, state)
      await refresh()
      put(key, { kind: 'idle' })
    } catch (error) {
      put(key, { kind: 'refused', reason: (error as Error).message })
    }
  }

  async function remove(photo: Photo) {
    try {
      await api.removePhoto(photo.id)
      setLastRemoved(photo.id)
      await refresh()
    } catch (error) {
      put(slot(photo.view, photo.state), { kind: 'refused', reason: (error as Error).message })
    }
  }

  async function move(photo: Photo, view: View, state: State, spare: boolean) {
    try {
      await api.movePhoto(photo.id, view, state, spare)
      await refresh()
    } catch (error) {
      put(slot(view, state), { kind: 'refused', reason: (error as Error).message })
    }
  }

  async function stop(photo: Photo) {
    await api.stopLooking(photo.id).catch(() => undefined)
    await refresh()
  }

  async function bringBack() {
    if (lastRemoved === null) return
    await api.restorePhoto(lastRemoved)
    setLastRemoved(null)
    await refresh()
  }

  return {
    add,
    remove,
    move,
    stop,
    bringBack,
    lastRemoved,
    inSlot: (view: View, state: State) => dog.photos.find((p) => p.view === view && p.state === state),
    progress: (view: View, state: State): Progress => slots[slot(view, state)] ?? { kind: 'idle' },
  }
}
