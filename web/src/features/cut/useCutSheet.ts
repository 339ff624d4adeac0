import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api, type Dog, type Schemas } from '../../api/client'
import { untilBack } from '../../app/askedAgain'
import { putAnswer } from '../../shared/answers'

type Cut = Schemas['CutOut']

export const useCutSheet = (dog: Dog) =>
  useQuery({ queryKey: ['cut', dog.id], queryFn: () => api.cut(dog.id) })

/** The cut begun, rebuilt, ended or taken up again; `changed` says whether it is shown at the table then. */
export function useCutChanges(dog: Dog, changed: (atTable: boolean) => void) {
  const queries = useQueryClient()
  const [wrong, setWrong] = useState('')
  const here = useRef(true)
  useEffect(() => {
    here.current = true
    return () => void (here.current = false)
  }, [])
  // Each may be done twice: the server goes on with what it has.
  async function change(ask: () => Promise<Cut>, atTable: boolean) {
    try {
      const now = await untilBack(
        ask,
        () => here.current,
        (trouble) => setWrong(trouble.message),
      )
      putAnswer(queries, ['cut', dog.id], now)
      setWrong('')
      changed(atTable)
      await queries.invalidateQueries({ queryKey: ['dog', dog.id] })
    } catch (error) {
      setWrong((error as Error).message)
    }
  }
  return {
    wrong,
    start: () => void change(() => api.startCut(dog.id, false), true),
    rebuild: (atTable: boolean) => void change(() => api.startCut(dog.id, true), atTable),
    end: (stoppedAfter: string | null) => void change(() => api.endCut(dog.id, stoppedAfter), false),
    goOn: () => void change(() => api.takeUpCut(dog.id), true),
  }
}
