import { Archive, Download, RotateCcw, Upload } from 'lucide-react'
import { useRef, useState } from 'react'
import { askPasscodeAgain, type Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { Notice } from '../../ui/Notice'
import { Panel } from '../../ui/Panel'
import { useAttempt } from '../../ui/useAttempt'
import { shortDay, timeWords } from '../../shared/days'
import { Card } from './Card'
import { endWords, isUnderWay, type Job } from './backupsMachine'
import { useBackups } from './useBackups'
import { useEntrance } from '../../shared/queries'

type Backup = Schemas['BackupOut']
const SHOWN = 6

/** Copies of the whole salon: day by day by itself, now on request, and back again. */
export function Backups() {
  const { backups, state, act, backUp, restore, undoRestore, stop, keepSetting } = useBackups()
  const entrance = useEntrance()
  const runs = entrance.data?.runs ?? true
  const { attempt, wrong, busy } = useAttempt()
  const given = useRef<HTMLInputElement>(null)
  const { job, wanted } = state
  const shut = busy || isUnderWay(job)
  const now = backups.data
  if (!now) return <Card title="Backups">{backups.failureReason?.message ?? 'Loading…'}</Card>
  return (
    <Card title="Backups">
      <Setting key={now.folder} now={now} keepSetting={keepSetting} />
      <div className="mb-3 flex flex-wrap gap-2">
        <Button look="firm" disabled={shut} onClick={() => void attempt(backUp)}>
          <Archive size={18} aria-hidden /> Back up now
        </Button>
        <Button onClick={() => given.current?.click()} disabled={shut}>
          <Upload size={18} aria-hidden /> Restore from a file
        </Button>
        <input
          ref={given}
          type="file"
          accept=".zip"
          aria-label="A backup’s file"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const file = event.target.files?.[0]
            event.target.value = ''
            if (file) act({ type: 'want', wanted: { name: file.name, file } })
          }}
        />
        {now.undo && (
          <Button disabled={shut} onClick={() => void attempt(undoRestore)}>
            <RotateCcw size={18} aria-hidden /> Undo last restore
          </Button>
        )}
      </div>
      {job && <Progress job={job} onStop={() => void stop()} />}
      {wrong}
      {now.missing.length > 0 && (
        <Notice tone="warn">
          <p data-missing>
            {now.missing.length === 1 ? 'One photo’s file is' : `${now.missing.length} photos’ files are`}{' '}
            gone; everything else is in the backups. Restore a backup that has{' '}
            {now.missing.length === 1 ? 'it' : 'them'}, or remove {now.missing.length === 1 ? 'it' : 'them'}{' '}
            from the dog’s photos:
          </p>
          <ul className="list-disc pl-5">
            {now.missing.slice(0, SHOWN).map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </Notice>
      )}
      {now.trouble && <Notice tone="warn">The daily copy failed: {now.trouble}</Notice>}
      <ul>
        {now.backups.slice(0, SHOWN).map((backup) => (
          <Line
            key={backup.name}
            backup={backup}
            runs={runs}
            onRestore={() => act({ type: 'want', wanted: { name: backup.name, file: null } })}
          />
        ))}
      </ul>
      {now.backups.length === 0 && <p className="text-quiet">None yet.</p>}
      {wanted && (
        <Panel title="Restore this backup?" onClose={() => act({ type: 'cancel' })}>
          <p className="mb-2">
            All dogs, visits and photos become what they were in <b className="break-all">{wanted.name}</b>,
            on every tablet.
          </p>
          <p className="mb-5">What is here now is kept beside it: the restore can be undone.</p>
          <div className="flex justify-end gap-3">
            <Button onClick={() => act({ type: 'cancel' })}>Cancel</Button>
            <Button look="firm" disabled={busy} onClick={() => void attempt(async () => restore())}>
              Restore
            </Button>
          </div>
        </Panel>
      )}
    </Card>
  )
}

function Progress({ job, onStop }: { job: Job; onStop: () => void }) {
  if (!isUnderWay(job))
    return <Notice tone={job.kind === 'failed' ? 'warn' : 'plain'}>{endWords(job)}</Notice>
  return (
    <div className="mb-3 flex items-center gap-3" role="status" data-job={job.kind}>
      <progress value={job.share} max={1} className="h-3 flex-1" aria-label={job.what} />
      <span className="w-44 truncate text-sm">{job.words}</span>
      <Button onClick={onStop}>Stop</Button>
    </div>
  )
}

function Line({ backup, runs, onRestore }: { backup: Backup; runs: boolean; onRestore: () => void }) {
  return (
    <li className="flex items-center gap-2 border-t border-rule py-1" data-backup={backup.name}>
      <span className="min-w-0 flex-1">
        <b>
          {backup.made
            ? `${shortDay(backup.made.slice(0, 10))}, ${timeWords(backup.made.slice(11, 16))}`
            : '—'}
        </b>
        <span className="block truncate text-sm text-quiet">
          {backup.trouble || `${backup.photos} photos · ${sizeWords(backup.bytes)} · ${backup.name}`}
        </span>
      </span>
      {backup.whole && (
        <a
          href={`/api/backups/${backup.name}/file`}
          download
          aria-label={`Save ${backup.name} elsewhere`}
          onClick={(event) => {
            if (runs) return
            event.preventDefault()
            askPasscodeAgain()
          }}
          className="grid size-12 place-items-center rounded-lg hover:bg-paper"
        >
          <Download size={18} aria-hidden />
        </a>
      )}
      <Button onClick={onRestore} disabled={Boolean(backup.trouble)}>
        Restore
      </Button>
    </li>
  )
}

type SettingProps = {
  now: Schemas['BackupsOut']
  keepSetting: (setting: Schemas['BackupSettingIO']) => Promise<unknown>
}

function Setting({ now, keepSetting }: SettingProps) {
  const { attempt, wrong } = useAttempt()
  const [folder, setFolder] = useState(now.folder)
  const keep = (daily: boolean, to: string) => void attempt(() => keepSetting({ daily, folder: to }))
  return (
    <div className="mb-3">
      <label className="mb-2 flex min-h-12 items-center gap-3">
        <input
          type="checkbox"
          checked={now.daily}
          onChange={(event) => keep(event.target.checked, folder)}
          className="size-6 accent-[#14423a]"
        />
        <span>
          A copy every day{' '}
          <span className="text-quiet">{now.last ? `· last ${shortDay(now.last)}` : ''}</span>
        </span>
      </label>
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          keep(now.daily, folder)
        }}
      >
        <input
          value={folder}
          aria-label="Folder of the backups"
          onChange={(event) => setFolder(event.target.value)}
          className="h-12 min-w-0 flex-1 rounded-lg border border-rule bg-paper px-3 text-sm"
        />
        <Button type="submit" disabled={folder === now.folder}>
          Save
        </Button>
      </form>
      <p className="mt-1 text-sm text-quiet">
        Best on another disk. Each photo lies there once, however many days hold it.
      </p>
      {wrong}
    </div>
  )
}

export function sizeWords(bytes: number): string {
  return bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${(bytes / 1e6).toFixed(1)} MB`
}
