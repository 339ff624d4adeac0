import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, type Schemas } from '../../api/client'
import { forgetAnswers } from '../../kept/keptAnswers'

/** What is done to the salon as a whole; each refreshes what rests on it. */
export function useSalonRecord() {
  const queries = useQueryClient()
  const everything = () => queries.invalidateQueries()
  return {
    rename: async (name: string) => queries.setQueryData(['salon'], await api.nameSalon(name)),
    sayDays: async (days: Schemas['DaysIn']['days']) =>
      queries.setQueryData(['salon'], await api.sayDays(days)),
    demo: async (what: 'reset' | 'remove') => {
      queries.setQueryData(['salon'], await api.demo(what))
      await everything()
    },
    changePasscode: async (code: string) => {
      await api.putPasscode(code)
      await queries.invalidateQueries({ queryKey: ['entrance'] })
    },
    lock: async () => {
      const locked = await api.leave()
      // Else what was kept would open a locked tablet while the server is away.
      forgetAnswers()
      queries.setQueryData(['entrance'], locked)
    },
    restoreDog: async (dogId: number) => {
      await api.restoreDog(dogId)
      await everything()
    },
    purge: async (dogId: number, name: string) => {
      await api.purge(dogId, name)
      await everything()
    },
    importDog: async (bundle: File) => {
      const dog = await api.takeInBundle(bundle)
      await queries.invalidateQueries({ queryKey: ['today'] })
      return dog
    },
  }
}

export const useRemovedDogs = () => useQuery({ queryKey: ['removed'], queryFn: api.removed })

/** Of the certificate that tablets take in; empty where the salon has none. */
export const useFingerprint = () =>
  useQuery({ queryKey: ['trust'], queryFn: api.trust, staleTime: Infinity }).data?.fingerprint ?? ''

/** The very first start, with the demo dogs or with nobody. */
export function useFirstStart() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['BeginningIn']) => api.startSalon(body),
    onSuccess: async (salon) => {
      queries.setQueryData(['salon'], salon)
      await queries.invalidateQueries({ queryKey: ['today'] })
    },
  })
}
