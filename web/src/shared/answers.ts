import type { QueryClient, QueryKey } from '@tanstack/react-query'

/**
 * After something was kept: what rests on it is asked anew. A first answer still on its way was asked before and would
 * stand as if it were the new one, so it is dropped.
 */
export async function fetchAnew(queries: QueryClient, queryKey: QueryKey) {
  await queries.cancelQueries({ queryKey })
  await queries.invalidateQueries({ queryKey })
}

/** What a press was answered is what stands: an answer still on its way was asked before and must not come back over it. */
export function putAnswer<Answer>(queries: QueryClient, queryKey: QueryKey, answer: Answer) {
  void queries.cancelQueries({ queryKey })
  queries.setQueryData(queryKey, answer)
}
