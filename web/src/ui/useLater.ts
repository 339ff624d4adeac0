import { useEffect, useState } from 'react'

/** A value that is taken over once it has stood still for a while. */
export function useLater<T>(value: T, stillMs: number): T {
  const [taken, setTaken] = useState(value)
  useEffect(() => {
    const timer = window.setTimeout(() => setTaken(value), stillMs)
    return () => window.clearTimeout(timer)
  }, [value, stillMs])
  return taken
}
