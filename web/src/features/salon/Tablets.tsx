import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { useAttempt } from '../../ui/useAttempt'
import { Card } from './Card'
import { useFingerprint, useSalonRecord } from './useSalonRecord'

/** How tablets reach the salon, and the passcode that lets them in. */
export function Tablets({ salon }: { salon: Schemas['SalonOut'] }) {
  if (!salon.network)
    return (
      <Card title="Tablets">
        <p>
          This salon answers on its own machine only, so no passcode is asked. To let tablets on the salon’s
          network in, start it with <code className="rounded bg-paper px-1">make demo HOST=0.0.0.0</code> or{' '}
          <code className="rounded bg-paper px-1">dapwick serve --host 0.0.0.0</code>; it then prints a
          passcode.
        </p>
      </Card>
    )
  return (
    <Card title="Tablets">
      <div className="flex flex-wrap gap-5">
        <img
          src="/api/salon/address.svg"
          alt={`QR code of ${salon.address ?? ''}`}
          className="size-44 shrink-0 self-start rounded-lg border border-rule bg-white"
        />
        <div className="min-w-60 flex-1">
          <p className="mb-3">
            Point the tablet’s camera here, or open <b className="break-all">{salon.address}</b>. In three
            steps the tablet comes to trust the salon; then give the passcode once.
          </p>
          <Fingerprint />
          <Passcode />
        </div>
      </div>
    </Card>
  )
}

/** To compare with what a tablet shows: the certificate it takes in is this salon's. */
function Fingerprint() {
  const fingerprint = useFingerprint()
  if (!fingerprint) return null
  return (
    <p className="mb-3 text-sm text-quiet">
      Certificate of this salon:
      <span className="block tracking-wide text-ink" data-fingerprint>
        {fingerprint}
      </span>
    </p>
  )
}

function Passcode() {
  const record = useSalonRecord()
  const { attempt, wrong, busy } = useAttempt()
  const [code, setCode] = useState('')
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        void attempt(async () => {
          await record.changePasscode(code)
          setCode('')
        })
      }}
    >
      <label>
        <span className="mb-1 block font-semibold">A new passcode</span>
        <input
          value={code}
          minLength={6}
          maxLength={64}
          autoComplete="off"
          onChange={(event) => setCode(event.target.value)}
          className="h-12 w-full rounded-lg border border-rule bg-paper px-3 text-lg"
        />
      </label>
      <p className="text-sm text-quiet">
        At least six letters or digits. Every tablet, this one too, has to give the new one.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button type="submit" disabled={busy || code.length < 6}>
          Change passcode
        </Button>
        <Button type="button" disabled={busy} onClick={() => void attempt(record.lock)}>
          Lock this tablet
        </Button>
      </div>
      {wrong}
    </form>
  )
}
