import { useMutation, useQuery } from '@tanstack/react-query'
import { api, type Dog } from '../../api/client'
import { saveAs } from '../../ui/saveAs'
import { said, type Setting } from './outlineMachine'

export type PictureSide = 'front' | 'side'

/** One picture for the owner; while the next one is drawn, the one before stays. */
export function useOwnerPicture(dog: Dog, setting: Setting, view: PictureSide, cut: boolean, weeks: number) {
  const { family, params, schools } = setting
  const asked = useQuery({
    queryKey: ['owner', dog.id, view, ...(cut ? [family, params, schools, weeks] : ['now'])],
    queryFn: ({ signal }) => api.picture(dog.id, { ...said(setting), weeks_ahead: weeks, view, cut }, signal),
    placeholderData: (before, query) => (query?.queryKey[2] === view ? before : undefined),
  })
  return { picture: asked.data, trouble: asked.error?.message, behind: asked.isPlaceholderData }
}

/** What shows as the outline grows out, first what shows first. */
export function useComing(dog: Dog, setting: Setting) {
  const { family, params, schools } = setting
  const asked = useQuery({
    queryKey: ['coming', dog.id, family, params, schools],
    queryFn: () => api.coming(dog.id, said(setting)),
  })
  return asked.data ?? []
}

/** Before and after on one page, saved as a file. */
export function usePage(dog: Dog, setting: Setting) {
  const asked = useMutation({
    mutationFn: (weeks: number) => api.page(dog.id, { ...said(setting), weeks_ahead: weeks }),
    onSuccess: (page) => saveAs(page, `${dog.name.toLowerCase()}-${setting.family}.png`),
  })
  return { save: asked.mutate, pending: asked.isPending, trouble: asked.error?.message }
}
