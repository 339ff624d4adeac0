import { useState } from 'react'
import { Link } from 'react-router'
import { Tape } from '../../app/Tape'
import { useSalon } from '../../app/useSalon'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { Choices } from '../../ui/Choices'
import { Notice } from '../../ui/Notice'
import { Settings } from '../../ui/Settings'
import { useAttempt } from '../../ui/useAttempt'
import { Backups } from './Backups'
import { Card } from './Card'
import { Hours, OffCard } from './Hours'
import { RemovedDogs } from './RemovedDogs'
import { Tablets } from './Tablets'
import { useSalonRecord } from './useSalonRecord'
import { Scroller } from '../../ui/Scroller'

/** The salon itself: name, tablets and passcode, backups, the demo, dogs that were removed. */
export function SalonScreen() {
  const salon = useSalon()
  return (
    <div className="flex h-full flex-col">
      <Tape>
        <Settings />
      </Tape>
      <Scroller role="main" outer="flex-1" className="p-5">
        <div className="mx-auto mb-4 flex max-w-6xl items-center gap-3">
          <Link to="/" className="underline">
            Today
          </Link>
          <h1 className="text-3xl font-bold tracking-tight">Salon</h1>
        </div>
        {salon.failureReason && !salon.data && <Notice tone="warn">{salon.failureReason.message}</Notice>}
        {salon.isPending && !salon.failureReason && <Notice>Loading the salon…</Notice>}
        {salon.data && (
          <div className="mx-auto grid max-w-6xl grid-cols-2 items-start gap-4 portrait:grid-cols-1">
            <div className="flex flex-col gap-4">
              <Name key={salon.data.name} salon={salon.data} />
              <Tablets salon={salon.data} />
              <Days salon={salon.data} />
              <Hours />
              <Demo salon={salon.data} />
            </div>
            <div className="flex flex-col gap-4">
              <OffCard />
              <Backups />
              <RemovedDogs />
            </div>
            <p className="text-sm text-quiet">Dapwick {salon.data.version}</p>
          </div>
        )}
      </Scroller>
    </div>
  )
}

function Name({ salon }: { salon: Schemas['SalonOut'] }) {
  const record = useSalonRecord()
  const [name, setName] = useState(salon.name)
  const { attempt, wrong } = useAttempt()
  return (
    <Card title="Name">
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          void attempt(() => record.rename(name))
        }}
      >
        <input
          value={name}
          maxLength={60}
          aria-label="The salon’s name"
          onChange={(event) => setName(event.target.value)}
          className="h-12 min-w-0 flex-1 rounded-lg border border-rule bg-paper px-3 text-lg"
        />
        <Button type="submit" disabled={!name.trim() || name === salon.name}>
          Save
        </Button>
      </form>
      {wrong}
    </Card>
  )
}

const DAYS = { day_first: '28 November, 14:30', month_first: 'November 28, 2:30 pm' } as const

/** How days and times are said on every screen and card. */
function Days({ salon }: { salon: Schemas['SalonOut'] }) {
  const record = useSalonRecord()
  const { attempt, wrong } = useAttempt()
  return (
    <Card title="Days and times">
      <Choices
        label="Said as"
        value={salon.days}
        choices={DAYS}
        onChange={(days) => void attempt(() => record.sayDays(days))}
      />
      {wrong}
    </Card>
  )
}

function Demo({ salon }: { salon: Schemas['SalonOut'] }) {
  const record = useSalonRecord()
  const { attempt, wrong, busy } = useAttempt()
  const [sure, setSure] = useState(false)
  if (!salon.demo) return null
  const run = (what: 'reset' | 'remove') =>
    attempt(async () => {
      await record.demo(what)
      setSure(false)
    })
  return (
    <Card title="Demo dogs">
      <p className="mb-3 text-quiet">
        The nine dogs of the Net Loft are simulated. Your own dogs stay as they are, whatever you do with
        these.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button disabled={busy} onClick={() => void run('reset')}>
          {busy ? 'One moment…' : 'Reset demo'}
        </Button>
        {sure ? (
          <Button look="firm" disabled={busy} onClick={() => void run('remove')}>
            Yes, remove all nine for good
          </Button>
        ) : (
          <Button disabled={busy} onClick={() => setSure(true)}>
            Remove demo dogs
          </Button>
        )}
      </div>
      {wrong}
    </Card>
  )
}
