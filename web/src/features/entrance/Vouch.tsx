import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState, type FormEvent } from 'react'
import { api } from '../../api/client'
import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'
import { PasscodeField } from './PasscodeField'

/** Running the salon from a tablet wants its passcode once more; asked where something was refused for it. */
export function Vouch() {
  const queries = useQueryClient()
  const [open, setOpen] = useState(false)
  const [code, setCode] = useState('')
  const [wrong, setWrong] = useState('')
  useEffect(() => {
    const ask = () => {
      setCode('')
      setWrong('')
      setOpen(true)
    }
    window.addEventListener('dapwick-vouch', ask)
    return () => window.removeEventListener('dapwick-vouch', ask)
  }, [])
  async function give(event: FormEvent) {
    event.preventDefault()
    try {
      await api.enterAgain(code)
      setOpen(false)
      await queries.invalidateQueries({ queryKey: ['entrance'] })
    } catch (error) {
      setWrong((error as Error).message)
      setCode('')
    }
  }
  if (!open) return null
  return (
    <Panel title="The passcode once more" onClose={() => setOpen(false)}>
      <form onSubmit={(event) => void give(event)}>
        <p className="mb-4">
          Backups, the passcode and purges are run at the salon’s own machine. With the passcode they can be
          run here for ten minutes; then press it again.
        </p>
        <PasscodeField code={code} wrong={wrong} onChange={setCode} />
        <Button look="firm" type="submit" className="w-full" disabled={!code}>
          Go on
        </Button>
      </form>
    </Panel>
  )
}
