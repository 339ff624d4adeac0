import { QueryClient } from '@tanstack/react-query'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Trouble } from '../src/api/client'
import { QUERIES } from '../src/app/askedAgain'

const AN_HOUR_MS = 3_600_000

describe('a screen whose server is away', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())
  const asked = (answer: () => Promise<string>) =>
    new QueryClient({ defaultOptions: { queries: QUERIES } }).fetchQuery({
      queryKey: ['cut'],
      queryFn: answer,
    })

  it('is filled once it is back, after an hour too', async () => {
    const back = Date.now() + AN_HOUR_MS
    const answer = vi.fn(() =>
      Date.now() < back ? Promise.reject(new Trouble('away', true)) : Promise.resolve('the sheet'),
    )
    const told = asked(answer)
    await vi.advanceTimersByTimeAsync(AN_HOUR_MS + 5000)
    await expect(told).resolves.toBe('the sheet')
    expect(answer.mock.calls.length).toBeLessThan(800)
  })

  it('says at once what the server refuses', async () => {
    const answer = vi.fn(() => Promise.reject(new Trouble('no cut sheet yet', false, 422)))
    await expect(asked(answer)).rejects.toThrow('no cut sheet yet')
    expect(answer).toHaveBeenCalledTimes(1)
  })
})
