import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api, type Schemas } from '../../api/client'

export type Errand = Schemas['ErrandOut']
const LOOK_MS = 400

/** Long work on the server: followed until it is over, then `over` once. */
export function useErrand(over: (errand: Errand) => void) {
  const queries = useQueryClient()
  const [started, setStarted] = useState<Errand | null>(null)
  const id = started?.id
  const followed = useQuery({
    queryKey: ['errand', id],
    queryFn: () => api.errand(id ?? 0),
    enabled: id !== undefined,
    refetchInterval: (query) => (query.state.data && query.state.data.kind !== 'working' ? false : LOOK_MS),
  })
  const errand = followed.data ?? started
  const ended = errand && errand.kind !== 'working' ? errand : null
  const told = useRef<number | null>(null)
  useEffect(() => {
    if (!ended || told.current === ended.id) return
    told.current = ended.id
    over(ended)
  }, [ended, over])
  const stop = async () => {
    if (id !== undefined) queries.setQueryData(['errand', id], await api.stopErrand(id))
  }
  return { errand, start: setStarted, stop }
}
