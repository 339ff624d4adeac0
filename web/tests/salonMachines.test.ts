import { describe, expect, it } from 'vitest'
import { codeReducer, noCode, type CodeAction } from '../src/features/entrance/codeMachine'
import {
  backupsReducer,
  endWords,
  isUnderWay,
  noBackups,
  type BackupsAction,
  type Job,
} from '../src/features/salon/backupsMachine'

const job = (id: number, kind: Job['kind'], result: Job['result'] = null): Job => ({
  id,
  kind,
  what: 'a backup',
  words: 'copying the records',
  share: 0.5,
  result,
})
const wanted = { name: 'a.zip', file: null }
const backups = (...actions: BackupsAction[]) => actions.reduce(backupsReducer, noBackups)

describe('backups', () => {
  it('ask before anything is restored, and forget the question once it is begun or cancelled', () => {
    expect(backups({ type: 'want', wanted }).wanted).toBe(wanted)
    expect(backups({ type: 'want', wanted }, { type: 'cancel' })).toEqual(noBackups)
    expect(backups({ type: 'want', wanted }, { type: 'begun', job: job(1, 'working') }).wanted).toBeNull()
  })

  it('ask for nothing more while a job is under way', () => {
    const working = backups({ type: 'begun', job: job(1, 'working') })
    expect(backupsReducer(working, { type: 'want', wanted })).toBe(working)
    const done = backupsReducer(working, { type: 'followed', job: job(1, 'done') })
    expect(backupsReducer(done, { type: 'want', wanted }).wanted).toBe(wanted)
  })

  it('pass over what is told late of an earlier job', () => {
    const second = backups(
      { type: 'begun', job: job(1, 'working') },
      { type: 'begun', job: job(2, 'working') },
    )
    expect(backupsReducer(second, { type: 'followed', job: job(1, 'done') })).toBe(second)
  })

  it('say how it ended, and whose photo is missing', () => {
    expect(endWords(job(1, 'failed'))).toBe('copying the records')
    expect(endWords(job(1, 'done', { name: 'b.zip' }))).toBe('b.zip is written, read back and checked.')
    expect(endWords(job(1, 'done', { missing: ['Fogbell: IMG.jpg'] }))).toBe(
      'Restored. Without 1 whose file is gone: Fogbell: IMG.jpg.',
    )
    expect([job(1, 'waiting'), job(1, 'stopped'), null].map(isUnderWay)).toEqual([true, false, false])
  })
})

describe('a passcode being typed', () => {
  const code = (...actions: CodeAction[]) => actions.reduce(codeReducer, noCode)

  it('is emptied with the reason when it was refused, and asked for anew without it', () => {
    const refused = code({ type: 'ask' }, { type: 'type', code: '123' }, { type: 'refused', reason: 'no' })
    expect(refused).toEqual({ open: true, code: '', wrong: 'no' })
    expect(codeReducer(refused, { type: 'ask' })).toEqual({ open: true, code: '', wrong: '' })
    expect(codeReducer(refused, { type: 'close' })).toEqual(noCode)
  })
})
