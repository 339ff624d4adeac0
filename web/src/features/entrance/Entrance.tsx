import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState, type FormEvent, type ReactNode } from 'react'
import { api } from '../../api/client'
import { outbox } from '../../outbox/outbox'
import { Button } from '../../ui/Button'
import { PasscodeField } from './PasscodeField'

/** Asks a tablet for the passcode where it counts; what was begun before waits in the browser meanwhile. */
export function Entrance({ children }: { children: ReactNode }) {
  const queries = useQueryClient()
  const entrance = useQuery({ queryKey: ['entrance'], queryFn: api.entrance, staleTime: Infinity })
  useEffect(() => {
    const out = () => void queries.invalidateQueries({ queryKey: ['entrance'] })
    window.addEventListener('dapwick-kept-out', out)
    return () => window.removeEventListener('dapwick-kept-out', out)
  }, [queries])
  if (entrance.data?.passcode && !entrance.data.entered) return <AskCode />
  return children
}

function AskCode() {
  const queries = useQueryClient()
  const [code, setCode] = useState('')
  const [wrong, setWrong] = useState('')
  async function enter(event: FormEvent) {
    event.preventDefault()
    try {
      queries.setQueryData(['entrance'], await api.enter(code))
      outbox.tryNow()
      await queries.invalidateQueries()
    } catch (error) {
      setWrong((error as Error).message)
      setCode('')
    }
  }
  return (
    <main className="graph grid h-full place-items-center p-6">
      <form
        onSubmit={(event) => void enter(event)}
        className="w-full max-w-md rounded-xl border border-rule bg-sheet p-8"
      >
        <h1 className="mb-1 text-3xl font-bold tracking-tight">Dapwick</h1>
        <p className="mb-5 text-quiet">Give the salon’s passcode once on this tablet.</p>
        <PasscodeField code={code} wrong={wrong} onChange={setCode} />
        <Button look="firm" type="submit" className="w-full" disabled={!code}>
          Come in
        </Button>
      </form>
    </main>
  )
}
