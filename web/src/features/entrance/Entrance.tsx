import type { ReactNode } from 'react'
import { Button } from '../../ui/Button'
import { PasscodeField } from './PasscodeField'
import { useEntering, useKeptOut } from './useEntrance'

/** Asks a tablet for the passcode where it counts; what was begun before waits in the browser meanwhile. */
export function Entrance({ children }: { children: ReactNode }) {
  return useKeptOut() ? <AskCode /> : children
}

function AskCode() {
  const { state, act, give } = useEntering()
  return (
    <main className="graph grid h-full place-items-center p-6">
      <form
        onSubmit={(event) => {
          event.preventDefault()
          void give()
        }}
        className="w-full max-w-md rounded-xl border border-rule bg-sheet p-8"
      >
        <h1 className="mb-1 text-3xl font-bold tracking-tight">Dapwick</h1>
        <p className="mb-5 text-quiet">Give the salon’s passcode once on this tablet.</p>
        <PasscodeField state={state} act={act} />
        <Button look="firm" type="submit" className="w-full" disabled={!state.code}>
          Open
        </Button>
      </form>
    </main>
  )
}
