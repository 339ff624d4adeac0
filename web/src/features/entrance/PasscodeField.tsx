import type { Dispatch } from 'react'
import { Notice } from '../../ui/Notice'
import type { CodeAction, CodeState } from './codeMachine'

/** The salon's passcode as it is typed, and why it was not taken. */
export function PasscodeField({ state, act }: { state: CodeState; act: Dispatch<CodeAction> }) {
  return (
    <>
      <label className="mb-4 block">
        <span className="mb-1 block font-semibold">Passcode</span>
        <input
          autoFocus
          type="password"
          autoComplete="current-password"
          value={state.code}
          maxLength={64}
          onChange={(event) => act({ type: 'type', code: event.target.value })}
          className="h-14 w-full rounded-lg border border-rule bg-paper px-3 text-2xl tracking-widest"
        />
      </label>
      {state.wrong && <Notice tone="warn">{state.wrong}</Notice>}
    </>
  )
}
