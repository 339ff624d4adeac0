import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useReducer, useState } from 'react'
import { api, type Dog, type State, type View } from '../../api/client'
import { beginCamera, cameraReducer, nextEmpty } from './cameraMachine'
import { BrowserCamera, SimulatedCamera, type CameraSource } from './source'

const BETWEEN_FRAMES_MS = 250
const AFTER_TROUBLE_MS = 1500

/** Runs a camera: frames to the guide and back, a photo into its slot, then on to the next empty one. */
export function useCamera(dog: Dog, slot: { view: View; state: State }, kind: CameraSource['kind']) {
  const queries = useQueryClient()
  const [now, act] = useReducer(cameraReducer, slot, beginCamera)
  const [source] = useState<CameraSource>(() =>
    kind === 'browser' ? new BrowserCamera() : new SimulatedCamera(),
  )
  const [picture, setPicture] = useState('')

  useEffect(() => {
    let left = false
    source
      .start()
      .then(() => !left && act({ type: 'started' }))
      .catch((error: Error) => !left && act({ type: 'refused', reason: error.message }))
    return () => {
      left = true
      source.stop()
    }
  }, [source])

  useEffect(() => source.point(now.view, now.state), [source, now.view, now.state])

  useEffect(() => {
    if (now.phase !== 'live') return
    const ended = new AbortController()
    const pause = (ms: number) => new Promise((resolve) => window.setTimeout(resolve, ms))
    async function guide() {
      while (!ended.signal.aborted) {
        try {
          const frame = await source.frame()
          if (source.kind === 'simulated') setPicture(URL.createObjectURL(frame))
          const guidance = await api.guideFrame(frame, now.view, ended.signal)
          if (ended.signal.aborted) return
          act({ type: 'guided', guidance })
          await pause(BETWEEN_FRAMES_MS)
        } catch (error) {
          if (ended.signal.aborted) return
          act({ type: 'trouble', reason: (error as Error).message })
          await pause(AFTER_TROUBLE_MS)
        }
      }
    }
    void guide()
    return () => ended.abort()
  }, [source, now.phase, now.view, now.state])

  async function bring(photo: Promise<File> | File) {
    const { view, state, taken } = now
    try {
      await api.addPhoto(dog.id, await photo, view, state)
      act({
        type: 'took',
        next: nextEmpty(dog.views_wanted[state] ?? [], dog.photos, state, [...taken, view]),
      })
      void queries.invalidateQueries({ queryKey: ['dog', dog.id] })
    } catch (error) {
      act({ type: 'trouble', reason: (error as Error).message })
    }
  }
  useEffect(() => {
    if (now.phase === 'taking') void bring(source.take())
    // Taking is done once for each time it begins.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [now.phase])

  useEffect(() => () => URL.revokeObjectURL(picture), [picture])
  return { now, act, bring, picture, stream: source instanceof BrowserCamera ? source.stream : null }
}
