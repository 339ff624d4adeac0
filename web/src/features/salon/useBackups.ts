import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useReducer, useRef } from 'react'
import { api, type Schemas } from '../../api/client'
import { backupsReducer, isUnderWay, noBackups, type Job } from './backupsMachine'

const LOOK_MS = 400

/** Copies of the whole salon: the list, and long work followed until it is over. */
export function useBackups() {
  const queries = useQueryClient()
  const backups = useQuery({ queryKey: ['backups'], queryFn: api.backups })
  const [state, act] = useReducer(backupsReducer, noBackups)
  const { job, wanted } = state
  useFollowed(job, (now) => {
    act({ type: 'followed', job: now })
    if (!isUnderWay(now)) void queries.invalidateQueries()
  })
  const begin = async (work: Promise<Job>) => act({ type: 'begun', job: await work })
  return {
    backups,
    state,
    act,
    backUp: () => begin(api.backUp()),
    restore: () =>
      wanted ? begin(wanted.file ? api.restoreFile(wanted.file) : api.restore(wanted.name)) : undefined,
    undoRestore: async () => {
      await api.undoRestore()
      await queries.invalidateQueries()
    },
    stop: async () => {
      if (job) act({ type: 'followed', job: await api.stopJob(job.id) })
    },
    keepSetting: async (setting: Schemas['BackupSettingIO']) =>
      queries.setQueryData(['backups'], await api.putBackupSetting(setting)),
  }
}

/** Asks how a job is doing until it is over. */
function useFollowed(job: Job | null, told: (now: Job) => void) {
  const tell = useRef(told)
  useEffect(() => {
    tell.current = told
  })
  useEffect(() => {
    if (!job || !isUnderWay(job)) return
    const timer = window.setTimeout(() => {
      void api.job(job.id).then(
        (now) => tell.current(now),
        () => tell.current({ ...job }),
      )
    }, LOOK_MS)
    return () => window.clearTimeout(timer)
  }, [job])
}
