import { useQuery } from '@tanstack/react-query'
import { useEffect, useReducer } from 'react'
import { api, Trouble, type State } from '../../api/client'
import { beginPhone, nextView, phoneReducer } from './phoneMachine'

const ASKED_EVERY_MS = 2000
const GONE = 404

/** One phone with its code: what is wanted, and photos on their way. */
export function usePhone(token: string) {
  const [now, act] = useReducer(phoneReducer, beginPhone)
  const told = useQuery({
    queryKey: ['phone', token],
    queryFn: () => api.phone(token),
    refetchInterval: ASKED_EVERY_MS,
    // With a photo in hand it goes on asking: the code is good again once the tablet shows it.
    enabled: !now.over || now.file !== null,
  })
  useEffect(() => {
    if (told.data) act({ type: 'told', shown: told.data })
  }, [told.data])
  useEffect(() => {
    if (told.failureReason) act(refusal(told.failureReason))
  }, [told.failureReason])

  async function bring(file: File) {
    try {
      act({ type: 'brought', shown: await api.bringPhoto(token, file, nextView(now)) })
    } catch (error) {
      act(refusal(error as Error))
    }
  }
  return {
    now,
    point: (view: ReturnType<typeof nextView>) => act({ type: 'point', view }),
    take: (file: File) => {
      act({ type: 'took', file })
      void bring(file)
    },
    again: () => {
      if (!now.file) return
      act({ type: 'again' })
      void bring(now.file)
    },
    turn: async (state: State) => {
      try {
        act({ type: 'told', shown: await api.turnPhone(token, state) })
      } catch (error) {
        act(refusal(error as Error))
      }
    },
  }
}

/** A photo that the salon did not get is kept; one it would not take is not. */
function refusal(error: Error) {
  const status = error instanceof Trouble ? error.status : 0
  const away = error instanceof Trouble && error.away
  const over = status === GONE
  return { type: 'refused', reason: error.message, over, keep: away || over } as const
}
