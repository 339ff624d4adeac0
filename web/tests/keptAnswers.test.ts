import { describe, expect, it } from 'vitest'
import { isKept, KEPT_AT, markedAsKept } from '../src/kept/keptAnswers'

describe('what a tablet keeps for when the salon is away', () => {
  it.each([
    '/api/today',
    '/api/dogs/3',
    '/api/dogs/3/cut',
    '/api/pictures/ab12',
    '/api/kit',
    '/api/entrance',
  ])('keeps %s', (path) => expect(isKept(path)).toBe(true))
  it.each([
    '/api/jobs/3',
    '/api/phone/abc',
    '/api/backups',
    '/api/trust',
    '/api/practice/people',
    '/api/camera/guide',
  ])('keeps nothing of %s', (path) => expect(isKept(path)).toBe(false))
  it('marks a kept answer with when it was given, and changes nothing else', async () => {
    const given = new Response('{"a":1}', { headers: { date: 'Thu, 05 Mar 2026 09:00:00 GMT', etag: '"v"' } })
    const kept = markedAsKept(given)
    expect(kept.headers.get(KEPT_AT)).toBe('Thu, 05 Mar 2026 09:00:00 GMT')
    expect(kept.headers.get('etag')).toBe('"v"')
    expect(await kept.text()).toBe('{"a":1}')
  })
})
