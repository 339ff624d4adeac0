import { Button } from '../../ui/Button'
import { Panel } from '../../ui/Panel'
import { PasscodeField } from './PasscodeField'
import { useVouching } from './useEntrance'

/** Running the salon from a tablet wants its passcode once more; asked where something was refused for it. */
export function Vouch() {
  const { state, act, give } = useVouching()
  if (!state.open) return null
  return (
    <Panel title="The passcode again" onClose={() => act({ type: 'close' })}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          void give()
        }}
      >
        <p className="mb-4">
          Backups, the passcode and purges are run at the salon’s own machine. With the passcode they can be
          run here for ten minutes; then press it again.
        </p>
        <PasscodeField state={state} act={act} />
        <Button look="firm" type="submit" className="w-full" disabled={!state.code}>
          Go on
        </Button>
      </form>
    </Panel>
  )
}
