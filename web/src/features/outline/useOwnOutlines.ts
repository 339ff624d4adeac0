import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, type Dog, type Outline } from '../../api/client'
import type { OutlineAction, Setting } from './outlineMachine'

const OWN = /^own-(\d+)$/
type Act = (action: OutlineAction) => void

/** The salon's own outlines: kept, removed, exported and imported as files. own: the id of the shown one, or 0. */
export function useOwnOutlines(dog: Dog, setting: Setting, act: Act) {
  const queries = useQueryClient()
  const own = Number(OWN.exec(setting.family)?.[1] ?? 0)
  const refresh = () => queries.invalidateQueries({ queryKey: ['choices'] })
  const keep = useMutation({
    mutationFn: ({ name, drawing }: { name: string; drawing: Outline }) =>
      api.keepOwn({
        name,
        family: setting.family,
        params: Object.fromEntries(drawing.parameters.map((p) => [p.id, p.value])),
        schools: Object.fromEntries(drawing.schools.map((s) => [s.id, s.chosen])),
      }),
    onSuccess: async (kept) => {
      await refresh()
      act({ type: 'family', family: kept.key })
    },
  })
  const importFile = useMutation({
    mutationFn: async (picked: File) => api.takeIn(await documentIn(picked)),
    onSuccess: refresh,
  })
  const remove = useMutation({
    mutationFn: () => api.removeOwn(own),
    onSuccess: async () => {
      act({ type: 'family', family: 'round' })
      await refresh()
      queries.removeQueries({ queryKey: ['thumb', dog.id, setting.family] })
    },
  })
  const wrong = keep.error ?? importFile.error ?? remove.error
  return { own, keep, importFile, remove, wrong, exported: () => api.ownFile(own) }
}

async function documentIn(picked: File): Promise<Record<string, unknown>> {
  try {
    return JSON.parse(await picked.text()) as Record<string, unknown>
  } catch {
    throw new Error(`${picked.name} is not an outline’s file. Choose one that was exported from a salon.`)
  }
}
