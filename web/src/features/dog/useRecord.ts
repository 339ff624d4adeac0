import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api, type Dog } from '../../api/client'
import { putAnswer } from '../../shared/answers'
import { toRemoved } from '../../shared/removed'

/** Every visit as it was kept. */
export const useHistory = (dogId: number) =>
  useQuery({ queryKey: ['history', dogId], queryFn: () => api.history(dogId) })

/** What can be done with a dog's whole record. */
export function useRecord(dog: Dog) {
  const queries = useQueryClient()
  const go = useNavigate()
  async function visitIs(now: Promise<Dog>) {
    putAnswer(queries, ['dog', dog.id], await now)
    await queries.invalidateQueries({ queryKey: ['history', dog.id] })
    await queries.invalidateQueries({ queryKey: ['today'] })
  }
  return {
    endVisit: () => visitIs(api.endVisit(dog.id)),
    reopenVisit: () => visitIs(api.reopenVisit(dog.id)),
    remove: async () => {
      await api.removeDog(dog.id)
      toRemoved({ id: dog.id, name: dog.name })
      await queries.invalidateQueries({ queryKey: ['today'] })
      void go('/')
    },
  }
}

/** A new visit begins; what was worked out for the one before is not shown for it. */
export function useNewVisit(dog: Dog) {
  const queries = useQueryClient()
  const go = useNavigate()
  return useMutation({
    mutationFn: () => api.newVisit(dog.id),
    onSuccess: (answer) => {
      putAnswer(queries, ['dog', dog.id], answer)
      for (const key of ['measure', 'head', 'next', 'history'])
        queries.removeQueries({ queryKey: [key, dog.id] })
      void queries.invalidateQueries({ queryKey: ['today'] })
      void go(`/dogs/${dog.id}/wishes`)
    },
  })
}
