import { describe, expect, it } from 'vitest'
import { inTurn } from '../src/ui/inTurn'

const later = <T>(value: T, ms = 5) => new Promise<T>((done) => setTimeout(() => done(value), ms))

describe('work in turn', () => {
  it('never runs more at once than allowed, and finishes all in order of asking', async () => {
    const turn = inTurn(2)
    let [now, most] = [0, 0]
    const work = (n: number) =>
      turn(async () => {
        now += 1
        most = Math.max(most, now)
        await later(n)
        now -= 1
        return n
      })
    expect(await Promise.all([1, 2, 3, 4, 5].map(work))).toEqual([1, 2, 3, 4, 5])
    expect(most).toBe(2)
  })

  it('goes on after work that fails', async () => {
    const turn = inTurn(1)
    const broken = turn(() => Promise.reject(new Error('no')))
    const whole = turn(() => later('yes'))
    await expect(broken).rejects.toThrow('no')
    expect(await whole).toBe('yes')
  })

  it('skips what is no longer wanted', async () => {
    const turn = inTurn(1)
    const stop = new AbortController()
    let ran = false
    const first = turn(() => later('first'))
    const second = turn(() => {
      ran = true
      return later('second')
    }, stop.signal)
    stop.abort()
    expect(await first).toBe('first')
    await expect(second).rejects.toBeDefined()
    expect(ran).toBe(false)
  })
})
