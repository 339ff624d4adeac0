import { useEffect } from 'react'
import { api, type Dog, type Measured } from '../../api/client'
import type { Saving } from './useMarks'

const RESTED_MS = 1000

/** Once marks rest, the server begins with the outlines: they are there when somebody goes on. */
export function usePlansAhead(dog: Dog, measured: Measured | undefined, saving: Saving) {
  const solved = measured?.solved === true && saving.kind === 'saved'
  const { id, saved_outline: kept } = dog
  const setting = JSON.stringify({
    family: kept?.family ?? 'round',
    params: kept?.params ?? {},
    schools: kept?.schools ?? {},
  })
  useEffect(() => {
    if (!solved) return
    // Nobody waits for it: where it fails, the stage itself says why.
    const begin = () => void api.planAhead(id, JSON.parse(setting)).catch(() => undefined)
    const timer = window.setTimeout(begin, RESTED_MS)
    return () => window.clearTimeout(timer)
  }, [id, solved, measured, setting])
}
