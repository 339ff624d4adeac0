import { describe, expect, it } from 'vitest'
import type { Schemas, View } from '../src/api/client'
import { beginPhone, doing, nextView, phoneReducer, type Shown } from '../src/features/phone/phoneMachine'

type Photo = NonNullable<Shown['views'][number]['photo']>
const photo = (over: Partial<Photo> = {}) =>
  ({ looked: true, findings: [], job: null, ...over }) as unknown as Photo
const file = new File(['x'], 'image.jpg')

function shown(...taken: View[]): Shown {
  const views = (['front', 'left', 'right', 'top'] as const).map((view) => ({
    view,
    photo: taken.includes(view) ? photo() : null,
  }))
  return { dog: 'Tiller', state: 'dry', view: views.find((v) => !v.photo)?.view ?? null, views }
}

describe('a phone that takes a visit’s photos', () => {
  it('takes what the salon wants next, until somebody points elsewhere', () => {
    let now = phoneReducer(beginPhone, { type: 'told', shown: shown('front') })
    expect(nextView(now)).toBe('left')
    now = phoneReducer(now, { type: 'point', view: 'front' })
    expect(nextView(now)).toBe('front')
    now = phoneReducer(phoneReducer(now, { type: 'took', file }), { type: 'brought', shown: shown('front') })
    expect(nextView(now)).toBe('left')
    expect(now.file).toBeNull()
  })

  it('keeps a photo that the salon did not get, and lets go of one it would not take', () => {
    const sending = phoneReducer(phoneReducer(beginPhone, { type: 'told', shown: shown() }), {
      type: 'took',
      file,
    })
    const away = phoneReducer(sending, { type: 'refused', reason: 'away', over: false, keep: true })
    expect([away.file, away.sending, away.reason]).toEqual([file, false, 'away'])
    // What it hears meanwhile does not hide that a photo waits.
    expect(phoneReducer(away, { type: 'told', shown: shown() }).reason).toBe('away')
    expect(phoneReducer(away, { type: 'again' }).sending).toBe(true)
    const bad = phoneReducer(sending, { type: 'refused', reason: 'no photo', over: false, keep: false })
    expect(bad.file).toBeNull()
  })

  it('does not change the slot under a photo that is on its way', () => {
    const sending = phoneReducer(phoneReducer(beginPhone, { type: 'told', shown: shown() }), {
      type: 'took',
      file,
    })
    expect(phoneReducer(sending, { type: 'point', view: 'top' })).toBe(sending)
  })

  it('says how each photo is doing', () => {
    const one = (over: Partial<Photo> | null) => doing({ view: 'front', photo: over && photo(over) })
    expect(one(null)).toBe('missing')
    expect(one({ looked: false })).toBe('looking')
    expect(one({ job: { kind: 'working' } as Schemas['JobOut'] })).toBe('looking')
    expect(one({})).toBe('fine')
    expect(one({ findings: [{ code: 'blur', message: 'Front: blurred', view: null }] })).toBe('again')
  })
})
