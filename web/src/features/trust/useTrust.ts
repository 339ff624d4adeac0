import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { api } from '../../api/client'

export type Trust =
  { kind: 'asking' } | { kind: 'open' } | { kind: 'needed'; secure: string; fingerprint: string }

const TRIED_EVERY_MS = 2500

/** Whether this page may be the salon, or has to lead to its https address first; once that is trusted it goes there
 * by itself, to the same screen. */
export function useTrust(): Trust {
  const plain = !window.isSecureContext
  const told = useQuery({ queryKey: ['trust'], queryFn: api.trust, enabled: plain, staleTime: Infinity })
  const secure = (plain && told.data?.secure) || null
  useEffect(() => {
    if (!secure) return
    const left = new AbortController()
    async function look() {
      try {
        await fetch(`${secure}/api/trust`, { cache: 'no-store', signal: left.signal })
        window.location.replace(here(String(secure)))
      } catch {
        if (!left.signal.aborted) timer = window.setTimeout(() => void look(), TRIED_EVERY_MS)
      }
    }
    let timer = window.setTimeout(() => void look(), 0)
    return () => {
      left.abort()
      window.clearTimeout(timer)
    }
  }, [secure])
  if (!plain || (told.data && !secure)) return { kind: 'open' }
  if (!secure) return { kind: 'asking' }
  return { kind: 'needed', secure, fingerprint: told.data?.fingerprint ?? '' }
}

/** This very screen at the https address. */
export const here = (secure: string) => secure + window.location.pathname + window.location.search
