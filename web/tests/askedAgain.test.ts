import { QueryClient } from '@tanstack/react-query'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Trouble } from '../src/api/client'
import { QUERIES, untilBack } from '../src/app/askedAgain'

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

describe('a press whose answer was lost', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())
  const away = () => Promise.reject<string>(new Trouble('away', true))

  it('is done again once the server is back', async () => {
    const ask = vi.fn(away).mockImplementationOnce(away).mockImplementationOnce(away)
    ask.mockImplementationOnce(away).mockImplementationOnce(() => Promise.resolve('ended'))
    const told: string[] = []
    const done = untilBack(
      ask,
      () => true,
      (trouble) => told.push(trouble.message),
    )
    await vi.advanceTimersByTimeAsync(30_000)
    await expect(done).resolves.toBe('ended')
    expect(told).toEqual(['away', 'away', 'away'])
  })

  it('is given up with the screen that it was pressed on, and never where it was refused', async () => {
    let here = true
    const ask = vi.fn(away)
    const left = expect(
      untilBack(
        ask,
        () => here,
        () => undefined,
      ),
    ).rejects.toThrow('away')
    here = false
    await vi.advanceTimersByTimeAsync(30_000)
    await left
    expect(ask.mock.calls.length).toBeLessThanOrEqual(2)
    const refused = vi.fn(() => Promise.reject<string>(new Trouble('no outline', false, 422)))
    await expect(
      untilBack(
        refused,
        () => true,
        () => undefined,
      ),
    ).rejects.toThrow('no outline')
    expect(refused).toHaveBeenCalledTimes(1)
  })
})
