import { useState, type ReactNode } from 'react'
import { Notice } from './Notice'

/** Something tried on a button: busy while it runs, and what was wrong, in words, ready to be shown. */
export function useAttempt() {
  const [busy, setBusy] = useState(false)
  const [reason, setReason] = useState('')
  async function attempt(work: () => Promise<unknown>): Promise<boolean> {
    setBusy(true)
    try {
      await work()
      setReason('')
      return true
    } catch (error) {
      setReason((error as Error).message)
      return false
    } finally {
      setBusy(false)
    }
  }
  const wrong: ReactNode = reason && <Notice tone="warn">{reason}</Notice>
  return { attempt, wrong, busy }
}
