import { useEffect, useState } from 'react'
import { SERVER_EVENT } from '../api/client'

/** The time of day of a kept answer that is shown now ('' where it is not known); null while the server answers. */
export function useKeptAt(): string | null {
  const [at, setAt] = useState<string | null>(null)
  useEffect(() => {
    const told = (event: Event) => {
      const kept = (event as CustomEvent<string | null>).detail
      setAt(kept === null ? null : timeOf(kept))
    }
    window.addEventListener(SERVER_EVENT, told)
    return () => window.removeEventListener(SERVER_EVENT, told)
  }, [])
  return at
}

function timeOf(kept: string): string {
  const date = new Date(kept)
  return Number.isNaN(date.getTime()) ? '' : date.toTimeString().slice(0, 5)
}
