import { useQuery } from '@tanstack/react-query'
import { api, type Dog } from '../../api/client'
import { said, type Setting } from './outlineMachine'

/** How many weeks an outline lasts, and what to set for more. */
export const useLasting = (dog: Dog, setting: Setting) =>
  useQuery({
    queryKey: [
      'lasting',
      dog.id,
      setting.family,
      setting.params,
      setting.schools,
      dog.versions['wishes'] ?? '',
    ],
    queryFn: () => api.lasting(dog.id, said(setting)),
    placeholderData: (before) => before,
  })
